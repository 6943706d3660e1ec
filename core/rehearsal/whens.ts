/** Whether what a standing sentence is about is so now. */
import type { Area, BriefWhen } from '@tidytrail/core/level'
import type { Engine } from './engine'
import { looksEvery } from './sense'
import type { StepRow } from './steps/list'
import { STATE } from './world'

/** A standing sentence made ready. */
export interface WhenRow {
  readonly source: BriefWhen
  readonly kind: BriefWhen['kind']
  readonly after: BriefWhen['after']
  readonly once: boolean
  readonly whom: 'hostile' | 'stand-in' | 'anyone'
  /** How near, metres, and how long, seconds. */
  readonly withinM: number
  readonly s: number
  /** The number of a spawner; −1 for any. */
  readonly spawner: number
  readonly area: Area | undefined
  /** The number of a signal; −1 for none. */
  readonly signal: number
  readonly steps: readonly StepRow[]
}

/** How near bodies are that touch, beside the room they take, metres. */
const TOUCH_M = 0.25

/** @returns the slot of whom it is about, −1 for nobody in particular; undefined when it is not so */
type Holds = (engine: Engine, n: number, when: WhenRow) => number | undefined

const perceives =
  (heard: boolean): Holds =>
  (engine, n, when) => {
    const { world } = engine
    let best = when.withinM * when.withinM
    let about: number | undefined
    for (const [m, byEar] of engine.perceivedBy(n)) {
      if (byEar !== heard || !isMeant(engine, n, m, when)) continue
      const d = (world.x[m] - world.x[n]) ** 2 + (world.y[m] - world.y[n]) ** 2
      if (d > best) continue
      best = d
      about = m
    }
    return about
  }

/** Is an agent one of those a sentence is about, seen from another? */
function isMeant(engine: Engine, n: number, m: number, { whom }: WhenRow): boolean {
  if (m === n) return false
  if (whom === 'stand-in') return engine.spawnerOf(m)?.standIn === true
  if (whom === 'hostile') return engine.stance(n, m) === 'hostile'
  return engine.toldOf(m)?.faction !== engine.toldOf(n)?.faction
}

/** Is somebody in an area now who was not at the last look? */
const entered: Holds = (engine, n, when) => {
  const { world, scenario } = engine
  const { area } = when
  if (!area) return undefined
  const s = looksEvery(engine) * scenario.stepS
  for (let m = 0; m < world.count; m++) {
    if (world.key[m] === 0 || !isMeant(engine, n, m, when)) continue
    const [x, y, z] = [world.x[m], world.y[m], world.z[m]]
    if (!area.holds(x, y, z)) continue
    const appeared = engine.t - world.appeared[m] < s
    if (appeared || !area.holds(x - world.vx[m] * s, y - world.vy[m] * s, z)) return m
  }
  return undefined
}

/** Since when what has happened is news to an agent: the last look; what happens does so later in a step than this is looked at. */
const lately = (engine: Engine, n: number) =>
  Math.max(engine.t - looksEvery(engine) * engine.scenario.stepS - 1e-9, engine.world.appeared[n])

const HOLDS: Readonly<Record<BriefWhen['kind'], Holds>> = {
  sees: perceives(false),
  hears: perceives(true),
  touched(engine, n, when) {
    const { world, near, scenario } = engine
    const around = near.about(world.x[n], world.y[n], world.radius[n] + scenario.widestM + TOUCH_M)
    let about: number | undefined
    for (let k = 0; k < around; k++) {
      const m = near.found[k]
      const room = world.radius[n] + world.radius[m] + TOUCH_M
      if ((world.x[n] - world.x[m]) ** 2 + (world.y[n] - world.y[m]) ** 2 >= room * room) continue
      if (Math.abs(world.z[m] - world.z[n]) >= world.height[n] || !isMeant(engine, n, m, when)) continue
      // Of several the one that has been here longest, in whatever square it stands.
      if (about === undefined || m < about) about = m
    }
    return about
  },
  blocked: ({ world, t }, n, { s }) =>
    (world.state[n] === STATE.walking && t - world.bestSince[n] >= s) ||
    (world.state[n] === STATE.blocked && world.failed[n] > 0)
      ? -1
      : undefined,
  left(engine, n, { spawner }) {
    const { leftAt } = engine.world.by
    const since = lately(engine, n)
    if (spawner >= 0) return leftAt[spawner] >= since ? -1 : undefined
    for (let k = 0; k < leftAt.length; k++) if (leftAt[k] >= since) return -1
    return undefined
  },
  'zone-entered': entered,
  signal: (engine, n, { signal }) => (engine.givenSince(signal, lately(engine, n)) ? -1 : undefined),
  time({ world, t }, n, { s }) {
    return t - world.appeared[n] >= s ? -1 : undefined
  },
}

export const holdsNow: Holds = (engine, n, when) => HOLDS[when.kind](engine, n, when)
