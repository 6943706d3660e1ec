import { describe, expect, it } from 'vitest'
import { climbOf, type Box2, type Point3 } from '@tidytrail/core/geometry'
import { buildReach, reachSource } from '@tidytrail/core/reach'
import { box, sceneLevel } from '@tidytrail/core/testing'
import { coverSchema, passageSchema } from '@tidytrail/core/level'
import { LegPlanner, legsOf, nextStop, profileAlong, timeOverCovers } from '.'

const order = ['st_a', 'st_b', 'st_c']

describe('legs', () => {
  it('lead from stop to stop, and a round’s last one back to the first', () => {
    expect(legsOf({ order, travel: 'one-way' })).toEqual([
      { from: 0, to: 1 },
      { from: 1, to: 2 },
    ])
    expect(legsOf({ order, travel: 'round' }).at(-1)).toEqual({ from: 2, to: 0 })
    expect(legsOf({ order: ['st_a'], travel: 'round' })).toEqual([])
  })

  it('are travelled one way, round, or there and back', () => {
    expect(nextStop({ order, travel: 'one-way' }, 2, 1)).toBeUndefined()
    expect(nextStop({ order, travel: 'round' }, 2, 1)).toEqual({ to: 0, direction: 1 })
    expect(nextStop({ order, travel: 'there-and-back' }, 2, 1)).toEqual({ to: 1, direction: -1 })
    expect(nextStop({ order, travel: 'there-and-back' }, 0, -1)).toEqual({ to: 1, direction: 1 })
    expect(nextStop({ order: ['st_a'], travel: 'round' }, 0, 1)).toBeUndefined()
  })
})

const over = sceneLevel(40, 20, {
  sd_up: { shape: 'ramp', name: '', at: [11, 10], sizeX: 6, sizeY: 20, baseM: 0, heightM: 2, walkable: true },
  sd_top: box(14, 0, 20, 20, 2, { walkable: true }),
  sd_down: {
    shape: 'ramp',
    name: '',
    at: [23, 10],
    sizeX: 6,
    sizeY: 20,
    turnRad: Math.PI,
    baseM: 0,
    heightM: 2,
    walkable: true,
  },
})

describe('ways', () => {
  const planner = new LegPlanner(buildReach(reachSource(over, 'pf_warden')))
  const a: Point3 = [4, 10, 0]
  const b: Point3 = [36, 10, 0]

  it('climb what the floor climbs, though the line is straight', () => {
    const way = planner.way(a, b)
    if (!way.found) throw new Error('a way was expected')
    expect(climbOf(way.line)).toBe(0)
    expect(climbOf(profileAlong(planner.map, way.line))).toBeCloseTo(2, 1)
  })

  it('are kept until a change could make a difference', () => {
    const way = planner.way(a, b)
    expect(planner.way(a, b)).toBe(way)
    const far: Box2 = { minX: 0, minY: 18, maxX: 2, maxY: 20 }
    planner.forget([far])
    expect(planner.way(a, b)).toBe(way)
    planner.forget([{ minX: 20, minY: 9, maxX: 21, maxY: 11 }])
    expect(planner.way(a, b)).not.toBe(way)
    expect(planner.way(a, b)).toEqual(way)
  })
})

it('a way takes longer through mud, and its passages their own time', () => {
  const mud = coverSchema.parse({
    name: 'Mud',
    kind: 'mud',
    speedFactor: 0.5,
    ring: [
      [10, -5],
      [20, -5],
      [20, 5],
      [10, 5],
    ],
  })
  const way = {
    found: true as const,
    line: [
      [0, 0, 0],
      [30, 0, 0],
      [31, 0, 3],
    ] as const,
    lengthM: 31,
    uses: [{ passageId: 'pg_a', kind: 'ladder' as const, at: 1, takesS: 4 }],
  }
  expect(timeOverCovers(way, {}, 2)).toBeCloseTo(15 + 4, 9)
  expect(timeOverCovers(way, { cv_a: mud }, 2)).toBeCloseTo(10 + 10 + 4, 9)
})

describe('ways over passages', () => {
  const deck = { sd_deck: box(10.1, 5.1, 25.1, 15.1, 4, { walkable: true }) }
  const level = sceneLevel(60, 20, deck)
  const ladder = (x: number, more = {}) =>
    passageSchema.parse({ name: '', kind: 'ladder', from: [x - 1, 10, 0], to: [x + 1, 10, 4], takesS: 4, ...more })
  const planner = () => new LegPlanner(buildReach(reachSource(level, 'pf_warden')))
  const warden = level.profiles.pf_warden
  const low: Point3 = [3, 10, 0]
  const high: Point3 = [20, 10, 4]

  it('are found as soon as a passage is there, and lost with it', () => {
    const ways = planner()
    expect(ways.way(low, high).found).toBe(false)
    expect(ways.usePassages({ pg_a: ladder(10) }, 'pf_warden', warden)).toHaveLength(1)
    expect(ways.way(low, high).found).toBe(true)
    expect(ways.usePassages({}, 'pf_warden', warden)).toHaveLength(1)
    expect(ways.way(low, high).found).toBe(false)
  })

  it('elsewhere are kept, the very same, when a passage changes that cannot matter to them', () => {
    const ways = planner()
    ways.usePassages({ pg_a: ladder(10) }, 'pf_warden', warden)
    const from: Point3 = [50, 3, 0]
    const to: Point3 = [55, 12, 0]
    const far = ways.way(from, to)
    const near = ways.way(low, high)
    ways.usePassages({ pg_a: ladder(10, { takesS: 9 }) }, 'pf_warden', warden)
    expect(ways.way(from, to)).toBe(far)
    expect(ways.way(low, high)).not.toBe(near)
  })

  it('change nothing when the same passages are given again', () => {
    const ways = planner()
    const passages = { pg_a: ladder(10) }
    ways.usePassages(passages, 'pf_warden', warden)
    const way = ways.way(low, high)
    expect(ways.usePassages(passages, 'pf_warden', warden)).toEqual([])
    expect(ways.usePassages({ ...passages }, 'pf_warden', warden)).toEqual([])
    expect(ways.way(low, high)).toBe(way)
  })

  it('drawn from one end of a passage to the other go through it', () => {
    const ways = planner()
    ways.usePassages({ pg_a: ladder(10) }, 'pf_warden', warden)
    const foot: Point3 = [9, 10, 0]
    const head: Point3 = [11, 10, 4]
    expect(ways.way(foot, head, 'drawn')).toMatchObject({ found: true, uses: [{ passageId: 'pg_a', at: 0 }] })
    expect(ways.way(head, foot, 'drawn').found).toBe(true)
    expect(ways.way([5, 10, 0], head, 'drawn').found).toBe(false)
    // One way only: the drawn leg back is none.
    ways.usePassages({ pg_a: ladder(10, { twoWay: false }) }, 'pf_warden', warden)
    expect(ways.way(head, foot, 'drawn').found).toBe(false)
  })

  it('tell whether one can come back from where a passage leads', () => {
    const ways = planner()
    ways.usePassages({ pg_a: ladder(10, { twoWay: false }) }, 'pf_warden', warden)
    const [a, b] = [ways.map.reachedAt(...low)!, ways.map.reachedAt(...high)!]
    expect(ways.joins(a, b)).toBe(true)
    expect(ways.joins(b, a)).toBe(false)
  })

  it('climb with the ladder in the profile of heights', () => {
    const ways = planner()
    ways.usePassages({ pg_a: ladder(10) }, 'pf_warden', warden)
    const way = ways.way(low, high)
    if (!way.found) throw new Error('a way was expected')
    const heights = profileAlong(ways.map, way.line, 0.5, way.uses).map((p) => p[2])
    expect(climbOf(profileAlong(ways.map, way.line, 0.5, way.uses))).toBeCloseTo(4, 6)
    expect(heights).toEqual([...heights].sort((p, q) => p - q))
    expect(heights.filter((z) => z > 0.1 && z < 3.9).length).toBeGreaterThan(5)
  })
})
