import { describe, expect, it } from 'vitest'
import { addThing, blankLevel, changeThings, type Level } from '@tidytrail/core/level'
import { box, chance, prisms, sceneLevel, strewnObstacles } from '@tidytrail/core/testing'
import { surfaceThing } from '@tidytrail/core/ground'
import { buildReach, reachSource, whyNotHere, type ReachMap } from '.'

const reachOf = (level: Level) => buildReach(reachSource(level, 'pf_warden'))
const reached = (map: ReachMap, x: number, y: number, z = 0) => {
  const spot = map.floorAt(x, y, z)
  return spot !== undefined && map.isFree(spot, x, y)
}
const ramp = (slopeDeg: number) => ({
  shape: 'ramp' as const,
  name: 'Ramp',
  at: [10, 10] as [number, number],
  sizeX: 10,
  sizeY: 6,
  baseM: 0,
  heightM: 10 * Math.tan((slopeDeg * Math.PI) / 180),
  walkable: true,
})

describe('the reach map', () => {
  it('climbs a step of just the warden’s 0.40 m and no higher', () => {
    const deckAt = (h: number) =>
      reachOf(sceneLevel(30, 20, { sd_a: box(10, 5, 20, 15, h, { walkable: true }) })).islands.list
    expect(deckAt(0.39)).toHaveLength(1)
    expect(deckAt(0.41)).toHaveLength(2)
  })

  it('climbs a slope of just the warden’s 38° and no steeper', () => {
    const middle = (deg: number) => reached(reachOf(sceneLevel(20, 20, { sd_r: ramp(deg) })), 10, 10, 5)
    expect(middle(37)).toBe(true)
    expect(middle(39)).toBe(false)
  })

  it('needs headroom of the warden’s 1.90 m', () => {
    const under = (gap: number) =>
      reached(reachOf(sceneLevel(20, 20, { sd_roof: box(5, 5, 15, 15, 1, { baseM: gap }) })), 10, 10)
    expect(under(1.95)).toBe(true)
    expect(under(1.85)).toBe(false)
  })

  it('passes a gap of the body’s width and none narrower, to a centimetre', () => {
    const parts = (gap: number) =>
      reachOf(sceneLevel(20, 20, { sd_a: box(9, 0, 11, 10), sd_b: box(9, 10 + gap, 11, 20) })).islands.list.length
    expect(parts(0.71)).toBe(1)
    expect(parts(0.68)).toBe(2)
  })

  it('keeps the body’s radius from walls to the centimetre, whatever the column width', () => {
    const map = reachOf(sceneLevel(20, 20, { sd_a: box(9, 5, 11.07, 15) }))
    for (let x = 11.1; x < 13; x += 0.01) {
      if (Math.abs(x - 11.07 - 0.35) > 0.01) expect(reached(map, x, 10)).toBe(x - 11.07 > 0.35)
    }
  })

  it('knows what each floor is the top of, also after solids that come before it in order have come and gone', () => {
    const far = { ...ramp(30), at: [60, 10] as [number, number] }
    let level = sceneLevel(80, 20, { sd_r: far })
    const map = reachOf(level)
    const surface = () => {
      const spot = map.floorAt(60, 10, 3)!
      return surfaceThing(map.source.terrain, map.tiles[spot.tile].surface[spot.floor])?.id
    }
    expect(surface()).toBe('sd_r')
    level = sceneLevel(80, 20, { ...level.solids, sd_a: box(4, 4, 6, 6), sd_b: box(8, 4, 9, 6) })
    map.carryOut(map.planFor(reachSource(level, 'pf_warden'))!)
    expect(surface()).toBe('sd_r')
    level = sceneLevel(80, 20, { sd_b: level.solids.sd_b, sd_r: level.solids.sd_r })
    map.carryOut(map.planFor(reachSource(level, 'pf_warden'))!)
    expect(surface()).toBe('sd_r')
  })

  it('keeps tiles that come out as they were', () => {
    const level = sceneLevel(80, 20, { sd_a: box(10, 5, 12, 15) })
    const map = reachOf(level)
    const before = [...map.tiles]
    const taller = changeThings.apply(level, { in: 'solids', changes: { sd_a: { heightM: 9 } } }).level
    map.carryOut(map.planFor(reachSource(taller, 'pf_warden'))!)
    // Only the tiles over the solid itself have another floor; those around it see the same wall.
    expect(map.tiles.filter((t, k) => t !== before[k]).length).toBeLessThanOrEqual(2)
    expect(map.tiles.some((t, k) => t !== before[k])).toBe(true)
  })

  it('gives the same map when tiles are rebuilt after a change as when built anew', () => {
    const base = sceneLevel(70, 50, prisms(strewnObstacles(45, 6, 4)))
    const map = reachOf(base)
    const next = chance(8)
    let level = base
    for (let k = 0; k < 8; k++) {
      const thing = {
        ...Object.values(
          prisms([
            [
              [next() * 50, next() * 40],
              [next() * 50 + 5, 10],
              [30, 30 + next() * 9],
            ],
          ]),
        )[0],
      }
      level =
        k % 3 === 2
          ? changeThings.apply(level, { in: 'solids', changes: { sd_p0: { heightM: 0.2 + next(), walkable: true } } })
              .level
          : addThing.apply(level, { in: 'solids', id: `sd_new${k}`, thing }).level
      map.carryOut(map.planFor(reachSource(level, 'pf_warden'))!)
    }
    const fresh = reachOf(level)
    expect(map.islands.list).toEqual(fresh.islands.list)
    map.tiles.forEach((tile, k) => {
      expect(tile.reach).toEqual(fresh.tiles[k].reach)
      expect(tile.z).toEqual(fresh.tiles[k].z)
      expect(tile.clearMm).toEqual(fresh.tiles[k].clearMm)
      expect(tile.held.place).toEqual(fresh.tiles[k].held.place)
      expect(tile.held.corners).toEqual(fresh.tiles[k].held.corners)
      expect(tile.held.bars.owner).toEqual(fresh.tiles[k].held.bars.owner)
    })
  })

  it('agrees with a flood over the places a body fits, worked out from distances alone', () => {
    const rings = strewnObstacles(40, 9, 5, 0.5)
    const map = reachOf(sceneLevel(40, 40, prisms(rings)))
    let differ = 0
    let total = 0
    for (let x = 0.625; x < 39.5; x += 0.25) {
      for (let y = 0.625; y < 39.5; y += 0.25) {
        const near = rings.some((ring) => {
          let inside = true
          let best = Infinity
          ring.forEach(([ax, ay], i) => {
            const [bx, by] = ring[(i + 1) % ring.length]
            if ((bx - ax) * (y - ay) - (by - ay) * (x - ax) < 0) inside = false
            const t = Math.min(
              1,
              Math.max(0, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / ((bx - ax) ** 2 + (by - ay) ** 2)),
            )
            best = Math.min(best, Math.hypot(x - ax - t * (bx - ax), y - ay - t * (by - ay)))
          })
          return inside || best < 0.35
        })
        total++
        if (reached(map, x, y) === near) differ++
      }
    }
    expect(total).toBeGreaterThan(20_000)
    expect(differ / total).toBeLessThan(0.001)
  })

  it('says in words why somebody cannot stand somewhere', () => {
    const map = reachOf(
      sceneLevel(30, 30, {
        sd_a: box(10, 10, 14, 14, 3, { name: 'Shed' }),
        sd_b: box(20, 10, 26, 16, 1, { name: 'Roof', baseM: 1.6 }),
      }),
    )
    expect(whyNotHere(map, [5, 5, 0])).toBeUndefined()
    expect(whyNotHere(map, [9.87, 12, 0])).toBe('too close to Shed (0.13 m of 0.35 m)')
    expect(whyNotHere(map, [12, 12, 0])).toBe('inside Shed')
    expect(whyNotHere(map, [12, 12, 3])).toBe('on top of Shed, which is not for walking on')
    expect(whyNotHere(map, [23, 13, 0])).toBe('headroom 1.60 m of 1.90 m')
    expect(whyNotHere(map, [-3, 5, 0])).toBe('outside the level')
  })

  it('keeps a profile to its reach areas and everyone out of what is off limits', () => {
    const square = (x: number): [number, number][] => [
      [x, 2],
      [x + 8, 2],
      [x + 8, 18],
      [x, 18],
    ]
    const map = reachOf(
      sceneLevel(
        30,
        20,
        {},
        {
          reachAreas: { ra_a: { name: 'A', ring: square(2), profileIds: ['pf_warden'] } },
          covers: {
            cv_a: {
              name: 'Beds',
              kind: 'off-limits',
              ring: [
                [4, 6],
                [6, 6],
                [6, 8],
                [4, 8],
              ],
            },
          },
        },
      ),
    )
    expect(reached(map, 8, 10)).toBe(true)
    expect(whyNotHere(map, [15, 10, 0])).toBe('outside the reach areas of this profile')
    expect(whyNotHere(map, [5, 7, 0])).toBe('off limits')
  })
})

it('gives the largest bodies columns as wide as they need, and no more to look through than a body of any size', () => {
  const level = blankLevel('Wide', 200, 200)
  const of = (radiusM: number) =>
    reachSource({ ...level, profiles: { pf_a: { ...level.profiles.pf_warden, radiusM } } }, 'pf_a')
  expect(of(0.35).cellM).toBe(0.25)
  expect(of(10).cellM).toBe(0.25)
  expect(of(50).cellM).toBe(1.25)
})

it('gives slim bodies narrower columns than the level has, but never so many that they cannot be kept', () => {
  const level = (sideM: number, cellM: number, radiusM: number) => {
    const blank = blankLevel('Slim', sideM, sideM)
    const profiles = { pf_a: { ...blank.profiles.pf_warden, radiusM } }
    return { ...blank, profiles, settings: { ...blank.settings, cellM } }
  }
  const width = (...of: [number, number, number]) => reachSource(level(...of), 'pf_a').cellM
  // The diagonal of a column is what has to be free about a body on either side of its middle.
  expect(width(100, 0.5, 0.35)).toBeCloseTo(Math.SQRT2 * 0.345, 2)
  expect(width(100, 0.25, 0.35)).toBe(0.25)
  expect(width(100, 0.25, 0.02)).toBe(0.12)
  for (const sideM of [100, 1000, 1500]) {
    const columns = (sideM / width(sideM, 0.5, 0.02)) ** 2
    expect(columns).toBeLessThanOrEqual(Math.max(6e6, 1.5 * (sideM / 0.5) ** 2) * 1.001)
  }
})
