import { CORNER_M, makeCourse, type Course, type CourseLeg } from '../course'
import type { Engine } from '../engine'
import type { ProfileRow, Scenario } from '../scenario'

/** So many courses are kept at most; then they are made anew as they are asked for. */
const MOST_KEPT = 20_000
/** Who is farther than this from where its lane says it is, metres, gets a course of its own. */
const JUMP_M = 0.05

interface Kept {
  readonly legs: Map<string, CourseLeg>
  readonly courses: Map<string, Course>
  next: number
}
const kept = new WeakMap<Scenario, Kept>()

function keptFor(scenario: Scenario): Kept {
  let of = kept.get(scenario)
  if (!of) kept.set(scenario, (of = { legs: new Map(), courses: new Map(), next: 1 }))
  return of
}

/**
 * A leg along a lane, the same for all who are told the same: whoever is carried along lanes has its courses in common
 * with others, so that they are made once, and lie together in memory.
 * @param name what the leg hangs on @param make what makes it where it is not known
 */
export function keptLeg<T extends string>(scenario: Scenario, name: string, make: () => CourseLeg | T): CourseLeg | T {
  const of = keptFor(scenario)
  const known = of.legs.get(name)
  if (known) return known
  const leg = make()
  if (typeof leg === 'string' || !leg.on || leg.uses.length > 0) return leg
  const numbered = { ...leg, kept: of.next++ }
  of.legs.set(name, numbered)
  return numbered
}

/** How far from its line a body of a profile may pass a corner, metres. */
export const toleranceOf = ({ body, profile }: ProfileRow): number =>
  body.pursues ? Math.max(0.3, profile.radiusM / 2) : CORNER_M

/** The course over some legs that is kept for all; undefined where one of them is not the same for all. */
function keptCourse(engine: Engine, n: number, legs: readonly CourseLeg[], halts: boolean): Course | undefined {
  let name = `${engine.world.profile[n]} ${halts ? 1 : 0}`
  for (const { kept } of legs) {
    if (kept === undefined) return undefined
    name += ` ${kept}`
  }
  const { courses } = keptFor(engine.scenario)
  let course = courses.get(name)
  if (!course) {
    const row = engine.profileOf(n)
    if (courses.size >= MOST_KEPT) courses.clear()
    courses.set(name, (course = makeCourse(legs, row.powers, halts, toleranceOf(row))))
  }
  return course
}

/**
 * The course kept for all that somebody who is carried along a lane goes on by, and how far along it is, metres: below 0
 * where it is not yet at its beginning.
 * @returns undefined where it needs one of its own
 */
export function joinKept(
  engine: Engine,
  n: number,
  legs: readonly CourseLeg[],
  halts: boolean,
): { course: Course; s: number } | undefined {
  const { world, scenario } = engine
  if (world.rail[n] === 0) return undefined
  const course = keptCourse(engine, n, legs, halts)
  if (!course?.track) return undefined
  const [of, on] = [scenario.traffic.pieces[world.piece[n]], legs[0].on!]
  let near = 0
  if (on.piece === world.piece[n]) {
    const m = world.pieceM[n] - course.track.fromM[0]
    // The last that is known may be of the lap before.
    near = of?.closed && m > of.lengthM / 2 ? m - of.lengthM : m
  }
  // It has gone on since that was noted, and may have come round a corner.
  const s = beside(engine, n, course, beside(engine, n, course, near).s)
  return s.farM < JUMP_M && s.s < course.s[course.marks[0].point] ? { course, s: s.s } : undefined
}

/** How far along a course somebody on a lane is, by the piece at a place near it, and how far off where its lane says it is. */
function beside({ world }: Engine, n: number, course: Course, near: number): { s: number; farM: number } {
  const k = pointAt(course, near)
  const length = course.s[k] - course.s[k - 1]
  if (length < 1e-9) return { s: near, farM: Infinity }
  const ux = (course.x[k] - course.x[k - 1]) / length
  const uy = (course.y[k] - course.y[k - 1]) / length
  const dx = world.x[n] + world.asideM[n] * world.headY[n] - course.x[k - 1]
  const dy = world.y[n] - world.asideM[n] * world.headX[n] - course.y[k - 1]
  return { s: course.s[k - 1] + dx * ux + dy * uy, farM: Math.abs(dy * ux - dx * uy) }
}

/** The first point of a course beyond a place on it. */
export function pointAt({ s, count }: Course, m: number): number {
  let [low, high] = [1, count - 1]
  while (low < high) {
    const mid = (low + high) >> 1
    if (s[mid] < m) low = mid + 1
    else high = mid
  }
  return low
}
