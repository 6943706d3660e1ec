import type { Engine } from './engine'
import { looksEvery } from './sense'
import { progress } from './travel'
import type { Variant } from './scenario'
import { holdsNow } from './whens'
import { NO_TURNS, STATE } from './world'

/** After a sentence is done nothing interrupts for so long, seconds: one that is still so would else begin at every look. */
const CALM_S = 1

/** Looks whether a standing sentence interrupts what an agent is doing, and begins it. As often as everybody looks round. */
export function interrupt(engine: Engine): void {
  const { world, scenario } = engine
  if (!scenario.interrupts || world.steps % looksEvery(engine) !== 0) return
  for (let n = 0; n < world.count; n++) {
    if (world.key[n] === 0) continue
    const told = engine.toldOf(n)
    if (!told?.remembers) continue
    keepInMind(engine, n)
    const state = world.state[n]
    if (told.whens.length === 0 || state === STATE.crossing || state === STATE.steered) continue
    if (engine.t < world.calmUntil[n] || world.rides[n] > 0) continue
    // One further up interrupts those below it.
    const most = world.within[n] === 0 ? told.whens.length : world.within[n] - 1
    for (let k = 0; k < most; k++) {
      if (world.over[n] & (1 << k)) continue
      const about = holdsNow(engine, n, told.whens[k])
      if (about === undefined) continue
      begin(engine, n, told, k, about)
      break
    }
  }
}

/** Where whom it has in mind is now, if it perceives them. */
function keepInMind(engine: Engine, n: number): void {
  const target = engine.world.target[n]
  if (target === 0) return
  for (const [m] of engine.perceivedBy(n)) if (engine.world.key[m] === target) engine.remember(n, m)
}

/** @param about the slot of whom it is about; −1 for nobody */
function begin(engine: Engine, n: number, told: Variant, k: number, about: number): void {
  const { world, t } = engine
  if (world.within[n] === 0) {
    world.keptStep[n] = world.step[n]
    world.keptChoice[n] = world.choice[n]
    world.keptFrom[n] = world.fromStop[n]
    world.keptTo[n] = world.toStop[n]
    world.keptDirection[n] = world.direction[n]
    world.keptLap[n] = world.lap[n]
    world.keptRoute[n] = world.route[n]
    world.keptSince[n] = world.stepSince[n]
    world.keptAt[n] = t
    // Through with its brief, or given up on it for good.
    const stands = world.state[n] === STATE.blocked && world.until[n] === Infinity
    world.keptDone[n] = world.state[n] === STATE.done || stands ? 1 : 0
  }
  if (told.whens[k].once) world.over[n] |= 1 << k
  world.within[n] = k + 1
  world.step[n] = -1
  world.courses[n] = null
  world.state[n] = STATE.idle
  world.asideUntil[n] = 0
  world.failed[n] = 0
  if (about >= 0) {
    world.target[n] = world.key[about]
    engine.remember(n, about)
  }
  engine.log(n, 'interrupted', k, about >= 0 ? world.key[about] : 0)
}

/** A standing sentence has come to its end: what was interrupted is taken up again, passed over, or begun anew. */
export function goBack(engine: Engine, n: number): 'take-up' | 'next' | 'done' {
  const { world, t } = engine
  const k = world.within[n] - 1
  const after = engine.toldOf(n)?.whens[k]?.after ?? 'take-up'
  engine.log(n, 'took-up', k)
  world.within[n] = 0
  world.calmUntil[n] = t + CALM_S
  world.courses[n] = null
  world.state[n] = STATE.idle
  world.turns[n] = NO_TURNS
  world.due[n] = 0
  world.faces[n] = 0
  progress(engine, n)
  if (after === 'again') {
    world.step[n] = -1
    world.roundSince[n] = t
    return 'next'
  }
  world.step[n] = world.keptStep[n]
  if (world.keptDone[n]) return 'done'
  if (after === 'next') return 'next'
  world.choice[n] = world.keptChoice[n]
  world.fromStop[n] = world.keptFrom[n]
  world.toStop[n] = world.keptTo[n]
  world.direction[n] = world.keptDirection[n]
  world.lap[n] = world.keptLap[n]
  world.route[n] = world.keptRoute[n]
  // The time in between does not count.
  world.stepSince[n] = world.keptSince[n] + (t - world.keptAt[n])
  return world.step[n] < 0 ? 'next' : 'take-up'
}
