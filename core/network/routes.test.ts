import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { distance2, lengthOf, type Point3 } from '@tidytrail/core/geometry'
import { terrainOf } from '@tidytrail/core/ground'
import { levelSchema, type Level, type LevelInput } from '@tidytrail/core/level'
import { buildReach, reachSource } from '@tidytrail/core/reach'
import { box, sceneLevel } from '@tidytrail/core/testing'
import { courseOf, elevationOf, LegPlanner, legPath, legsOf, measureRoute, pairsInSight, waypointGraph } from '.'

type RouteInput = NonNullable<LevelInput['routes']>[string]

/** A level with one route over some places. */
function routeLevel(places: Point3[], more: Partial<RouteInput> = {}, solids = {}, stops: object[] = []): Level {
  return levelSchema.parse({
    ...sceneLevel(100, 60, solids),
    waypoints: Object.fromEntries(places.map((at, i) => [`wp_${i}`, { at }])),
    routes: {
      rt_a: {
        name: 'R',
        stops: Object.fromEntries(places.map((_, i) => [`st_${i}`, { waypointId: `wp_${i}`, ...stops[i] }])),
        order: places.map((_, i) => `st_${i}`),
        ...more,
      },
    },
  })
}
const planner = (level: Level) => new LegPlanner(buildReach(reachSource(level, 'pf_warden')))
const square: Point3[] = [
  [20, 10, 0],
  [60, 10, 0],
  [60, 50, 0],
  [20, 50, 0],
]

describe('the course of a route', () => {
  it('is the very same until the route or a place of it changes', () => {
    const level = routeLevel(square, { curve: 'smooth', legs: 'drawn', travel: 'round' })
    const course = courseOf(level.routes.rt_a, level.waypoints)
    expect(courseOf(level.routes.rt_a, { ...level.waypoints })).toBe(course)
    const moved = { ...level.waypoints, wp_1: { ...level.waypoints.wp_1, at: [61, 10, 0] as [number, number, number] } }
    expect(courseOf(level.routes.rt_a, moved)).not.toBe(course)
  })

  it('smooth is walked along its curve, both ways, and stopped where something stands in it', () => {
    const smooth = { curve: 'smooth', legs: 'drawn', travel: 'there-and-back' } as const
    const level = routeLevel(square, smooth)
    const path = legPath(planner(level), level.routes.rt_a, level.waypoints, 1, 2)
    const back = legPath(planner(level), level.routes.rt_a, level.waypoints, 2, 1)
    if (!path.found || !back.found) throw new Error('a way was expected')
    // It bows out beyond the straight line between its stops.
    expect(Math.max(...path.line.map((p) => p[0]))).toBeGreaterThan(62)
    expect(back.line).toEqual([...path.line].reverse())
    const barred = routeLevel(square, smooth, { sd_post: box(62, 28, 66, 32) })
    const stopped = legPath(planner(barred), barred.routes.rt_a, barred.waypoints, 1, 2)
    expect(stopped.found).toBe(false)
    expect(legPath(planner(barred), { ...barred.routes.rt_a, curve: 'straight' }, barred.waypoints, 1, 2).found).toBe(
      true,
    )
  })

  it('forgets a way along a curve only when something changes near it', () => {
    const level = routeLevel(square, { curve: 'smooth', legs: 'drawn' })
    const paths = planner(level)
    const before = legPath(paths, level.routes.rt_a, level.waypoints, 1, 2)
    paths.forget([{ minX: 0, minY: 0, maxX: 2, maxY: 2 }])
    expect(legPath(paths, level.routes.rt_a, level.waypoints, 1, 2)).toBe(before)
    paths.forget([{ minX: 62, minY: 28, maxX: 64, maxY: 30 }])
    expect(legPath(paths, level.routes.rt_a, level.waypoints, 1, 2)).not.toBe(before)
  })
})

describe('a route from the side', () => {
  const ramp = {
    shape: 'ramp',
    name: '',
    at: [30, 30],
    sizeX: 20,
    sizeY: 20,
    baseM: 0,
    heightM: 4,
    walkable: true,
  } as const
  const level = routeLevel(
    [
      [10, 30, 0],
      [38, 30, 3.6],
    ],
    {},
    { sd_ramp: ramp },
  )
  const route = level.routes.rt_a
  const places = route.order.map((s) => level.waypoints[route.stops[s].waypointId].at)
  const paths = legsOf(route).map((l) => legPath(planner(level), route, level.waypoints, l.from, l.to))
  const elevation = elevationOf(route, places, paths, terrainOf(level))

  it('shows the ground, the floor walked on and the line between the stops', () => {
    expect(elevation.lengthM).toBeCloseTo(28, 6)
    for (const p of elevation.samples) {
      expect(p.groundM).toBe(0)
      expect(p.floorM).toBeCloseTo(Math.max(0, (p.at[0] - 20) / 5), 1)
      expect(p.lineM).toBeCloseTo((3.6 * (p.at[0] - 10)) / 28, 6)
    }
    expect(elevation.stopsS).toEqual([0, expect.closeTo(28, 6)])
  })

  it('is measured: climb, steepest metre, times with pauses', () => {
    const profile = level.profiles.pf_warden
    const stops = [{ pause: { minS: 2, maxS: 4 }, pauseShare: 0.5 }, {}]
    const paused = routeLevel(
      [
        [10, 30, 0],
        [38, 30, 3.6],
      ],
      {},
      { sd_ramp: ramp },
      stops,
    ).routes.rt_a
    const m = measureRoute(paused, courseOf(paused, level.waypoints), paths, elevation, profile, {})
    expect([m.climbM, m.descentM]).toEqual([expect.closeTo(3.6, 1), 0])
    expect(Math.tan(m.steepestRad)).toBeCloseTo(0.2, 2)
    expect(m.pausesS).toBe(1.5)
    for (const [gait, mps] of Object.entries(profile.gaits)) expect(m.timesS[gait]).toBeCloseTo(28 / mps + 1.5, 6)
    expect(m.spacing).toEqual({ least: 28, mean: 28, most: 28 })
  })

  it('keeps to a speed limit, and turns as sharply as its corners', () => {
    const of = routeLevel(square, { travel: 'round', legs: 'drawn', speedLimitMps: 0.5 })
    const r = of.routes.rt_a
    const all = legsOf(r).map((l) => legPath(planner(of), r, of.waypoints, l.from, l.to))
    const side = elevationOf(r, square, all, terrainOf(of))
    const m = measureRoute(r, courseOf(r, of.waypoints), all, side, of.profiles.pf_warden, {})
    expect(m.timesS.run).toBeCloseTo(160 / 0.5, 6)
    expect([m.sharpestRad, side.stopsS]).toEqual([expect.closeTo(Math.PI / 2, 6), [0, 40, 80, 120, 160]])
  })
})

describe('the waypoint graph', () => {
  it('has legs the way they are travelled, links, and only what a profile may use', () => {
    const level = levelSchema.parse({
      ...routeLevel(square, { profileIds: ['pf_warden'] }),
      links: {
        ln_a: { fromId: 'wp_3', toId: 'wp_0', twoWay: false },
        ln_b: { fromId: 'wp_1', toId: 'wp_3', costFactor: 3 },
      },
    })
    const of = (options = {}) => {
      const g = waypointGraph(level, options)
      return g.edges.map((e, k) => {
        const row = [...g.graph.given].indexOf(k)
        const from = g.graph.first.findIndex((f, n) => f <= row && g.graph.first[n + 1] > row)
        return `${g.ids[from].slice(3)}${g.ids[g.graph.to[row]].slice(3)} ${e.kind} ${g.graph.cost[row].toFixed(0)}`
      })
    }
    expect(of()).toEqual(['30 link 40', '13 link 170', '31 link 170', '01 leg 40', '12 leg 40', '23 leg 40'])
    expect(of({ profileId: 'pf_other' })).toEqual(['30 link 40', '13 link 170', '31 link 170'])
    expect(of({ routeIds: new Set(['rt_a']) })).toHaveLength(3)
    level.routes.rt_a.travel = 'there-and-back'
    expect(of()).toHaveLength(9)
  })
})

describe('pairs in sight', () => {
  it('are exactly those near enough that see each other both ways', () => {
    const places = fc.array(
      fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 40 }), fc.constant(0)),
      { maxLength: 25 },
    )
    fc.assert(
      fc.property(places, fc.integer({ min: 1, max: 30 }), (list, withinM) => {
        const sees = (a: readonly number[], b: readonly number[]) => (a[0] + b[1]) % 3 !== 0
        const slow: [number, number][] = []
        list.forEach((p, a) =>
          list.forEach((q, b) => {
            const m = distance2(p, q)
            if (b > a && m > 0 && m <= withinM && sees(p, q) && sees(q, p)) slow.push([a, b])
          }),
        )
        expect(pairsInSight(list, withinM, sees)).toEqual(slow)
      }),
    )
  })
})

it('a smooth course is longer than its chords, and no longer than is sensible', () => {
  const level = routeLevel(square, { curve: 'smooth', legs: 'drawn', travel: 'round' })
  const length = courseOf(level.routes.rt_a, level.waypoints).reduce((sum, line) => sum + lengthOf(line), 0)
  // Between the square and the circle round it.
  expect(length).toBeGreaterThan(160)
  expect(length).toBeLessThan(2 * Math.PI * 20 * Math.SQRT2 * 1.02)
})
