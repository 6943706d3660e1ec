import { areaOfZone, shareOfZone } from '../cast'
import type { Check } from '../check'
import { toldIn } from '../told-by'

export const zoneNoFloor: Check = {
  id: 'zone.no-floor',
  stage: 'cast',
  severity: 'blocker',
  sentence: 'Nowhere in a zone can those stand who are told to be in it.',
  each: 'zones',
  run(look, id) {
    const zone = look.level.thing('zones', id)!
    for (const { id: spawnerId, spawner } of toldIn(look, id)) {
      if (!spawner.profileId) continue
      const area = areaOfZone(look, zone)
      const [x, y] = area?.middle ?? [0, 0]
      const at = [x, y, spawner.at[2]] as const
      if (!area)
        return [{ subjects: [id, spawnerId], at, message: `${zone.name} lies along no route, and covers no ground.` }]
      const share = shareOfZone(look, zone, spawner.profileId)
      if (!share || share.floorM2 > 0) continue
      const heights = zone.fromM !== null || zone.toM !== null
      const { name } = look.level.thing('profiles', spawner.profileId)!
      return [
        {
          subjects: [id, spawnerId],
          at,
          message: `Nowhere in ${zone.name} can ${name} of ${spawner.name} stand${heights ? ' at the heights that are meant' : ''}.`,
          ...(heights
            ? {
                fix: {
                  label: 'Mean all floors',
                  edit: 'changeThings' as const,
                  args: { in: 'zones' as const, changes: { [id]: { fromM: null, toM: null } } },
                },
              }
            : {}),
        },
      ]
    }
    return []
  },
}
