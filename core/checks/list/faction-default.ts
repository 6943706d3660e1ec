import type { Check } from '../check'
import type { Fix } from '../fix'
import { factionOfSpawner } from '../told-by'

export const factionDefault: Check = {
  id: 'faction.default',
  stage: 'cast',
  severity: 'warning',
  sentence:
    'Those a spawner sends belong to no faction, though the level has some: nobody is hostile to them, nor they to anybody.',
  each: 'spawners',
  run(look, id) {
    const spawner = look.level.thing('spawners', id)!
    if (factionOfSpawner(look, spawner) !== null) return []
    const factions = Object.entries(look.level.all('factions')).sort(([a], [b]) => (a < b ? -1 : 1))
    if (factions.length === 0) return []
    const [first, ...rest] = factions.map(([factionId, { name }]): Fix => ({
      label: `They belong to ${name}`,
      edit: 'changeThings',
      args: { in: 'spawners', changes: { [id]: { factionId } } },
    }))
    return [
      {
        subjects: [id],
        at: spawner.at,
        message: `${spawner.name} belongs to no faction: until it does, nobody is hostile to its agents, and they look out for nobody but the player.`,
        fix: first,
        ways: rest.slice(0, 3),
      },
    ]
  },
}
