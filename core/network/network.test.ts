import { describe, expect, it } from 'vitest'
import { climbOf, type Box2, type Point3 } from '@tidytrail/core/geometry'
import { buildReach, reachSource } from '@tidytrail/core/reach'
import { box, sceneLevel } from '@tidytrail/core/testing'
import { coverSchema, passageSchema } from '@tidytrail/core/level'
import { LegPlanner, legsOf, nextStop, elevationAlong, timeOverCovers } from '.'

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
    const path = planner.path(a, b)
    if (!path.found) throw new Error('a way was expected')
    expect(climbOf(path.line)).toBe(0)
    expect(climbOf(elevationAlong(planner.map, path.line))).toBeCloseTo(2, 1)
  })

  it('are kept until a change could make a difference', () => {
    const path = planner.path(a, b)
    expect(planner.path(a, b)).toBe(path)
    const far: Box2 = { minX: 0, minY: 18, maxX: 2, maxY: 20 }
    planner.forget([far])
    expect(planner.path(a, b)).toBe(path)
    planner.forget([{ minX: 20, minY: 9, maxX: 21, maxY: 11 }])
    expect(planner.path(a, b)).not.toBe(path)
    expect(planner.path(a, b)).toEqual(path)
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
  const path = {
    found: true as const,
    line: [
      [0, 0, 0],
      [30, 0, 0],
      [31, 0, 3],
    ] as const,
    lengthM: 31,
    uses: [{ passageId: 'pg_a', kind: 'ladder' as const, at: 1, takesS: 4 }],
  }
  expect(timeOverCovers(path, {}, 2)).toBeCloseTo(15 + 4, 9)
  expect(timeOverCovers(path, { cv_a: mud }, 2)).toBeCloseTo(10 + 10 + 4, 9)
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
    const paths = planner()
    expect(paths.path(low, high).found).toBe(false)
    expect(paths.usePassages({ pg_a: ladder(10) }, 'pf_warden', warden)).toHaveLength(1)
    expect(paths.path(low, high).found).toBe(true)
    expect(paths.usePassages({}, 'pf_warden', warden)).toHaveLength(1)
    expect(paths.path(low, high).found).toBe(false)
  })

  it('elsewhere are kept, the very same, when a passage changes that cannot matter to them', () => {
    const paths = planner()
    paths.usePassages({ pg_a: ladder(10) }, 'pf_warden', warden)
    const from: Point3 = [50, 3, 0]
    const to: Point3 = [55, 12, 0]
    const far = paths.path(from, to)
    const near = paths.path(low, high)
    paths.usePassages({ pg_a: ladder(10, { takesS: 9 }) }, 'pf_warden', warden)
    expect(paths.path(from, to)).toBe(far)
    expect(paths.path(low, high)).not.toBe(near)
  })

  it('change nothing when the same passages are given again', () => {
    const paths = planner()
    const passages = { pg_a: ladder(10) }
    paths.usePassages(passages, 'pf_warden', warden)
    const path = paths.path(low, high)
    expect(paths.usePassages(passages, 'pf_warden', warden)).toEqual([])
    expect(paths.usePassages({ ...passages }, 'pf_warden', warden)).toEqual([])
    expect(paths.path(low, high)).toBe(path)
  })

  it('drawn from one end of a passage to the other go through it', () => {
    const paths = planner()
    paths.usePassages({ pg_a: ladder(10) }, 'pf_warden', warden)
    const foot: Point3 = [9, 10, 0]
    const head: Point3 = [11, 10, 4]
    expect(paths.path(foot, head, 'drawn')).toMatchObject({ found: true, uses: [{ passageId: 'pg_a', at: 0 }] })
    expect(paths.path(head, foot, 'drawn').found).toBe(true)
    expect(paths.path([5, 10, 0], head, 'drawn').found).toBe(false)
    // One way only: the drawn leg back is none.
    paths.usePassages({ pg_a: ladder(10, { twoWay: false }) }, 'pf_warden', warden)
    expect(paths.path(head, foot, 'drawn').found).toBe(false)
  })

  it('tell whether one can come back from where a passage leads', () => {
    const paths = planner()
    paths.usePassages({ pg_a: ladder(10, { twoWay: false }) }, 'pf_warden', warden)
    const [a, b] = [paths.map.reachedAt(...low)!, paths.map.reachedAt(...high)!]
    expect(paths.joins(a, b)).toBe(true)
    expect(paths.joins(b, a)).toBe(false)
  })

  it('climb with the ladder in the profile of heights', () => {
    const paths = planner()
    paths.usePassages({ pg_a: ladder(10) }, 'pf_warden', warden)
    const path = paths.path(low, high)
    if (!path.found) throw new Error('a way was expected')
    const heights = elevationAlong(paths.map, path.line, 0.5, path.uses).map((p) => p[2])
    expect(climbOf(elevationAlong(paths.map, path.line, 0.5, path.uses))).toBeCloseTo(4, 6)
    expect(heights).toEqual([...heights].sort((p, q) => p - q))
    expect(heights.filter((z) => z > 0.1 && z < 3.9).length).toBeGreaterThan(5)
  })
})
