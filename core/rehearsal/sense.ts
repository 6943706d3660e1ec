import { exact } from '@tidytrail/core/geometry'
import { canSee } from '@tidytrail/core/ground'
import { HEAD } from '@tidytrail/core/level'
import type { Engine } from './engine'
import { STATE } from './world'

/** Everybody looks round so many times a second. */
const LOOKS_HZ = 5
/** How loud somebody is who walks at an ordinary pace is 1: then it is heard as far as the hearer's profile says. */
const WALK_MPS = 1.4
const STANDING = 0.1
/** A noise that is made on purpose. */
const NOISE = 2.5
/** A wall between halves how far something is heard. */
const DAMPED = 0.5

/** How loud an agent is just now: nothing much standing, more the faster it goes. */
export function loudness({ world, t }: Engine, n: number): number {
  const walked = STANDING + (1 - STANDING) * Math.min(2.5, world.speed[n] / WALK_MPS)
  return world.noise[n] > t ? Math.max(NOISE, walked) : walked
}

/**
 * Who sees and hears whom: the stand-in, and whoever belongs to another faction. A change of it is an event. Everybody is
 * looked at in turn, so that the work is spread over the steps.
 */
export function sense(engine: Engine): void {
  const { world, scenario } = engine
  const every = Math.max(1, Math.round(1 / scenario.stepS / LOOKS_HZ))
  if (world.count < 2) return
  if (world.steps % every !== 0) return
  const targets: number[] = []
  for (let m = 0; m < world.count; m++) {
    if (world.key[m] !== 0 && scenario.spawners[world.spawner[m]]?.faction != null) targets.push(m)
    else if (world.key[m] !== 0 && scenario.spawners[world.spawner[m]]?.standIn) targets.push(m)
  }
  if (targets.length === 0) {
    if (world.senses.length > 0) world.senses = []
    return
  }
  const before = new Set(world.senses.map(pairOf))
  const now: [number, number][] = []
  for (let n = 0; n < world.count; n++) {
    const own = scenario.spawners[world.spawner[n]]
    if (world.key[n] === 0 || !own || own.standIn || world.state[n] === STATE.crossing) continue
    for (const m of targets) {
      if (m === n) continue
      const other = scenario.spawners[world.spawner[m]]!
      if (!other.standIn && other.faction === own.faction) continue
      const code = perceive(engine, n, m)
      if (code & 1) now.push([world.key[n] * 2, world.key[m]])
      if (code & 2) now.push([world.key[n] * 2 + 1, world.key[m]])
    }
  }
  const after = new Set(now.map(pairOf))
  for (const [a, b] of now)
    if (!before.has(pairOf([a, b]))) engine.events.add(world.steps, a >> 1, a & 1 ? 'heard' : 'saw', b)
  for (const [a, b] of world.senses)
    if (!after.has(pairOf([a, b])) && (a & 1) === 0) engine.events.add(world.steps, a >> 1, 'lost', b)
  world.senses = now
}

/** A pair as one number: keys stay far below 2²⁵. */
const pairOf = ([a, b]: readonly [number, number]) => a * 0x4000000 + b

/** 1 when agent n sees agent m, 2 when it hears it, 3 when both. */
export function perceive(engine: Engine, n: number, m: number): number {
  const { world, scenario } = engine
  const { x, y, z } = world
  const row = scenario.profiles[world.profile[n]]
  if (!row) return 0
  const { sightM, sightRad, hearsM } = row.profile
  const dx = x[m] - x[n]
  const dy = y[m] - y[n]
  const d2 = dx * dx + dy * dy
  const loud = hearsM * loudness(engine, m)
  const far = Math.max(sightM, loud)
  if (d2 > far * far) return 0
  const d = Math.sqrt(d2 + (z[m] - z[n]) ** 2)
  const { terrain } = row.planner.map.source
  const eye = z[n] + row.eyeM
  let clear: boolean | undefined
  // Head and middle of the other one: either will do.
  const inSight = () =>
    (clear ??=
      canSee(terrain, x[n], y[n], eye, x[m], y[m], z[m] + HEAD * world.height[m]) ||
      canSee(terrain, x[n], y[n], eye, x[m], y[m], z[m] + 0.5 * world.height[m]))
  let code = 0
  if (d <= sightM) {
    const angle = exact.atan2(
      Math.abs(world.headX[n] * dy - world.headY[n] * dx),
      world.headX[n] * dx + world.headY[n] * dy,
    )
    if ((angle <= sightRad / 2 || d2 < 1e-6) && inSight()) code |= 1
  }
  if (d <= loud * DAMPED || (d <= loud && inSight())) code |= 2
  return code
}
