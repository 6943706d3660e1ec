import { placesCount, roomFor, shareOfZone, staysPut } from '../cast'
import type { Check } from '../check'

export const spawnerMoreThanPlaces: Check = {
  id: 'spawner.more-than-places',
  stage: 'cast',
  severity: 'warning',
  sentence: 'A spawner has more agents to send than there is room for where they appear.',
  each: 'spawners',
  run(look, id) {
    const spawner = look.level.thing('spawners', id)!
    if (spawner.where === 'lanes') return []
    const profile = spawner.profileId ? look.level.thing('profiles', spawner.profileId) : undefined
    const alive = Math.min(spawner.count, spawner.mostAlive ?? Infinity)
    if (!profile || alive === 1) return []
    let room = placesCount(look, spawner)
    let what = room === 1 ? 'one place' : `${room} places`
    if (room === undefined) {
      const zone = spawner.zoneId ? look.level.thing('zones', spawner.zoneId) : undefined
      const share = zone && shareOfZone(look, zone, spawner.profileId!)
      // None at all is another finding.
      if (!share || share.floorM2 === 0) return []
      room = roomFor(share.floorM2, profile)
      what = `room for about ${room} in ${zone.name}`
      if (alive <= room) return []
    } else if (room === 0 || alive <= room || !staysPut(look, spawner)) return []
    return [
      {
        subjects: [id],
        at: spawner.at,
        message: `${spawner.name} is to send ${spawner.count}, and there is ${what}${spawner.where === 'area' ? '' : ', which nobody leaves'}.`,
        fix: {
          label: `Send ${room}`,
          edit: 'changeThings',
          args: { in: 'spawners', changes: { [id]: { count: room } } },
        },
      },
    ]
  },
}
