import { distance2, lengthOf, type Point3 } from '@tidytrail/core/geometry'
import type { Level, Profile, Route } from '@tidytrail/core/level'
import type { PathAnswer } from '@tidytrail/core/reach'
import { exact } from '@tidytrail/core/geometry'
import type { Elevation } from './elevation'
import { timeOverCovers } from './times'

/** Slopes shorter than this are steps, not slopes, metres. */
const SLOPE_OVER_M = 1

export interface RouteMeasures {
  /** Length of the line from stop to stop (or the smooth one through them), and of what is walked, metres. */
  readonly drawnM: number
  readonly walkedM: number
  readonly climbM: number
  readonly descentM: number
  /** Steepest metre of the way, radians, and where along it. */
  readonly steepestRad: number
  readonly steepestS: number
  /** Sharpest turn at a stop, radians from straight on, and the stop's number from 0; −1 when there is none. */
  readonly sharpestRad: number
  readonly sharpestStop: number
  /** Least, mean and greatest distance from stop to stop, metres. */
  readonly spacing: { readonly least: number; readonly mean: number; readonly most: number }
  /** Seconds for all legs at each gait of the profile, with the pauses that are to be expected. */
  readonly timesS: Readonly<Record<string, number>>
  readonly pausesS: number
  /** Legs that cannot be walked. */
  readonly blocked: number
}

/** Seconds one expects to pause at a stop. */
export const expectedPauseS = (stop: Route['stops'][string]): number =>
  ((stop.pause.minS + stop.pause.maxS) / 2) * stop.pauseShare

/** The figures of a route. @param course the drawn line of each leg, ways what is walked of it */
export function measureRoute(
  route: Route,
  course: readonly (readonly Point3[])[],
  paths: readonly PathAnswer[],
  elevation: Elevation,
  profile: Profile | undefined,
  covers: Level['covers'],
): RouteMeasures {
  const lengths = course.map((line) => lengthOf(line))
  const drawnM = lengths.reduce((a, b) => a + b, 0)
  const found = paths.flatMap((w) => (w.found ? [w] : []))
  let climbM = 0
  let descentM = 0
  let steepestRad = 0
  let steepestS = 0
  const { samples } = elevation
  let back = 0
  for (let i = 1; i < samples.length; i++) {
    const a = samples[i - 1]
    const b = samples[i]
    if (!b.walked) continue
    const rise = b.floorM - a.floorM
    if (a.leg === b.leg) {
      climbM += Math.max(0, rise)
      descentM += Math.max(0, -rise)
    }
    while (back < i && samples[i].s - samples[back + 1].s >= SLOPE_OVER_M) back++
    const from = samples[back]
    const run = b.s - from.s
    if (run < SLOPE_OVER_M || from.leg !== b.leg || b.passage || from.passage) continue
    const slope = Math.abs(exact.atan2(b.floorM - from.floorM, run))
    if (slope <= steepestRad) continue
    steepestRad = slope
    steepestS = (b.s + from.s) / 2
  }
  const { sharpestRad, sharpestStop } = sharpest(route, course)
  const pausesS = route.order.reduce((sum, s) => sum + expectedPauseS(route.stops[s]), 0)
  const timesS: Record<string, number> = {}
  if (profile) {
    for (const [gait, mps] of Object.entries(profile.gaits)) {
      timesS[gait] = pausesS
      paths.forEach((path, i) => {
        if (!path.found) return
        const stop = route.stops[route.order[(i + 1) % route.order.length]]
        const own = stop.gait === null ? undefined : profile.gaits[stop.gait]
        timesS[gait] += timeOverCovers(path, covers, Math.min(own ?? mps, route.speedLimitMps ?? Infinity))
      })
    }
  }
  return {
    drawnM,
    walkedM: found.reduce((sum, w) => sum + w.lengthM, 0),
    climbM,
    descentM,
    steepestRad,
    steepestS,
    sharpestRad,
    sharpestStop,
    spacing: {
      least: lengths.length > 0 ? Math.min(...lengths) : 0,
      mean: lengths.length > 0 ? drawnM / lengths.length : 0,
      most: Math.max(0, ...lengths),
    },
    timesS,
    pausesS,
    blocked: paths.length - found.length,
  }
}

function sharpest(route: Route, course: readonly (readonly Point3[])[]) {
  let sharpestRad = 0
  let sharpestStop = -1
  const round = route.travel === 'round'
  course.forEach((line, i) => {
    const before = i > 0 ? course[i - 1] : round ? course[course.length - 1] : undefined
    if (!before || before === line) return
    const a = before[before.length - 2]
    const b = line[0]
    const c = line[1]
    if (distance2(a, b) === 0 || distance2(b, c) === 0) return
    const turn = exact.atan2(c[1] - b[1], c[0] - b[0]) - exact.atan2(b[1] - a[1], b[0] - a[0])
    const rad = Math.abs(turn - 2 * Math.PI * Math.round(turn / (2 * Math.PI)))
    if (rad <= sharpestRad) return
    sharpestRad = rad
    sharpestStop = i
  })
  return { sharpestRad, sharpestStop }
}
