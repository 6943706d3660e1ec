import type { Engine } from '../engine'
import { standsAt } from '../world'

/** Does somebody stand where an agent is to appear? */
export function isTaken({ world }: Engine, [px, py, pz]: readonly number[], radiusM: number, heightM: number): boolean {
  const { key, count } = world
  for (let m = 0; m < count; m++) {
    if (key[m] === 0) continue
    if (standsAt(world, m, px, py, pz, radiusM, heightM)) return true
  }
  return false
}
