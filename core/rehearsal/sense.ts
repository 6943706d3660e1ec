import { canSee } from '@tidytrail/core/ground'
import { HEAD } from '@tidytrail/core/level'
import type { Engine } from './engine'
import type { ProfileRow } from './scenario'
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

/** Everybody looks round once in so many steps. */
export const looksEvery = ({ scenario }: Engine): number => Math.max(1, Math.round(1 / scenario.stepS / LOOKS_HZ))

/**
 * Who sees and hears whom: the stand-in, and whoever belongs to another faction. A change of it is an event. Everybody is
 * looked at in turn, so that the work is spread over the steps.
 */
export function sense(engine: Engine): void {
  const { world, scenario } = engine
  if (world.steps % looksEvery(engine) !== 0) return
  if (world.count < 2) {
    if (world.senses.length > 0) world.senses = []
    return
  }
  const targets: number[] = []
  for (let m = 0; m < world.count; m++) {
    if (world.key[m] === 0) continue
    const row = scenario.spawners[world.spawner[m]]
    if (row && (row.standIn || engine.toldOf(m)?.faction != null)) targets.push(m)
  }
  if (targets.length === 0) {
    if (world.senses.length > 0) world.senses = []
    return
  }
  const loud = targets.map((m) => loudness(engine, m))
  const before = new Set(world.senses.map(pairOf))
  const now: [number, number][] = []
  for (let n = 0; n < world.count; n++) {
    const own = scenario.spawners[world.spawner[n]]
    const profile = scenario.profiles[world.profile[n]]?.profile
    if (world.key[n] === 0 || !own || !profile || own.standIn || world.state[n] === STATE.crossing) continue
    const faction = engine.toldOf(n)?.faction ?? null
    for (let k = 0; k < targets.length; k++) {
      const m = targets[k]
      if (m === n) continue
      // Most are too far away for anything: that is told first.
      const dx = world.x[m] - world.x[n]
      const dy = world.y[m] - world.y[n]
      const far = Math.max(profile.sightM, profile.hearsM * loud[k])
      if (dx * dx + dy * dy > far * far) continue
      const other = scenario.spawners[world.spawner[m]]!
      if (!other.standIn && engine.toldOf(m)?.faction === faction) continue
      const code = perceive(engine, n, m, loud[k])
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

/** 1 when agent n sees agent m, 2 when it hears it, 3 when both. @param loud how loud m is */
function perceive(engine: Engine, n: number, m: number, loud: number): number {
  const { world, scenario } = engine
  const { x, y, z } = world
  const row = scenario.profiles[world.profile[n]]!
  const { sightM, hearsM } = row.profile
  const dx = x[m] - x[n]
  const dy = y[m] - y[n]
  const across = Math.sqrt(dx * dx + dy * dy)
  const d = Math.sqrt(dx * dx + dy * dy + (z[m] - z[n]) ** 2)
  const audible = hearsM * loud
  const looksAt = d <= sightM && (across < 1e-3 || world.headX[n] * dx + world.headY[n] * dy >= row.sightCos * across)
  const heardThroughWalls = d <= audible * DAMPED
  if (!looksAt && (heardThroughWalls || d > audible)) return heardThroughWalls ? 2 : 0
  const clear = inSight(engine, row, n, m)
  return (looksAt && clear ? 1 : 0) | (heardThroughWalls || (d <= audible && clear) ? 2 : 0)
}

/** Is there nothing between the eyes of n and the head or the middle of m? Either will do. */
function inSight({ world: { x, y, z, height } }: Engine, row: ProfileRow, n: number, m: number): boolean {
  const { terrain } = row.planner.map.source
  const eye = z[n] + row.eyeM
  return (
    canSee(terrain, x[n], y[n], eye, x[m], y[m], z[m] + HEAD * height[m]) ||
    canSee(terrain, x[n], y[n], eye, x[m], y[m], z[m] + 0.5 * height[m])
  )
}
