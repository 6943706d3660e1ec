import { stanceOf } from '@tidytrail/core/level'
import { areaOfZone } from '../cast'
import type { Check } from '../check'
import { factionOfSpawner, toldIn } from '../told-by'

export const factionFriendlyFire: Check = {
  id: 'faction.friendly-fire',
  stage: 'cast',
  severity: 'warning',
  sentence: 'Two factions that are hostile to each other are told to be in one zone that is not there to be contested.',
  each: 'zones',
  run(look, id) {
    const zone = look.level.thing('zones', id)!
    if (zone.purpose === 'contest') return []
    const factions = look.level.all('factions')
    const told = toldIn(look, id).map((t) => ({ ...t, faction: factionOfSpawner(look, t.spawner) }))
    for (const [k, a] of told.entries())
      for (const b of told.slice(k + 1)) {
        if (stanceOf(factions, a.faction, b.faction) !== 'hostile') continue
        const [x, y] = areaOfZone(look, zone)?.middle ?? [0, 0]
        return [
          {
            subjects: [id, a.id, b.id],
            at: [x, y, a.spawner.at[2]],
            message: `${a.spawner.name} and ${b.spawner.name} are hostile to each other, and both are told to be in ${zone.name}.`,
            fix: {
              label: 'It is there to be contested',
              edit: 'changeThings',
              args: { in: 'zones', changes: { [id]: { purpose: 'contest' } } },
            },
          },
        ]
      }
    return []
  },
}
