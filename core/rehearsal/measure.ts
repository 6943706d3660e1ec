import type { Engine } from './engine'
import { LIMIT, WAITS } from './events'
import { CLASSES, STATE, type World } from './world'

/** Below this speed somebody who wants to walk counts as stuck, metres a second. */
const STUCK_MPS = 0.05
/** The tally's first class ends here, metres; each of the others a tenth farther out than the one before. */
const CLASS_M = 0.02
const WIDER = 1.1
/** Upper ends of the classes, metres. */
const ENDS = Float64Array.from({ length: CLASSES }, (_, k) => {
  let m = CLASS_M
  for (let q = 0; q < k; q++) m *= WIDER
  return m
})
/** Overlaps are looked for so many times a second, and count from this share of touching. */
const LOOKS_HZ = 5
const OVERLAP = 0.98
/** What held somebody back within this before it strayed is to blame, seconds. */
const BEGAN_S = 3

/** Running figures of each agent, in columns; they do not grow with time. */
export function measure(engine: Engine): void {
  const { world, scenario, t } = engine
  const { key, state, speed } = world
  const { stepS } = scenario
  const remark = scenario.level.settings.limits.crossTrackM.remark
  for (let n = 0; n < world.count; n++) {
    if (key[n] === 0) continue
    if (state[n] !== STATE.walking) {
      if (world.strayedSince[n] >= 0) stray(engine, n, 0, remark)
      world.stuckS[n] = 0
      continue
    }
    const stuck = speed[n] < STUCK_MPS && t - world.legSince[n] > 1 && !WAITS.has(world.limit[n])
    world.stuckS[n] = stuck ? world.stuckS[n] + stepS : 0
    if (world.stuckS[n] > world.longestStuckS[n]) world.longestStuckS[n] = world.stuckS[n]
    const off = world.offLine[n]
    if (world.fromStop[n] < 0) continue
    world.squares[n] += off * off
    world.samples[n]++
    if (off > world.greatest[n]) world.greatest[n] = off
    world.tally[n * CLASSES + classOf(off)]++
    stray(engine, n, off, remark)
  }
  const every = Math.max(1, Math.round(1 / stepS / LOOKS_HZ))
  if (world.steps % every === 0) overlaps(engine, every * stepS)
}

/** Notes a stretch in which somebody is off its line, with what was to blame when it was farthest off. */
function stray(engine: Engine, n: number, off: number, remark: number): void {
  const { world, t } = engine
  const by = world.limit[n]
  const told = by !== LIMIT.nothing && by !== LIMIT.arrival
  if (told) {
    world.lastBy[n] = by + 256 * world.limitBy[n]
    world.lastAt[n] = t
  }
  if (off > remark) {
    if (world.strayedSince[n] < 0) {
      world.strayedSince[n] = t
      world.strayedM[n] = 0
      // What began it may be over by now.
      world.strayedBy[n] = t - world.lastAt[n] < BEGAN_S ? world.lastBy[n] : 0
    }
    if (off > world.strayedM[n]) {
      world.strayedM[n] = off
      if (told) world.strayedBy[n] = world.lastBy[n]
    }
  } else if (world.strayedSince[n] >= 0) {
    const since = Math.round(world.strayedSince[n] / engine.scenario.stepS)
    engine.log(n, 'strayed', since, Math.round(world.strayedM[n] * 1000), world.strayedBy[n])
    world.strayedSince[n] = -1
  }
}

function overlaps(engine: Engine, forS: number): void {
  const { world, near } = engine
  const { x, y, z, key, radius, height, state } = world
  for (let n = 0; n < world.count; n++) {
    if (key[n] === 0 || state[n] === STATE.crossing) continue
    const count = near.about(x[n], y[n], 2 * radius[n] + 1)
    for (let k = 0; k < count; k++) {
      const m = near.found[k]
      if (m === n || state[m] === STATE.crossing) continue
      const apartM = (radius[n] + radius[m]) * OVERLAP
      const dx = x[m] - x[n]
      const dy = y[m] - y[n]
      if (dx * dx + dy * dy >= apartM * apartM || z[m] - z[n] >= height[n] || z[n] - z[m] >= height[m]) continue
      if (world.overlapS[n] === 0) engine.log(n, 'ran-into', key[m])
      world.overlapS[n] += forS
      break
    }
  }
}

function classOf(off: number): number {
  let k = 0
  while (k < CLASSES - 1 && off > ENDS[k]) k++
  return k
}

/** Cross-track error of one agent, metres: root mean square, 95th percentile (to a tenth of it), greatest. */
export function crossTrack(world: World, n: number): { rms: number; p95: number; max: number } {
  const samples = world.samples[n]
  if (samples === 0) return { rms: 0, p95: 0, max: 0 }
  let seen = 0
  let p95 = 0
  for (let c = 0; c < CLASSES && seen < 0.95 * samples; c++) {
    seen += world.tally[n * CLASSES + c]
    p95 = ENDS[c]
  }
  const max = world.greatest[n]
  return { rms: Math.sqrt(world.squares[n] / samples), p95: Math.min(p95, max), max }
}
