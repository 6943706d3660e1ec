import { placesCount } from '../cast'
import type { Check } from '../check'

export const spawnerFloods: Check = {
  id: 'spawner.floods',
  stage: 'cast',
  severity: 'warning',
  sentence: 'A spawner sends its agents faster than one can get out of the way of the next.',
  each: 'spawners',
  run(look, id) {
    const spawner = look.level.thing('spawners', id)!
    const profile = spawner.profileId ? look.level.thing('profiles', spawner.profileId) : undefined
    const places = placesCount(look, spawner)
    // A stream waits at its lanes until there is room.
    if (!profile || !places || spawner.where === 'lanes' || spawner.count <= places) return []
    const mps = profile.gaits[profile.gait] ?? 1
    // From standing still: the way of a body at half its speed, at least.
    const clearS = (4 * profile.radiusM) / mps
    const everyS = (spawner.everyS * places) / spawner.atOnce
    if (everyS >= clearS) return []
    const wanted = Math.ceil((clearS * spawner.atOnce * 10) / places) / 10
    return [
      {
        subjects: [id],
        at: spawner.at,
        message: `${spawner.name} is to send somebody every ${+spawner.everyS.toFixed(1)} s, and ${profile.name} needs about ${clearS.toFixed(1)} s to make room.`,
        fix: {
          label: `Send one every ${wanted} s`,
          edit: 'changeThings',
          args: { in: 'spawners', changes: { [id]: { everyS: wanted } } },
        },
      },
    ]
  },
}
