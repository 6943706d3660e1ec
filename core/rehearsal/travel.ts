import { distance3, type Point3 } from '@tidytrail/core/geometry'
import type { PathAnswer, Spot } from '@tidytrail/core/reach'
import { makeCourse, PACK, type Course, type CourseLeg } from './course'
import type { Engine } from './engine'
import { joinKept, pointAt, toleranceOf } from './traffic/kept-courses'
import { oversOn } from './traffic/overs'
import { STATE } from './world'

/** What is nearer to a line than this is on it, metres. */
const ON_LINE_M = 0.6

export const here = ({ world }: Engine, n: number): Point3 => [world.x[n], world.y[n], world.z[n]]

/** The found way from where an agent is to a place. */
export const wayTo = (engine: Engine, n: number, place: Point3): PathAnswer =>
  engine.profileOf(n).planner.path(here(engine, n), place)

/** Why there is no way, as a cause a step of a brief fails by. */
export const causeOf = (answer: PathAnswer & { found: false }): 'start' | 'end' | 'apart' =>
  answer.why === 'start-off-reach' ? 'start' : answer.why === 'end-off-reach' ? 'end' : 'apart'

/** Sends an agent along some legs. @param halts does it stand still at their end? */
export function setOut(engine: Engine, n: number, legs: readonly CourseLeg[], halts: boolean): void {
  const { world, t } = engine
  const row = engine.profileOf(n)
  const halting = halts && row.powers.slowestMps === 0
  const same = joinKept(engine, n, legs, halting)
  const course = same?.course ?? ownCourse(engine, n, legs, halting)
  const { crossings } = engine.scenario.traffic
  world.courses[n] =
    crossings.length > 0 && !row.body.pursues ? { ...course, overs: oversOn(course, crossings) } : course
  world.along[n] = same?.s ?? 0
  world.beganS[n] = Math.max(0, world.along[n])
  world.point[n] = same ? pointAt(course, same.s) : 1
  world.loaded[n] = -1
  // The leg of the course before is none of this one's.
  world.legToS[n] = -Infinity
  world.passages[n] = course.uses.length
  world.leg[n] = 0
  makeFor(engine, n, 0)
  world.legSince[n] = t
  progress(engine, n)
  world.state[n] = STATE.walking
}

/** A course over some legs that begins where somebody stands. */
function ownCourse(engine: Engine, n: number, legs: readonly CourseLeg[], halts: boolean): Course {
  const row = engine.profileOf(n)
  return makeCourse([joinOn(engine, n, legs[0]), ...legs.slice(1)], row.powers, halts, toleranceOf(row))
}

/** How long the leg it is on takes, of which it may have begun only the rest, seconds. */
export function expectedS({ world }: Engine, n: number, { marks }: Course): number {
  const k = Math.min(world.leg[n], marks.length - 1)
  const { expectedS, legM } = marks[k]
  return k === 0 && legM > 0 ? expectedS * (1 - Math.min(legM, world.beganS[n]) / legM) : expectedS
}

/**
 * Goes on along the course one is on, if it leads to that stop next and far enough beyond it to be slowed down for in time. @param needM so far
 * @returns does it?
 */
export function keepsOn(engine: Engine, n: number, stop: number, needM: number): boolean {
  const { world, t } = engine
  const course = world.courses[n]
  const leg = world.leg[n] + 1
  if (!course || course.marks[leg]?.stop !== stop) return false
  // Who counts as there while still far from it goes on from where it is.
  if (course.s[course.marks[leg - 1].point] - world.along[n] > ON_LINE_M) return false
  // Beyond the next stop too: its bend is only known by what comes after it.
  if (!course.halts && course.s[course.count - 1] - course.s[course.marks[leg].point] < needM) return false
  world.leg[n] = leg
  world.legSince[n] = t
  progress(engine, n)
  world.state[n] = STATE.walking
  return true
}

/** What a corner of a course is: bits of `corner`. */
export const STOP = 1
export const LAST = 2
export const PASSAGE = 4

/** Writes the piece of the course an agent is on to its columns. */
export function loadPiece({ world }: Engine, n: number, course: Course): void {
  const k = world.point[n]
  world.loaded[n] = k
  if (k >= course.count) return
  world.startX[n] = course.x[k - 1]
  world.startY[n] = course.y[k - 1]
  world.startS[n] = course.s[k - 1]
  world.cornerX[n] = course.x[k]
  world.cornerY[n] = course.y[k]
  world.cornerS[n] = course.s[k]
  world.cornerMps[n] = course.limit[k]
  world.gaitMps[n] = course.gait[k]
  let what = course.marks[world.mark[n]]?.point === k ? STOP : 0
  if (k === course.count - 1) what |= LAST
  for (const use of course.uses) if (use.at === k || use.at === k - 1) what |= PASSAGE
  world.corner[n] = what
}

/** Writes what somebody carried along its lane has to know of the piece of the course it is on: how fast, how far, and what is there. */
export function loadSpeeds(engine: Engine, n: number, course: Course): void {
  const { world } = engine
  // Who may come to a passage has to know all of it.
  if (world.passages[n] > 0) return loadPiece(engine, n, course)
  const k = world.point[n]
  const q = PACK * k
  world.loaded[n] = k
  if (k >= course.count) return
  world.cornerS[n] = course.packed[q + 2]
  world.cornerMps[n] = course.packed[q + 3]
  world.gaitMps[n] = course.packed[q + 4]
  world.corner[n] = k === course.count - 1 ? LAST : 0
}

/** Makes for a stop of the course; beyond the last one there is none, and the last stays the goal. */
export function makeFor({ world }: Engine, n: number, mark: number): void {
  const course = world.courses[n]!
  world.mark[n] = mark
  const at = course.marks[mark]
  if (!at) return
  world.goalX[n] = course.x[at.point]
  world.goalY[n] = course.y[at.point]
  world.goalS[n] = course.s[at.point]
  world.goalMps[n] = course.limit[at.point]
}

/** How far it is along the course to the next stop on it, metres. */
export const leftM = ({ world }: Engine, n: number): number => (world.courses[n] ? world.goalS[n] - world.along[n] : 0)

/** Begins to count anew how long no way has been made. */
export function progress(engine: Engine, n: number): void {
  const { world, t } = engine
  world.best[n] = leftM(engine, n)
  world.bestSince[n] = t
  world.turned[n] = 0
  world.tries[n] = 0
}

/** Where an agent is; on the middle of its lane where it is carried along that and still beside it. */
function onItsLine({ world }: Engine, n: number): Point3 {
  const aside = world.rail[n] === 1 ? world.asideM[n] : 0
  return [world.x[n] + aside * world.headY[n], world.y[n] - aside * world.headX[n], world.z[n]]
}

/** Who is carried along a lane is looked for so far about where it last was, metres. */
const RAIL_M = 3

/** How far along a leg one is who is carried along the lane it leads along, metres. */
function railM({ world: { rail, piece, pieceM }, scenario }: Engine, n: number, { on }: CourseLeg): number | undefined {
  if (rail[n] === 0 || on?.piece !== piece[n]) return undefined
  const of = scenario.traffic.pieces[piece[n]]
  const m = pieceM[n] - on.fromM
  // The last that is known may be of the lap before.
  return of?.closed && m > of.lengthM / 2 ? m - of.lengthM : m
}

/** The leg begun from where the agent stands: it may have stopped short of a stop, or been pushed off. */
function joinOn(engine: Engine, n: number, leg: CourseLeg): CourseLeg {
  const { line } = leg
  const place = onItsLine(engine, n)
  if (line.length < 2 || distance3(place, line[0]) < 1e-6) return leg
  let best = Infinity
  let piece = 1
  let on: Point3 = line[0]
  let run = 0
  const alongM = railM(engine, n, leg)
  for (let k = 1; k < line.length; k++) {
    const [ax, ay, az] = line[k - 1]
    const dx = line[k][0] - ax
    const dy = line[k][1] - ay
    const length2 = dx * dx + dy * dy
    if (leg.uses.some((u) => u.at === k - 1)) break
    const share = length2 > 0 ? Math.min(1, Math.max(0, ((place[0] - ax) * dx + (place[1] - ay) * dy) / length2)) : 0
    const m = Math.sqrt((ax + share * dx - place[0]) ** 2 + (ay + share * dy - place[1]) ** 2)
    // Of places as near the first: one does not jump ahead over a loop of the line; who is carried knows where it is.
    const near =
      alongM === undefined ? run < 4 * best + 2 : Math.abs(run + share * Math.sqrt(length2) - alongM) < RAIL_M
    if (m < best - 1e-6 && near) {
      best = m
      piece = k
      on = [ax + share * dx, ay + share * dy, az + share * (line[k][2] - az)]
    }
    run += Math.sqrt(length2)
  }
  const uses = leg.uses.flatMap((u) => (u.at >= piece - 1 ? [{ ...u, at: u.at - piece + 2 }] : []))
  if (best < ON_LINE_M) {
    // On the line already: from here straight on.
    const rest = { line: [place, ...line.slice(piece)], uses: uses.map((u) => ({ ...u, at: u.at - 1 })) }
    return { ...leg, ...rest, behind: line[piece - 1] }
  }
  const { walker } = engine.profileOf(n)
  const spot = spotOf(engine, n)
  if (spot && walker.walk(spot, place[0], place[1], on[0], on[1]))
    return { ...leg, line: [place, on, ...line.slice(piece)], uses }
  return { ...leg, line: [place, ...line], uses: leg.uses.map((u) => ({ ...u, at: u.at + 1 })) }
}

/** The floor of the reach an agent stands on; undefined when it stands on none. */
export function spotOf({ world }: Engine, n: number) {
  if (world.spotTile[n] < 0) return undefined
  const more = world.spotMore[n]
  const spot = { tile: world.spotTile[n], column: world.spotColumn[n], floor: world.spotFloor[n] }
  return more < 0 ? spot : { ...spot, more }
}

/** Notes the floor of the reach an agent is on. */
export function setSpot({ world }: Engine, n: number, spot: Spot): void {
  world.spotTile[n] = spot.tile
  world.spotColumn[n] = spot.column
  world.spotFloor[n] = spot.floor
  world.spotMore[n] = spot.more ?? -1
}

/** Has an agent got to the end of its course? */
export function hasArrived(engine: Engine, n: number): boolean {
  const course = engine.world.courses[n]
  return course !== null && engine.world.mark[n] >= course.marks.length
}

/** Notes what held an agent back at this step, where it is the strictest. */
export function holdBack({ world }: Engine, n: number, mps: number, limit: number, by = 0): void {
  if (mps >= world.wantSpeed[n]) return
  world.wantSpeed[n] = mps
  world.limit[n] = limit
  world.limitBy[n] = by
}
