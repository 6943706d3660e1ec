import { exact, type Point3 } from '@tidytrail/core/geometry'
import { draw, USE } from './chance'
import { wayRound } from './detour'
import type { Engine } from './engine'
import { CAUSES, LIMIT } from './events'
import { runOf, type StepRow } from './steps/list'
import { goBack } from './interrupt'
import { leave } from './leave'
import { isOpenEnd } from './traffic/lanes'
import { optionOf } from './options'
import { givePostUp } from './steps/hold'
import { leftM, makeFor, progress, setOut, wayTo } from './travel'
import { STATE } from './world'

/** No way made for so long is being stuck, seconds; so much is way made, metres. */
const STUCK_S = 3
/** Where there is room to step aside it is done sooner, seconds. */
const WIDE_S = 1
const WAY_M = 0.25
/** A whole turn and a bit without getting on is an orbit, radians. */
const ORBIT_RAD = 2.3 * Math.PI
/** What is tried, one after the other, and after how many tries one gives up. */
const TRIES = ['plan', 'wait', 'aside', 'wait', 'plan', 'aside', 'wait', 'aside'] as const
/** One does not give up in a crowd before so long, seconds. */
const JAM_S = 180
/** What failed is tried again after so long, seconds. */
const AGAIN_S = 2
/** How long one stands aside, seconds. */
const ASIDE_S = 1.5
/** How long one backs up, seconds. */
const BACK_S = 4.5

/** Lets each agent choose what to do next: the next step of its brief, or to go on with this one; and notices who is stuck. */
export function decide(engine: Engine): void {
  const { world, scenario } = engine
  const { key, state } = world
  for (let n = 0; n < world.count; n++) {
    if (key[n] === 0 || state[n] === STATE.crossing || state[n] === STATE.done || state[n] === STATE.steered) continue
    // On the way, and neither there nor stuck: nothing to decide.
    const walking = state[n] === STATE.walking
    const stuck = walking && isStuck(engine, n)
    // Who has stood aside is off its way: it goes on from where it is.
    const aside = walking && world.asideUntil[n] > 0 && engine.t >= world.asideUntil[n]
    const due = world.due[n] > 0 && engine.t + 1e-9 >= world.due[n]
    if (walking && !stuck && !aside && !due && world.mark[n] === world.leg[n]) continue
    if (state[n] === STATE.pausing && !due && engine.t + 1e-9 < world.until[n]) continue
    if (!scenario.profiles[world.profile[n]]) continue
    if (state[n] === STATE.idle) nextStep(engine, n)
    else {
      if (state[n] === STATE.blocked && engine.t < world.until[n]) continue
      if (world.again[n] === 1) {
        begin(engine, n, engine.rowOf(n))
        continue
      }
      const row = engine.rowOf(n)
      if (!row) {
        if (state[n] !== STATE.blocked) state[n] = STATE.idle
        continue
      }
      if (aside) {
        world.asideUntil[n] = 0
        planAnew(engine, n, row)
      }
      if (stuck) tryAgain(engine, n, row)
      if (state[n] !== STATE.idle) end(engine, n, runOf(row.kind).update(engine, n, row))
    }
  }
}

function nextStep(engine: Engine, n: number): void {
  const { world } = engine
  const last = engine.rowOf(n)
  // A post is held for as long as its step lasts; while that is broken off too.
  if (world.within[n] === 0) givePostUp(engine, n)
  world.step[n]++
  world.tried[n] = 0
  const steps = engine.stepsNow(n)
  const plain = steps[world.step[n]]
  world.choice[n] = plain ? optionOf(engine, n, plain, world.step[n], true) : 0
  const row = plain?.options[world.choice[n]] ?? plain
  world.route[n] = row?.routeNumber ?? -1
  world.courses[n] = null
  world.faces[n] = 0
  if (!row) {
    if (world.within[n] > 0) return takeUp(engine, n)
    world.state[n] = STATE.done
    world.toStop[n] = -1
    if (steps.length > 0) engine.log(n, 'finished')
    leaveAtEnd(engine, n, last)
    return
  }
  world.stepSince[n] = engine.t
  if (steps.length > 1 || world.within[n] > 0) engine.log(n, 'began', world.step[n], world.within[n])
  if (row.lacksGait) engine.log(n, 'gait-missing', world.step[n])
  begin(engine, n, row)
}

/** Begins the step an agent is at, or begins it anew. */
function begin(engine: Engine, n: number, row: StepRow | undefined): void {
  const { world } = engine
  world.again[n] = 0
  world.due[n] = 0
  world.phase[n] = 0
  world.fromStop[n] = world.toStop[n] = -1
  if (row) end(engine, n, runOf(row.kind).begin(engine, n, row))
  else world.state[n] = STATE.idle
}

/** Goes on after a standing sentence has come to its end. */
function takeUp(engine: Engine, n: number): void {
  const { world } = engine
  const how = goBack(engine, n)
  if (how === 'done') {
    givePostUp(engine, n)
    world.state[n] = STATE.done
    return
  }
  if (how === 'next') return
  const row = engine.rowOf(n)
  if (row?.kind !== 'hold') givePostUp(engine, n)
  if (!row) return
  // Whatever it was, it goes on: where it stands, if nothing else.
  const run = runOf(row.kind)
  if (!run.resume) begin(engine, n, row)
  else end(engine, n, run.resume(engine, n, row))
}

/** The open end of a lane is where what travels it leaves. */
function leaveAtEnd(engine: Engine, n: number, last: StepRow | undefined): void {
  if (!isOpenEnd(last?.route) || engine.world.failed[n] !== 0) return
  leave(engine, n, true)
}

function end(engine: Engine, n: number, how: ReturnType<ReturnType<typeof runOf>['update']>): void {
  const { world } = engine
  if (how === 'running') return
  if (how === 'done') {
    world.state[n] = STATE.idle
    return
  }
  if (how === 'leaves') {
    leave(engine, n, true, true)
    return
  }
  if (how === 'again') {
    engine.log(n, 'began-again')
    world.begunAgain[n]++
    world.roundSince[n] = engine.t
    world.step[n] = -1
    world.state[n] = STATE.idle
    return
  }
  // It failed: what comes next is as its step says; who has nothing else to do stands where it is.
  world.failed[n] = 1 + CAUSES.indexOf(how)
  engine.log(n, 'blocked', CAUSES.indexOf(how), world.fromStop[n], world.toStop[n])
  world.courses[n] = null
  const steps = engine.stepsNow(n)
  const plain = steps[world.step[n]]
  if (plain?.failed === 'another' && ++world.tried[n] < plain.options.length) {
    world.choice[n] = (world.choice[n] + 1) % plain.options.length
    world.route[n] = plain.options[world.choice[n]].routeNumber
    tryLater(engine, n, 0)
    return
  }
  // Whom it was about does not come back: there is nothing to be tried again.
  if (plain?.failed === 'again' && how !== 'nobody' && how !== 'target-gone') {
    tryLater(engine, n, AGAIN_S)
    return
  }
  const more = plain?.failed !== 'give-up' && (world.within[n] > 0 || steps.length > world.step[n] + 1)
  world.state[n] = more ? STATE.idle : STATE.blocked
  world.until[n] = Infinity
}

/** Begins the step it is at anew after a while. */
function tryLater({ world, t }: Engine, n: number, inS: number): void {
  world.again[n] = 1
  world.state[n] = STATE.blocked
  world.until[n] = t + inS
}

/** Has somebody who wants to get on got nowhere for a while? */
function isStuck(engine: Engine, n: number): boolean {
  const { world, t } = engine
  // Looked at only now and then: a tenth of the patience is exact enough.
  if ((world.steps + world.key[n]) % 8 !== 0 || t < world.asideUntil[n]) return false
  // Who is carried along a lane waits for whoever is in front: there is nothing else it could try.
  if (world.rail[n] === 1) return false
  // Nor is there for one who lets vehicles pass before it crosses, or waits for green, and for those who stand behind that one.
  const crossings = engine.scenario.traffic.crossings.length > 0
  if (crossings && waitsAtKerb(engine, n)) world.bestSince[n] = t
  if (leftM(engine, n) < world.best[n] - WAY_M) {
    if (world.tries[n] > 0) engine.log(n, 'free', world.tries[n])
    world.heldBy[n] = 0
    progress(engine, n)
    return false
  }
  // Queueing is waiting for one's turn: those in front decide.
  if (world.courses[n]?.wide) makeRoom(engine, n)
  const patience = world.limit[n] === LIMIT.queue ? 4 * STUCK_S : STUCK_S
  return t - world.bestSince[n] > patience * (1 + world.tries[n] / 2) || world.turned[n] > ORBIT_RAD
}

/** Who stands farther back than this behind one at a kerb may try another way. */
const BEHIND = 6

/** Does one wait at a kerb, or stand behind one who does? */
function waitsAtKerb(engine: Engine, n: number): boolean {
  const { limit, limitBy, rail } = engine.world
  for (let k = 0; k < BEHIND && n >= 0 && rail[n] === 0; k++) {
    if (limit[n] === LIMIT.traffic || limit[n] === LIMIT.signal) return true
    n = engine.slotOf(limitBy[n])
  }
  return false
}

function tryAgain(engine: Engine, n: number, row: StepRow): void {
  const { world, seed, t } = engine
  if (world.turned[n] > ORBIT_RAD) {
    // It goes round the stop without coming nearer: the stop is missed, and the way goes on.
    engine.log(n, 'orbits', world.toStop[n])
    world.orbits[n]++
    world.missed[n]++
    makeFor(engine, n, Math.max(world.leg[n] + 1, world.mark[n]))
    progress(engine, n)
    return
  }
  const tries = ++world.tries[n]
  if (world.limitBy[n] > 0) world.heldBy[n] = world.limitBy[n]
  engine.log(n, 'stuck', world.limit[n], world.limitBy[n], tries)
  if (tries > TRIES.length) {
    const by = world.heldBy[n] > 0 ? world.slotOf(world.heldBy[n]) : -1
    if (by < 0 || world.state[by] !== STATE.walking || t - world.legSince[n] > JAM_S) {
      engine.log(n, 'gave-up', world.toStop[n])
      end(engine, n, 'stuck')
      return
    }
    // In a crowd of those who all want to get on it is tried again: jams dissolve.
    world.tries[n] = 2
    return
  }
  // What cannot turn where it stands needs room before it first.
  const { backsUp } = engine.profileOf(n).body
  const what = backsUp && tries === 1 && world.limitBy[n] > 0 ? 'aside' : TRIES[tries - 1]
  // Where two who both want to get on hold each other up, who came later stands aside.
  const other = world.limit[n] === LIMIT.neighbour && world.limitBy[n] > 0 ? world.slotOf(world.limitBy[n]) : -1
  const later = other >= 0 && world.state[other] === STATE.walking && world.key[other] < world.key[n]
  if (what === 'aside' || later) {
    const side = draw(seed, USE.aside, world.key[n], world.drawsAside[n]++) < 0.5 ? 1 : -1
    standAside(engine, n, side, later ? 0.7 : 0.2, (backsUp ? BACK_S : ASIDE_S) * (later ? 1 + 0.3 * tries : 1))
  } else if (what === 'plan') planAnew(engine, n, row)
}

/** Steps to one side, and back by so much of that, for so many seconds. @param side 1 to the left */
function standAside(engine: Engine, n: number, side: 1 | -1, back: number, s: number): void {
  const { world, t } = engine
  const ax = -world.headX[n] * back - world.headY[n] * side
  const ay = -world.headY[n] * back + world.headX[n] * side
  const length = exact.hypot(ax, ay)
  world.asideX[n] = ax / length
  world.asideY[n] = ay / length
  world.asideUntil[n] = t + s
  engine.log(n, 'stood-aside', world.limitBy[n])
}

/** Where there is room on a lane for walking, of two who hold each other up the one who came later steps to the right, then the other. */
function makeRoom(engine: Engine, n: number): void {
  const { world, t } = engine
  const other = engine.slotOf(world.limitBy[n])
  if (other < 0 || world.asideUntil[n] > world.bestSince[n]) return
  const first = world.state[other] === STATE.walking && world.key[other] > world.key[n]
  if (t - world.bestSince[n] < (first ? 2 * WIDE_S : WIDE_S)) return
  standAside(engine, n, -1, 0.3, ASIDE_S)
}

/** Plans the way to the stop being made for from where the agent is. */
function planAnew(engine: Engine, n: number, row: StepRow): void {
  const { world } = engine
  const course = world.courses[n]
  if (!course) return
  const { anew } = runOf(row.kind)
  if (anew) {
    engine.log(n, 'planned-anew', -1, anew(engine, n, row) === 'running' ? 1 : 0)
    return
  }
  // Who makes for no stop makes for the end of its course: a place, or somewhere in a zone.
  const last = course.count - 1
  const to: Point3 = row.stops[world.toStop[n]] ?? [course.x[last], course.y[last], course.z[last]]
  // Who stands in the way is gone round, if there is room; a way by the reach alone would lead into it again.
  const past = wayRound(engine, n, to)
  const way = past ? engine.profileOf(n).planner.path(past[past.length - 1], to) : wayTo(engine, n, to)
  engine.log(n, 'planned-anew', world.toStop[n], way.found ? 1 : 0)
  if (!way.found) return
  const { tries, bestSince, turned, best } = world
  const [k, round, least] = [tries[n], turned[n], best[n]]
  const since0 = world.legSince[n]
  const gaitMps = course.gait[Math.min(world.point[n], course.count - 1)]
  const line = past ? [...past, ...way.line.slice(1)] : way.line
  const uses = past ? way.uses.map((u) => ({ ...u, at: u.at + past.length - 1 })) : way.uses
  setOut(engine, n, [{ line, uses, gaitMps, stop: world.toStop[n], extraS: 0 }], true)
  world.legSince[n] = since0
  tries[n] = k
  // Each try has its time.
  bestSince[n] = engine.t
  turned[n] = round
  // Going back to where one was is no way made.
  best[n] = Math.min(least, best[n])
}
