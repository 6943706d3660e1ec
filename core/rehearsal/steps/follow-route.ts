import { distance2, lengthOf, type Point3 } from '@tidytrail/core/geometry'
import type { Route } from '@tidytrail/core/level'
import { legPath, nextStop, timeOverCovers } from '@tidytrail/core/network'
import { draw, USE } from '../chance'
import type { CourseLeg } from '../course'
import type { Engine } from '../engine'
import { CAUSES } from '../events'
import { rowAt } from '../forks'
import type { ProfileRow } from '../scenario'
import { causeOf, expectedS, here, keepsOn, progress, setOut, spotOf } from '../travel'
import { NO_TURNS, STATE, type Turn } from '../world'
import { isOpenEnd, stretchOf } from '../traffic/lanes'
import { waysBound } from '../traffic/bound'
import { keptLeg } from '../traffic/kept-courses'
import { pieceAt } from '../traffic/rails'
import { gaitOf, onRoute, plainRow, withOptions, type StepEnd, type StepRow, type StepRun } from './step'

/** Arrival radius of a stop that names none, metres. */
export const DEFAULT_ARRIVAL_M = 0.3
/** So far ahead a course is laid over stops that are passed without a halt, metres, and over so many. */
const AHEAD_M = 60
const MOST_LEGS = 16
/** With so much of it left beyond the next stop one keeps to the course one is on, metres; a fast one needs more. */
const KEEPS_M = 15

export const followRoute: StepRun<'follow-route'> = {
  kind: 'follow-route',
  compile({ level, profile, registers }, step) {
    const rowOn = (routeId: string | null): StepRow => {
      const route = routeId ? level.routes[routeId] : undefined
      const gaits = [step.gait, ...(route?.order.map((s) => route.stops[s].gait) ?? [])]
      const row = plainRow(step, gaitOf(profile, step.gait))
      return {
        ...(route ? onRoute(row, level, routeId!, registers.routes.of(routeId!)) : row),
        from: step.from,
        lacksGait: gaits.some((g) => g !== null && profile.profile.gaits[g] === undefined),
        times: step.rounds ?? 0,
        forS: step.forS ?? 0,
      }
    }
    return withOptions(
      rowOn(step.routeId),
      step,
      step.others.map((o) => rowOn(o.routeId)),
    )
  },

  begin(engine, n, row) {
    const { world } = engine
    if (!row.route) return 'no-route'
    if (row.route.order.length < 2) return 'few-stops'
    world.fromStop[n] = -1
    world.direction[n] = 1
    world.lap[n] = 0
    world.visited[n] = []
    world.turns[n] = NO_TURNS
    const first = row.route.travel === 'any-order' ? nextOf(engine, n, row, -1)!.to : firstOf(engine, n, row)
    return goTo(engine, n, row, first)
  },

  resume(engine, n, row) {
    const { world } = engine
    if (!row.route || world.toStop[n] < 0 || world.toStop[n] >= row.stops.length) return this.begin(engine, n, row)
    // To the stop it was making for, from where it now is.
    world.fromStop[n] = -1
    world.turns[n] = NO_TURNS
    return goTo(engine, n, row, world.toStop[n])
  },

  update(engine, n, row) {
    const { world, t } = engine
    if (!row.route) return 'no-route'
    const state = world.state[n]
    if (state === STATE.pausing) return t + 1e-9 >= world.until[n] ? goOn(engine, n, row) : 'running'
    if (state === STATE.blocked) {
      // Something may have opened.
      if (t < world.until[n]) return 'running'
      return goTo(engine, n, row, world.toStop[n])
    }
    const course = world.courses[n]
    if (!course || world.mark[n] <= world.leg[n]) return 'running'
    return arrive(engine, n, row, expectedS(engine, n, course))
  },
}

/** Sets somebody who has just appeared on a lane going along it, so far along and from a stop it is at or beyond. */
export function setOnLane(engine: Engine, n: number, routeId: string, stop: number, m: number, mps: number): void {
  const { world, t } = engine
  world.step[n] = 0
  world.choice[n] = 0
  world.stepSince[n] = t
  world.visited[n] = []
  world.direction[n] = 1
  world.mayChange[n] = 1
  if (!comeOnto(engine, n, routeId, stop, m, 0)) return
  world.speed[n] = mps
  world.vx[n] = world.headX[n] * mps
  world.vy[n] = world.headY[n] * mps
}

/**
 * Sets somebody going along the lane beside the one it is carried along; it comes over as it goes.
 * @param asideM how far to the left of that lane it is @param why as its event says
 * @returns can it?
 */
export function goOverTo(engine: Engine, n: number, routeId: string, m: number, asideM: number, why: number): boolean {
  const { world, scenario } = engine
  const lane = scenario.traffic.net.lanes.get(routeId)
  const stop = lane ? stopBefore(lane, m) : -1
  const next = stop < 0 ? undefined : nextStop(lane!.route, stop, 1)
  // Where its body has no way along the other lane it stays on this one.
  if (!next || !legPath(engine.profileOf(n).planner, lane!.route, scenario.level.waypoints, stop, next.to).found)
    return false
  const [from, fromM] = [world.piece[n], world.pieceM[n]]
  // What it had looked at lies ahead of the lane it leaves.
  world.goes[n] = world.heldAt[n] = world.heldWhy[n] = world.stoodSince[n] = 0
  if (!comeOnto(engine, n, routeId, stop, m, asideM)) return true
  world.leaves[n] = from + 1
  world.leavesM[n] = fromM
  engine.log(n, 'changed-lanes', why)
  return true
}

/** The last stop of a lane before a place along it; −1 where nothing comes after. */
export function stopBefore({ stopM, closed }: { stopM: readonly number[]; closed: boolean }, m: number): number {
  const k = stopM.findLastIndex((s) => s <= m)
  return closed || k < stopM.length - 1 ? k : -1
}

/** Begins to be carried along a lane from a place beside it on. @returns can it be? */
function comeOnto(engine: Engine, n: number, routeId: string, stop: number, m: number, asideM: number): boolean {
  const { world, registers } = engine
  world.route[n] = registers.routes.of(routeId)
  world.turns[n] = NO_TURNS
  world.fromStop[n] = stop
  const row = engine.rowOf(n)!
  const next = nextStop(row.route!, stop, 1)
  if (!next) return false
  world.rail[n] = 1
  world.piece[n] = registers.pieces.of(routeId)
  world.pieceM[n] = m
  world.asideM[n] = asideM
  goTo(engine, n, row, next.to)
  const course = world.courses[n]
  if (!course?.track) {
    world.rail[n] = 0
    return false
  }
  world.onLeg[n] = 0
  pieceAt(engine, n, course)
  return true
}

/** Half as far again as it takes to brake from a speed, metres. */
const brakesM = ({ powers }: ProfileRow, mps: number) => (1.5 * mps * mps) / (2 * powers.brakeMps2)

/** The stop it makes for first: the start, the nearest one, or the one after the nearest place of its line. */
function firstOf(engine: Engine, n: number, row: StepRow): number {
  const { world } = engine
  if (row.from === 'start') return 0
  const at = here(engine, n)
  if (row.from === 'stop') {
    const far = row.stops.map((p) => distance2(p, at))
    return far.indexOf(Math.min(...far))
  }
  const route = row.route!
  const legs = row.stops.map((_, k) => k).slice(0, route.travel === 'round' ? undefined : -1)
  let best = Infinity
  let leg = 0
  let on = at
  for (const k of legs) {
    const [p, q] = [row.stops[k], row.stops[(k + 1) % row.stops.length]]
    const d2 = (q[0] - p[0]) ** 2 + (q[1] - p[1]) ** 2
    const along = d2 > 0 ? ((at[0] - p[0]) * (q[0] - p[0]) + (at[1] - p[1]) * (q[1] - p[1])) / d2 : 0
    const share = Math.min(1, Math.max(0, along))
    const place: Point3 = [p[0] + share * (q[0] - p[0]), p[1] + share * (q[1] - p[1]), p[2]]
    const d = distance2(place, at)
    if (d >= best) continue
    best = d
    leg = k
    on = place
  }
  const to = (leg + 1) % row.stops.length
  const spot = spotOf(engine, n)
  // Onto the line where nothing stands between; otherwise straight to the stop it leads to.
  if (spot && engine.profileOf(n).walker.walk(spot, at[0], at[1], on[0], on[1])) world.fromStop[n] = leg
  return to
}

const stopAt = (route: Route, k: number) => route.stops[route.order[k]]

/** Does a traveller stand still at a stop, as far as chance does not decide? */
const halts = (route: Route, k: number) => stopAt(route, k).pause.maxS > 0 && stopAt(route, k).pauseShare > 0

/** The stop after one, or the first; undefined at the end of the way. Chance is drawn where it decides. */
function nextOf(engine: Engine, n: number, row: StepRow, at: number): { to: number; direction: 1 | -1 } | undefined {
  const { world, seed } = engine
  const route = row.route!
  if (route.travel !== 'any-order') return nextStop(route, at, world.direction[n] as 1 | -1)
  let left = row.stops.map((_, k) => k).filter((k) => k !== at && !world.visited[n].includes(k))
  if (left.length === 0) {
    world.visited[n] = [at]
    world.lap[n]++
    left = row.stops.map((_, k) => k).filter((k) => k !== at)
  }
  if (route.pick === 'nearest') {
    const from: Point3 = at < 0 ? here(engine, n) : row.stops[at]
    const far = (k: number) => distance2(from, row.stops[k])
    return { to: left.reduce((a, b) => (far(b) < far(a) ? b : a)), direction: 1 }
  }
  const k = Math.floor(draw(seed, USE.order, world.key[n], world.drawsOrder[n]++) * left.length)
  return { to: left[k], direction: 1 }
}

function goOn(engine: Engine, n: number, row: StepRow): StepEnd {
  const { world } = engine
  const at = world.toStop[n]
  if (at >= row.stops.length) return 'gone'
  if (row.forS > 0 && engine.t - world.stepSince[n] >= row.forS) return 'done'
  if (at === 0 && row.route!.travel === 'there-and-back' && world.direction[n] === -1) world.lap[n]++
  if (at === 0 && row.times > 0 && world.lap[n] >= row.times) return 'done'
  const turn = turnAt(engine, n, row, at, 0)
  if (turn) world.turns[n] = world.turns[n].slice(1)
  if (turn && !goesStraightOn(row, at, turn)) {
    // Over a link, into another lane or to another stop of this one, from where it is.
    world.route[n] = turn.route
    world.fromStop[n] = -1
    engine.log(n, 'turned', turn.stop)
    return goTo(engine, n, engine.rowOf(n)!, turn.stop, turn)
  }
  const next = nextOf(engine, n, row, at)
  if (!next) return 'done'
  if (next.to === 0 && row.route!.travel === 'round') world.lap[n]++
  if (row.times > 0 && row.route!.travel === 'any-order' && world.lap[n] >= row.times) return 'done'
  world.fromStop[n] = at
  world.direction[n] = next.direction
  return goTo(engine, n, row, next.to)
}

/** Is what was drawn the lane's own way on? */
const goesStraightOn = (row: StepRow, at: number, turn: Turn): boolean =>
  turn.route === row.routeNumber && turn.stop === nextStop(row.route!, at, 1)?.to

/** Which way an agent takes at a fork: drawn by the shares of the ways that part there. @param ahead how many forks lie before it */
function turnAt(engine: Engine, n: number, row: StepRow, at: number, ahead: number): Turn | undefined {
  const { world, scenario, seed } = engine
  const parting = scenario.forks.get(row.routeNumber)?.[at]
  if (!parting || parting.length === 0) return undefined
  const ways = waysBound(engine, n, row.routeNumber, at, parting)
  const drawn = world.turns[n][ahead]
  // What was drawn before an edit may no longer be there.
  if (drawn && ways.some((w) => w.route === drawn.route && w.stop === drawn.stop)) return drawn
  const all = ways.reduce((sum, w) => sum + w.share, 0)
  if (all === 0) return undefined
  let left = draw(seed, USE.fork, world.key[n], world.drawsFork[n]++) * all
  const way = ways.find((w) => (left -= w.share) < 0) ?? ways.findLast((w) => w.share > 0)!
  world.turns[n] = [...world.turns[n].slice(0, ahead), way]
  if (ways.length > 1)
    engine.events.add(world.steps, world.key[n], 'drew', Math.round((1000 * way.share) / all), 0, 0, way.route)
  return way
}

/** Is it out of the level once it comes to the end of a route? */
const leavesAtEnd = (engine: Engine, n: number, { route, routeId }: StepRow): boolean =>
  isOpenEnd(route) &&
  !engine.scenario.traffic.pieces[engine.registers.pieces.of(routeId!)]?.drops &&
  engine.world.within[n] === 0 &&
  engine.world.step[n] === engine.stepsNow(n).length - 1

/**
 * Sends an agent to a stop, and over those after it that are passed without a halt.
 * @param over the way that leads there from another lane
 */
function goTo(engine: Engine, n: number, row: StepRow, to: number, over?: Turn): StepEnd {
  const { world, scenario, t } = engine
  const route = row.route!
  const profile = engine.profileOf(n)
  if (to >= row.stops.length) return 'gone'
  world.toStop[n] = to
  world.arrivalM[n] = stopAt(route, to).arrivalRadiusM ?? DEFAULT_ARRIVAL_M
  if (keepsOn(engine, n, to, Math.max(KEEPS_M, brakesM(profile, gaitOf(profile, null))))) {
    world.failed[n] = 0
    return 'running'
  }
  const from = world.fromStop[n]
  const first = legTo(engine, n, row, from < 0 ? here(engine, n) : from, to, over)
  if (typeof first === 'string') {
    if (world.state[n] !== STATE.blocked) engine.log(n, 'blocked', CAUSES.indexOf(first), from, to)
    world.state[n] = STATE.blocked
    world.courses[n] = null
    world.until[n] = t + 2
    world.failed[n] = 1 + CAUSES.indexOf(first)
    world.failedAt[n] = to
    return 'running'
  }
  world.failed[n] = 0
  const legs = [first]
  let ends = halts(route, to)
  if (route.travel !== 'any-order') {
    let on = row
    let at = to
    let direction = world.direction[n] as 1 | -1
    let forks = 0
    // Along lanes it has to be known early what comes after the next stop: junctions are looked at from afar.
    let run = first.on ? 0 : lengthOf(first.line)
    const needM = Math.max(AHEAD_M, brakesM(profile, first.gaitMps))
    while (!ends && run < needM && legs.length < MOST_LEGS) {
      const turn = turnAt(engine, n, on, at, forks)
      if (turn) forks++
      const turns = turn !== undefined && !goesStraightOn(on, at, turn)
      const from: number | Point3 = turns ? on.stops[at] : at
      const next = turns ? { to: turn.stop, direction: 1 as const } : nextStop(on.route!, at, direction)
      if (turns) on = rowAt(scenario, engine.registers, row, turn.route)!
      const leg = next && legTo(engine, n, on, from, next.to, turns ? turn : undefined)
      if (!next || typeof leg === 'string') {
        // Who leaves there drives on as it came.
        ends = next !== undefined || !leavesAtEnd(engine, n, on)
        break
      }
      legs.push(leg!)
      run += lengthOf(leg!.line)
      ends = halts(on.route!, next.to)
      at = next.to
      direction = next.direction
    }
  } else ends = true
  setOut(engine, n, legs, ends)
  return 'running'
}

/** A leg of a route, the one that is kept where it leads along lanes. */
function legTo(
  engine: Engine,
  n: number,
  row: StepRow,
  from: number | Point3,
  to: number,
  over?: Turn,
): CourseLeg | 'start' | 'end' | 'apart' {
  const { world, scenario } = engine
  const make = () => legOf(engine, row, engine.profileOf(n), from, to, over)
  const way = over?.piece !== undefined ? `over ${over.piece}` : typeof from === 'number' ? from : undefined
  if (way === undefined || world.rail[n] === 0) return make()
  return keptLeg(scenario, `${world.profile[n]} ${row.routeNumber} ${row.gaitMps} ${way} ${to}`, make)
}

/**
 * A leg of a route from one stop, or from a place, to another.
 * @param over the way whose line is to be followed; one is found where it cannot be
 */
function legOf(
  { scenario, registers }: Engine,
  row: StepRow,
  profile: ProfileRow,
  from: number | Point3,
  to: number,
  over?: Turn,
): CourseLeg | 'start' | 'end' | 'apart' {
  const { level } = scenario
  const route = row.route!
  const { planner, body, powers } = profile
  const drawn = over?.line && planner.along(over.line)
  const path = drawn?.found
    ? drawn
    : typeof from === 'number'
      ? legPath(planner, route, level.waypoints, from, to)
      : planner.path(from, row.stops[to], 'found')
  if (!path.found) return causeOf(path)
  const asked = gaitOf(profile, stopAt(route, to).gait ?? null)
  const gait = stopAt(route, to).gait !== null ? asked : row.gaitMps
  const gaitMps = Math.max(powers.slowestMps, Math.min(gait, route.speedLimitMps ?? Infinity))
  const extraS = Math.max(0, timeOverCovers(path, level.covers, gaitMps) - path.lengthM / gaitMps - sumTakes(path.uses))
  const line =
    body.medium === 'air'
      ? heightsOf(path.line, typeof from === 'number' ? row.stops[from] : from, row.stops[to])
      : path.line
  const on = drawn?.found
    ? { piece: over!.piece!, fromM: 0, toM: scenario.traffic.pieces[over!.piece!]?.lengthM ?? 0 }
    : typeof from === 'number'
      ? stretchOf(scenario, registers, row.routeId!, from, to)
      : undefined
  return { line, uses: path.uses, gaitMps, stop: to, extraS, ...(on && { on }) }
}

const sumTakes = (uses: readonly { takesS: number }[]) => uses.reduce((s, u) => s + u.takesS, 0)

/** The line of a flyer's leg: from the height of one stop evenly to that of the next. */
function heightsOf(line: readonly Point3[], from: Point3, to: Point3): Point3[] {
  const whole = Math.max(1e-9, lengthOf(line))
  let run = 0
  return line.map((p, k) => {
    if (k > 0) run += distance2(line[k - 1], p)
    return [p[0], p[1], from[2] + ((to[2] - from[2]) * run) / whole]
  })
}

/** Notes that a stop has been made, and pauses there or goes on. */
function arrive(engine: Engine, n: number, row: StepRow, expectedS: number): StepEnd {
  const { world, t, seed } = engine
  const route = row.route!
  const at = world.toStop[n]
  const stop = stopAt(route, at)
  if (!stop) return 'gone'
  world.made[n]++
  world.tookS[n] += t - world.legSince[n]
  world.expectedS[n] += expectedS
  world.visited[n] = [...world.visited[n], at]
  const { minS, maxS } = stop.pause
  const luck = () => draw(seed, USE.pause, world.key[n], world.drawsPause[n]++)
  // A draw is made only where something hangs on it, so that other pauses keep their luck.
  const pauses = maxS > 0 && (stop.pauseShare >= 1 || luck() < stop.pauseShare)
  const pauseS = !pauses ? 0 : maxS > minS ? minS + luck() * (maxS - minS) : minS
  engine.log(n, 'reached', at, Math.round(pauseS * 1000), world.lap[n])
  if (pauseS === 0) return goOn(engine, n, row)
  world.state[n] = STATE.pausing
  world.until[n] = t + pauseS
  world.pauseSince[n] = t
  world.pausedS[n] += pauseS
  progress(engine, n)
  return 'running'
}
