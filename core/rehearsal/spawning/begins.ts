import type { Engine } from '../engine'
import type { SpawnRow } from '../scenario'
import { looksEvery } from '../sense'

/** Is what a spawner waits for so now? Zones are looked at as often as everybody looks round. */
export function hasBegun(engine: Engine, k: number, row: SpawnRow): boolean {
  const { world, scenario } = engine
  const { by } = world
  switch (row.begins) {
    case 'start':
      return true
    case 'used-up': {
      const other = scenario.spawners[row.trigger]
      return other !== undefined && !other.keeps && by.begunAt[row.trigger] >= 0 && by.sent[row.trigger] >= other.count
    }
    case 'left':
      return row.trigger >= 0 ? by.leftAt[row.trigger] >= 0 : by.leftAt.some((s) => s >= 0)
    default: {
      if (!row.triggerArea || world.steps % looksEvery(engine) !== 0) return false
      const inside = isIn(engine, row)
      if (row.begins === 'entered') return inside
      if (inside) by.entered[k] = 1
      return !inside && by.entered[k] === 1
    }
  }
}

/** Is somebody of those meant in the zone a spawner waits about? */
function isIn(engine: Engine, { triggerArea, triggerFaction }: SpawnRow): boolean {
  const { world } = engine
  for (let m = 0; m < world.count; m++) {
    if (world.key[m] === 0) continue
    if (triggerFaction !== null && engine.toldOf(m)?.faction !== triggerFaction) continue
    if (triggerArea!.holds(world.x[m], world.y[m], world.z[m])) return true
  }
  return false
}
