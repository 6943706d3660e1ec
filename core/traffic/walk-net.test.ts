import fc from 'fast-check'
import { distance2, type Point3 } from '@tidytrail/core/geometry'
import { blankLevel, levelSchema, type Level } from '@tidytrail/core/level'
import { describe, expect, it } from 'vitest'
import { crossingOver, crossingsOf, laneNet, nearestWalk, suggestWalkJoins, walkAlong, walkNet, walksFrom } from '.'

type Line = readonly (readonly [number, number])[]
/** A level with lanes by name, each of stops in a row; `drive` for those whose name begins with d. */
function withLanes(lines: Record<string, Line>, more: Record<string, object> = {}, links: object = {}): Level {
  const waypoints: Record<string, unknown> = {}
  const routes: Record<string, unknown> = {}
  for (const [name, line] of Object.entries(lines)) {
    const stops: Record<string, unknown> = {}
    line.forEach(([x, y], k) => {
      waypoints[`wp_${name}${k}`] = { at: [x, y, 0] }
      stops[`st_${name}${k}`] = { waypointId: `wp_${name}${k}` }
    })
    const use = name.startsWith('d') ? 'drive' : 'walk'
    routes[`rt_${name}`] = { name, kind: 'lane', use, legs: 'drawn', widthM: use === 'drive' ? 3 : 2, stops, order: Object.keys(stops), ...more[name] } // prettier-ignore
  }
  return levelSchema.parse({ ...blankLevel('Lanes', 200, 200), waypoints, routes, links })
}
const anybody = () => true
const lengthBetween = (level: Level, from: readonly [string, number], to: readonly [string, number]) => {
  const net = walkNet(level)
  const tree = walksFrom(net, { laneId: from[0], m: from[1] }, anybody)
  return walkAlong(net, tree, { laneId: to[0], m: to[1] })
}

describe('ways along lanes for walking', () => {
  const ring: Record<string, Line> = {
    a: [[10, 10], [60, 10]], // prettier-ignore
    b: [[60, 10.4], [60, 50]], // prettier-ignore
    c: [[30, 10], [30, 40]], // prettier-ignore
  }

  it('lead from one lane to another where one ends on it', () => {
    const way = lengthBetween(withLanes(ring), ['rt_c', 30], ['rt_a', 0])
    expect(way?.lengthM).toBeCloseTo(50, 6)
    expect(way?.points.map(({ at }) => [at[0], at[1]])).toEqual([[30, 40], [30, 10], [10, 10]]) // prettier-ignore
    // From the end of a to that of b it is 0.4 m, and 39.6 m along b.
    expect(lengthBetween(withLanes(ring), ['rt_a', 50], ['rt_b', 39.6])?.lengthM).toBeCloseTo(40, 6)
  })

  it('are as wide as the narrower of two lanes where one is left for the other', () => {
    const way = lengthBetween(withLanes(ring, { c: { widthM: 5 } }), ['rt_c', 30], ['rt_a', 0])
    expect(way?.points.map((p) => p.widthM)).toEqual([5, 2, 2])
  })

  it('are not found where nothing joins them, nor over lanes one may not use', () => {
    const level = withLanes({ ...ring, z: [[150, 150], [190, 150]] }) // prettier-ignore
    expect(lengthBetween(level, ['rt_a', 0], ['rt_z', 5])).toBeUndefined()
    const net = walkNet(level)
    const tree = walksFrom(net, { laneId: 'rt_c', m: 30 }, (lane) => lane.id !== 'rt_a')
    expect(walkAlong(net, tree, { laneId: 'rt_b', m: 5 })).toBeUndefined()
  })

  it('lead over links, one way where the link does', () => {
    const apart: Record<string, Line> = { a: [[10, 10], [60, 10]], b: [[80, 10], [120, 10]] } // prettier-ignore
    const link = (twoWay: boolean) => ({ ln_x: { fromId: 'wp_a1', toId: 'wp_b0', twoWay } })
    const there = (twoWay: boolean) => lengthBetween(withLanes(apart, {}, link(twoWay)), ['rt_a', 0], ['rt_b', 40])
    const back = (twoWay: boolean) => lengthBetween(withLanes(apart, {}, link(twoWay)), ['rt_b', 40], ['rt_a', 0])
    expect(there(true)?.lengthM).toBeCloseTo(110, 6)
    expect(there(false)?.lengthM).toBeCloseTo(110, 6)
    expect(back(true)?.lengthM).toBeCloseTo(110, 6)
    expect(back(false)).toBeUndefined()
  })

  it('lead along a lane from one place of it to another, though a link leads there too', () => {
    const bent: Record<string, Line> = { a: [[10, 10], [60, 10], [60, 40], [10, 40]] } // prettier-ignore
    const way = lengthBetween(withLanes(bent, {}, { ln_x: { fromId: 'wp_a0', toId: 'wp_a3', twoWay: true } }), ['rt_a', 0], ['rt_a', 130]) // prettier-ignore
    expect(way?.lengthM).toBeCloseTo(130, 6)
    expect(drawn(way!.points.map((p) => p.at))).toBeCloseTo(130, 6)
  })

  it('go the shorter way round a lane that closes', () => {
    const level = withLanes({ a: [[50, 50], [90, 50], [90, 90], [50, 90]] }, { a: { travel: 'round', curve: 'straight' } }) // prettier-ignore
    // Along 160 m of ring: from 10 m to 150 m it is 20 m over its beginning.
    const way = lengthBetween(level, ['rt_a', 10], ['rt_a', 150])
    expect(way?.lengthM).toBeCloseTo(20, 6)
    expect(way?.points[0].at[0]).toBeCloseTo(60, 6)
    expect(way?.points.at(-1)!.at[1]).toBeCloseTo(60, 6)
  })

  it('are as short as every way that is tried one after the other', () => {
    const place = fc.tuple(fc.integer({ min: 0, max: 6 }), fc.integer({ min: 0, max: 6 }))
    fc.assert(
      fc.property(fc.array(fc.tuple(place, place), { minLength: 2, maxLength: 9 }), (pairs) => {
        const lines: Record<string, Line> = {}
        pairs.forEach(([[ax, ay], [bx, by]], k) => {
          if (ax !== bx || ay !== by) lines[`w${k}`] = [[20 * ax + 5, 20 * ay + 5], [20 * bx + 5, 20 * by + 5]] // prettier-ignore
        })
        const ids = Object.keys(lines)
        fc.pre(ids.length > 1)
        const level = withLanes(lines)
        const net = walkNet(level)
        const [from, to] = [{ laneId: `rt_${ids[0]}`, m: 0 }, { laneId: `rt_${ids.at(-1)!}`, m: 1 }] // prettier-ignore
        const way = walkAlong(net, walksFrom(net, from, anybody), to)
        const slow = slowest(net, from, to)
        expect(way?.lengthM ?? Infinity).toBeCloseTo(slow, 6)
        // What is drawn is as long as what is told.
        if (way) expect(drawn(way.points.map((p) => p.at))).toBeCloseTo(way.lengthM, 3)
      }),
      { numRuns: 60 },
    )
  })
})

const drawn = (line: readonly Point3[]) => line.slice(1).reduce((sum, p, k) => sum + distance2(line[k], p), 0)

/** The shortest way by going over all nodes until nothing gets shorter (Bellman 1958). */
function slowest(net: ReturnType<typeof walkNet>, from: { laneId: string; m: number }, to: typeof from): number {
  const far = net.nodes.map((n) => (n.laneId === from.laneId ? Math.abs(n.m - from.m) : Infinity))
  for (let round = 0; round < net.nodes.length; round++)
    net.ways.forEach((ways, k) => ways.forEach((w) => (far[w.to] = Math.min(far[w.to], far[k] + w.lengthM))))
  const ends = net.nodes.map((n, k) => (n.laneId === to.laneId ? far[k] + Math.abs(n.m - to.m) : Infinity))
  return Math.min(...ends, from.laneId === to.laneId ? Math.abs(to.m - from.m) : Infinity)
}

it('the place on the lanes nearest to somebody is one they may use', () => {
  const net = walkNet(withLanes({ a: [[0, 10], [100, 10]], b: [[0, 20], [100, 20]] })) // prettier-ignore
  expect(nearestWalk(net, [30, 13, 0], anybody)).toEqual({ laneId: 'rt_a', m: 30 })
  expect(nearestWalk(net, [30, 13, 0], (lane) => lane.id !== 'rt_a')).toEqual({ laneId: 'rt_b', m: 30 })
  expect(nearestWalk(net, [30, 13, 0], () => false)).toBeUndefined()
})

describe('crossings', () => {
  const over = (lines: Record<string, Line>, more: Record<string, object> = {}) => {
    const level = withLanes(lines, more)
    return crossingsOf(level, walkNet(level), laneNet(level))
  }
  const road: Record<string, Line> = { d1: [[0, 50], [100, 50]], d2: [[100, 53], [0, 53]] } // prettier-ignore

  it('lead from kerb to kerb over lanes side by side, and say on which stretch of each they lie', () => {
    const [one, ...others] = over({ ...road, w: [[40, 40], [40, 70]] }) // prettier-ignore
    expect(others).toEqual([])
    // From half a width before the first lane to half a width beyond the second.
    expect([one.fromM, one.toM]).toEqual([8.5, 14.5])
    expect(one.over.map((o) => [o.id, o.walk.fromM, o.walk.toM, o.drive.fromM, o.drive.toM])).toEqual([
      ['rt_d1', 0, 3, 39, 41],
      ['rt_d2', 3, 6, 59, 61],
    ])
  })

  it('are as long as the lane is wide across where they lead over it at an angle', () => {
    const [one] = over({ d1: road.d1, w: [[30, 40], [50, 60]] }) // prettier-ignore
    expect(one.toM - one.fromM).toBeCloseTo(3 * Math.SQRT2, 6)
  })

  it('are two where there is room to stand between the lanes', () => {
    expect(over({ d1: [[0, 50], [100, 50]], d2: [[100, 56], [0, 56]], w: [[40, 40], [40, 70]] })).toHaveLength(2) // prettier-ignore
  })

  it('are none where a lane leads along another, or over it on a bridge', () => {
    expect(over({ d1: road.d1, w: [[0, 49], [100, 51]] })).toEqual([]) // prettier-ignore
    const level = withLanes({ d1: road.d1, w: [[40, 40], [40, 70]] }) // prettier-ignore
    const raise = (id: string) => ({ ...level.waypoints[id], at: [...level.waypoints[id].at.slice(0, 2), 4] as unknown as [number, number, number] }) // prettier-ignore
    const bridge = { ...level, waypoints: { ...level.waypoints, wp_w0: raise('wp_w0'), wp_w1: raise('wp_w1') } }
    expect(crossingsOf(bridge, walkNet(bridge), laneNet(bridge))).toEqual([])
  })

  it('are laid square over a road from pavement to pavement, and join those', () => {
    const level = levelSchema.parse({
      ...blankLevel('Road', 200, 200),
      roads: {
        rd_a: { name: 'High Street', points: [[20, 60, 0], [120, 60, 0]], curve: 'straight', laneM: 3, pavementLeftM: 2 }, // prettier-ignore
      },
    })
    const add = crossingOver(level, 'rd_a', 30, { laneId: 'rt_x', fromId: 'wp_x', toId: 'wp_y' })
    const [from, to, lane] = add.map((a) => a.thing) as [{ at: Point3 }, { at: Point3 }, { name: string }]
    expect(lane.name).toBe('High Street crossing 1')
    // A lane of 3 m and half a pavement of 2 m to the left; a lane and a little more to the right.
    expect(from.at).toEqual([50, 64, 0])
    expect(to.at).toEqual([50, 55.8, 0])
  })
})

it('pavements are joined round corners, never over lanes, and no end twice', () => {
  const level = withLanes({
    d1: [[0, 50], [100, 50]], // prettier-ignore
    a: [[0, 53], [40, 53]], // prettier-ignore
    b: [[45, 60], [45, 90]], // prettier-ignore
    c: [[0, 47], [40, 47]], // prettier-ignore
  })
  const found = suggestWalkJoins(walkNet(level), laneNet(level))
  expect(found.map((s) => [s.fromWaypointId, s.toWaypointId])).toEqual([['wp_a1', 'wp_b0']])
})
