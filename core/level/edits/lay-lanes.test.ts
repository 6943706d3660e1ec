import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  addThing,
  addThings,
  assertEdited,
  assertReferences,
  blankLevel,
  changeSettings,
  changeStops,
  changeThings,
  clipOf,
  driveOn,
  haltSchema,
  lockedBy,
  movePlaces,
  pasted,
  readLevel,
  removeThings,
  retargetStop,
  roadSchema,
  setThings,
  takeApart,
  type Level,
  type Road,
} from '..'

type P = [number, number, number]
const BEND: P[] = [
  [10, 20, 0],
  [40, 20, 1],
  [60, 40, 2],
]

function withRoad(given: Partial<Road> = {}, level: Level = blankLevel('Roads', 200, 200)): Level {
  const thing = roadSchema.parse({ name: 'Quay street', points: BEND, ...given })
  const { level: next, patch } = addThing.apply(level, { in: 'roads', id: 'rd_one', thing })
  assertEdited(next, patch)
  assertReferences(next)
  return next
}

const laneOf = (level: Level, key: string, roadId = 'rd_one') => {
  const id = level.roads[roadId].lanes.find((l) => l.key === key)?.laneId
  return id ? { id, ...level.routes[id] } : undefined
}
const placesOf = (level: Level, key: string, roadId?: string): P[] => {
  const lane = laneOf(level, key, roadId)!
  return lane.order.map((s) => level.waypoints[lane.stops[s].waypointId].at)
}
/** Nearest distance to a polyline, walked finely, and on which side of it. */
function besides(place: P, line: readonly P[]): number {
  let best = Infinity
  let side = 1
  for (let k = 1; k < line.length; k++)
    for (let t = 0; t <= 1; t += 0.005) {
      const x = line[k - 1][0] + (line[k][0] - line[k - 1][0]) * t
      const y = line[k - 1][1] + (line[k][1] - line[k - 1][1]) * t
      const m = Math.hypot(place[0] - x, place[1] - y)
      if (m >= best) continue
      best = m
      const [ux, uy] = [line[k][0] - line[k - 1][0], line[k][1] - line[k - 1][1]]
      side = Math.sign(ux * (place[1] - line[k - 1][1]) - uy * (place[0] - line[k - 1][0])) || 1
    }
  return side * best
}

describe('a road', () => {
  it('lays its lanes side by side, on the side one drives on, those back the other way', () => {
    const level = withRoad({ ahead: 2, back: 1, laneM: 3, medianM: 1, pavementLeftM: 2, curve: 'straight' })
    expect(level.settings.drivesOn).toBe('left')
    const at = (key: string) => placesOf(level, key).map((p) => besides(p, BEND))
    for (const m of at('a1').slice(0, 1)) expect(m).toBeCloseTo(2, 3)
    for (const m of at('a2').slice(0, 1)) expect(m).toBeCloseTo(5, 3)
    expect(at('b1').at(-1)).toBeCloseTo(-2, 3)
    expect(at('pl')[0]).toBeCloseTo(7.5, 3)
    // The one begins where the road does, the other where it ends.
    expect(placesOf(level, 'a1')[0][0]).toBeCloseTo(10, 3)
    expect(Math.hypot(placesOf(level, 'b1')[0][0] - 60, placesOf(level, 'b1')[0][1] - 40)).toBeCloseTo(2, 3)
    expect(laneOf(level, 'pl')).toMatchObject({ use: 'walk', travel: 'there-and-back', widthM: 2, kind: 'lane' })
    expect(laneOf(level, 'a1')).toMatchObject({
      use: 'drive',
      travel: 'one-way',
      widthM: 3,
      name: 'Quay street ahead 1',
    })
  })

  it('one way only has its lanes about its middle', () => {
    const level = withRoad({ ahead: 2, back: 0, laneM: 3, curve: 'straight' })
    expect(besides(placesOf(level, 'a1')[0], BEND)).toBeCloseTo(-1.5, 3)
    expect(besides(placesOf(level, 'a2')[0], BEND)).toBeCloseTo(1.5, 3)
  })

  it('keeps its lanes at their distance through smooth bends', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -0.5, max: 0.5, noNaN: true }), { minLength: 2, maxLength: 6 }),
        fc.integer({ min: 1, max: 3 }),
        (turns, lanes) => {
          let [x, y, rad] = [50, 50, 0]
          const points: P[] = [[x, y, 0]]
          for (const turn of turns) {
            rad += turn
            ;[x, y] = [x + 40 * Math.cos(rad), y + 40 * Math.sin(rad)]
            points.push([x, y, 0])
          }
          const level = withRoad({ points, ahead: lanes, back: lanes, laneM: 3 })
          // A road of one lane only is its own middle.
          const middle = placesOf(withRoad({ points, ahead: 1, back: 0, laneM: 3 }), 'a1')
          expect(middle.length).toBeGreaterThanOrEqual(points.length)
          for (let k = 1; k <= lanes; k++)
            for (const place of placesOf(level, `a${k}`)) {
              // Measured against the places of the middle joined by straight lines.
              const m = besides(place, middle)
              expect(Math.abs(m - 3 * (k - 0.5))).toBeLessThan(0.2)
            }
        },
      ),
      { numRuns: 25 },
    )
  })

  it('lays them anew with every edit, which keep their ids, ends and names of their own', () => {
    const level = withRoad({ ahead: 1, back: 1 })
    const before = laneOf(level, 'a1')!
    const [start, end] = [before.stops[before.order[0]].waypointId, before.stops[before.order.at(-1)!].waypointId]
    const own = changeThings.apply(level, {
      in: 'routes',
      changes: { [laneOf(level, 'b1')!.id]: { name: 'Homewards' } },
    }).level
    const wider: P[] = [BEND[0], [30, 60, 0], [70, 80, 0], [90, 20, 0]]
    const result = changeThings.apply(own, {
      in: 'roads',
      changes: { rd_one: { points: wider, name: 'Mill street', speedLimitMps: 9 } },
    })
    const after = laneOf(result.level, 'a1')!
    expect(after.id).toBe(before.id)
    expect(after.stops[after.order[0]].waypointId).toBe(start)
    expect(after.stops[after.order.at(-1)!].waypointId).toBe(end)
    expect(after.name).toBe('Mill street ahead 1')
    expect(laneOf(result.level, 'b1')!.name).toBe('Homewards')
    expect(after.speedLimitMps).toBe(9)
    assertEdited(result.level, result.patch)
    assertReferences(result.level)
    // A limit of its own stays until that of the road is changed.
    const slow = changeThings.apply(result.level, { in: 'routes', changes: { [after.id]: { speedLimitMps: 5 } } }).level
    const moved = changeThings.apply(slow, { in: 'roads', changes: { rd_one: { laneM: 4 } } }).level
    expect(moved.routes[after.id]).toMatchObject({ speedLimitMps: 5, widthM: 4 })
    const noChange = [{ fromM: 0, toM: 20, side: 'left' as const }]
    const kept = changeThings.apply(moved, { in: 'routes', changes: { [after.id]: { noChange } } }).level
    expect(changeThings.apply(kept, { in: 'roads', changes: { rd_one: { laneM: 3 } } }).level.routes[after.id].noChange).toEqual(noChange) // prettier-ignore
  })

  it('is laid the same however often, and an edit of it is undone whole', () => {
    const level = withRoad({ ahead: 2, back: 2, pavementLeftM: 1.5, pavementRightM: 1.5 })
    const nothing = changeThings.apply(level, { in: 'roads', changes: { rd_one: { note: 'x' } } })
    expect(nothing.patch.map((op) => op.path)).toEqual(['/roads/rd_one/note'])
    const less = changeThings.apply(level, { in: 'roads', changes: { rd_one: { ahead: 1, pavementLeftM: 0 } } })
    expect(Object.keys(less.level.routes)).toHaveLength(4)
    assertReferences(less.level)
    const again = changeThings.apply(less.level, { in: 'roads', changes: { rd_one: { ahead: 2, pavementLeftM: 1.5 } } })
    expect(Object.keys(again.level.routes)).toHaveLength(6)
  })

  it('keeps a lane it has no more when somebody follows it, and lets the others go', () => {
    const level = withRoad({ ahead: 2, back: 0 })
    const [first, second] = ['a1', 'a2'].map((k) => laneOf(level, k)!.id)
    const junction = {
      name: 'J',
      ring: [
        [0, 0],
        [1, 0],
        [1, 1],
      ],
      laneIds: [second],
    }
    const held = readLevel({ ...level, junctions: { jn_a: junction } })
    const fewer = { in: 'roads', changes: { rd_one: { ahead: 1 } } } as const
    expect(Object.keys(changeThings.apply(held, fewer).level.routes).sort()).toEqual([first, second].sort())
    expect(Object.keys(changeThings.apply(level, fewer).level.routes)).toEqual([first])
  })

  it('driven on the other side have their parking places at the other kerb', () => {
    const laid = addThing.apply(blankLevel('Kerb'), { in: 'roads', id: 'rd_a', thing: roadSchema.parse({ name: 'A', points: [[0, 0, 0], [90, 0, 0]] }) }).level // prettier-ignore
    const id = laid.roads.rd_a.lanes[0].laneId!
    const halts = [haltSchema.parse({ where: 'left', fromM: 10, toM: 40 }), haltSchema.parse({ fromM: 50, toM: 60 })]
    const level = changeThings.apply(laid, { in: 'routes', changes: { [id]: { halts } } }).level
    const other = driveOn.apply(level, { side: 'right' }).level
    expect(other.routes[id].halts.map((h) => h.where)).toEqual(['right', 'on'])
    expect(driveOn.apply(other, { side: 'left' }).level.routes[id].halts).toEqual(halts)
    // Said once more it is what it was.
    expect(driveOn.apply(level, { side: 'left' }).level.routes[id].halts).toEqual(halts)
  })

  it('changes its lanes over when one drives on the other side, which go on leading where they did', () => {
    const level = withRoad({ ahead: 1, back: 1, curve: 'straight' })
    const other = driveOn.apply(level, { side: 'right' })
    expect(lockedBy(level, other.patch)).toBeUndefined()
    expect(besides(placesOf(other.level, 'a1')[0], BEND)).toBeCloseTo(-1.625, 3)
    expect(placesOf(other.level, 'a1')[0][0]).toBeCloseTo(10, 3)
    expect(Object.keys(other.level.routes)).toEqual(Object.keys(level.routes))
    expect(driveOn.apply(other.level, { side: 'left' }).level.waypoints).toEqual(level.waypoints)
    // The setting alone leaves them where they are: only the edit that is meant for it moves them.
    expect(changeSettings.apply(level, { set: { seed: 3 } }).level.waypoints).toBe(level.waypoints)
  })

  it('takes its lanes with it when it goes, and leaves them when it is taken apart', () => {
    const level = withRoad()
    const gone = removeThings.apply(level, { ids: ['rd_one'] }).level
    expect([gone.roads, gone.routes, gone.waypoints]).toEqual([{}, {}, {}])
    const apart = takeApart.apply(level, { roadId: 'rd_one' }).level
    expect(apart.roads).toEqual({})
    expect(apart.routes).toBe(level.routes)
  })

  it('goes on without a lane that is deleted by itself', () => {
    const level = withRoad({ ahead: 2 })
    const less = removeThings.apply(level, { ids: [laneOf(level, 'a2')!.id] }).level
    assertReferences(less)
    const moved = changeThings.apply(less, { in: 'roads', changes: { rd_one: { laneM: 4 } } }).level
    expect(laneOf(moved, 'a2')).toBeUndefined()
    expect(Object.keys(moved.routes)).toHaveLength(2)
  })

  it('is copied with lanes of its own', () => {
    const level = withRoad()
    let n = 0
    const things = pasted(
      level,
      clipOf(level, ['rd_one']),
      [0, 50],
      (kind) => `${kind === 'waypoints' ? 'wp' : kind === 'stops' ? 'st' : kind === 'routes' ? 'rt' : 'rd'}_n${n++}`,
    )
    const both = addThings.apply(level, { things }).level
    assertReferences(both)
    expect(Object.keys(both.roads)).toHaveLength(2)
    expect(Object.keys(both.routes)).toHaveLength(4)
    const copyId = Object.keys(both.roads).find((id) => id !== 'rd_one')!
    const moved = changeThings.apply(both, { in: 'roads', changes: { [copyId]: { laneM: 5 } } }).level
    expect(placesOf(moved, 'a1')).toEqual(placesOf(level, 'a1'))
    expect(placesOf(moved, 'a1', copyId)).not.toEqual(placesOf(both, 'a1', copyId))
  })

  it('alone says where its lanes lie', () => {
    const level = withRoad()
    const lane = laneOf(level, 'a1')!
    const { waypointId } = lane.stops[lane.order[0]]
    const moved = movePlaces.apply(level, { places: { [waypointId]: [0, 0, 0] } })
    expect(lockedBy(level, moved.patch)).toEqual({ in: 'roads', id: 'rd_one', lays: true })
    const turned = changeThings.apply(level, { in: 'routes', changes: { [lane.id]: { widthM: 9 } } })
    expect(lockedBy(level, turned.patch)).toEqual({ in: 'roads', id: 'rd_one', lays: true })
    const elsewhere = { routeId: lane.id, stopId: lane.order[0], waypointId: lane.stops[lane.order[1]].waypointId }
    expect(lockedBy(level, retargetStop.apply(level, elsewhere).patch)).toMatchObject({ lays: true })
    const told = changeStops.apply(level, { stops: { [lane.id]: [lane.order[0]] }, set: { arrivalRadiusM: 2 } })
    expect(lockedBy(level, told.patch)).toBeUndefined()
    const free = changeThings.apply(level, { in: 'routes', changes: { [lane.id]: { speedLimitMps: 9 } } })
    expect(lockedBy(level, free.patch)).toBeUndefined()
    const road = setThings.apply(level, { things: [{ in: 'roads', id: 'rd_one', set: { points: BEND.slice(1) } }] })
    expect(lockedBy(level, road.patch)).toBeUndefined()
    const locked = changeThings.apply(level, { in: 'roads', changes: { rd_one: { locked: true } } }).level
    expect(lockedBy(locked, road.patch)).toEqual({ in: 'roads', id: 'rd_one' })
  })

  it('of any shape, however often it is changed, holds only what it may', () => {
    const place = fc
      .tuple(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 0, max: 100 }))
      .map(([x, y]): P => [x, y, 0])
    const shape = fc.record({
      points: fc.array(place, { minLength: 2, maxLength: 6 }),
      ahead: fc.integer({ min: 0, max: 3 }),
      back: fc.integer({ min: 0, max: 3 }),
      curve: fc.constantFrom('straight' as const, 'smooth' as const),
      pavementLeftM: fc.constantFrom(0, 2),
    })
    fc.assert(
      fc.property(fc.array(shape, { minLength: 1, maxLength: 4 }), (shapes) => {
        let level = withRoad()
        for (const set of shapes) {
          const result = changeThings.apply(level, { in: 'roads', changes: { rd_one: set } })
          assertEdited(result.level, result.patch)
          level = result.level
        }
        readLevel(JSON.parse(JSON.stringify(level)))
        const { ahead, back, pavementLeftM } = shapes.at(-1)!
        expect(Object.keys(level.routes)).toHaveLength(ahead + back + (pavementLeftM > 0 ? 1 : 0))
        const used = Object.values(level.routes).flatMap((r) => r.order.map((s) => r.stops[s].waypointId))
        expect(Object.keys(level.waypoints).sort()).toEqual(used.sort())
      }),
      { numRuns: 60 },
    )
  })
})

describe('the lanes of a track', () => {
  const laid = (road: object) =>
    addThing.apply(blankLevel('Track'), { in: 'roads', id: 'rd_a', thing: roadSchema.parse({ name: 'A', points: [[0, 50, 0], [200, 50, 0]], track: true, ...road }) }).level // prettier-ignore
  const asides = (level: Level, key: string) => {
    const route = level.routes[level.roads.rd_a.lanes.find((l) => l.key === key)!.laneId!]
    return route.order.map((s) => {
      const [x, y] = level.waypoints[route.stops[s].waypointId].at
      return [x, Math.round((y - 50) * 1000) / 1000] as const
    })
  }

  it('are one but at its ends and passing places, where they lie beside each other', () => {
    const level = laid({ passing: [{ fromM: 90, toM: 120 }] })
    for (const [x, aside] of asides(level, 'a1')) {
      const wide = Math.max(20 - x, x - 180, Math.min(x - 90, 120 - x)) >= 0
      const narrow = Math.min(x - 30, 170 - x) >= 0 && (x <= 80 || x >= 130)
      if (wide) expect(aside).toBe(1.625)
      else if (narrow) expect(aside).toBe(0)
      else expect(Math.abs(aside - 0.8125)).toBeLessThan(0.8126)
    }
    const back = asides(level, 'b1').reverse()
    expect(back).toHaveLength(asides(level, 'a1').length)
    asides(level, 'a1').forEach(([x, aside], k) => {
      expect(back[k][0]).toBeCloseTo(x, 2)
      expect(back[k][1]).toBeCloseTo(-aside, 2)
    })
  })

  it('are one each way whatever number is said, and lie apart all along where it is too short to narrow', () => {
    const level = laid({ ahead: 3, back: 0, medianM: 4 })
    expect(level.roads.rd_a.lanes.map((l) => l.key)).toEqual(['a1', 'b1'])
    const short = laid({ points: [[0, 50, 0], [45, 50, 0]] }) // prettier-ignore
    for (const [, aside] of asides(short, 'a1')) expect(aside).toBeGreaterThan(0.8)
  })

  it('come back as they were when it is a road again', () => {
    const road = laid({ track: false })
    const track = changeThings.apply(road, { in: 'roads', changes: { rd_a: { track: true } } }).level
    const again = changeThings.apply(track, { in: 'roads', changes: { rd_a: { track: false } } }).level
    expect(again).toEqual(road)
  })
})
