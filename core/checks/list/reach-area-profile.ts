import { ringHolds } from '@tidytrail/core/geometry'
import type { Check } from '../check'
import { travellers } from '../travellers'

export const reachAreaProfile: Check = {
  id: 'reach.area-profile',
  stage: 'reach',
  severity: 'blocker',
  sentence: 'A reach area leaves out a profile whose route crosses it.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    const areas = Object.entries(look.level.all('reachAreas'))
    if (areas.length === 0) return []
    for (const profileId of travellers(look, id)) {
      const own = areas.filter(([, a]) => a.profileIds.includes(profileId))
      // Without an area of its own a profile may go everywhere.
      if (own.length === 0) continue
      for (const [index, stopId] of route.order.entries()) {
        const { at } = look.level.thing('waypoints', route.stops[stopId].waypointId)!
        if (own.some(([, a]) => ringHolds(a.ring, at[0], at[1]))) continue
        const other = areas.find(([, a]) => ringHolds(a.ring, at[0], at[1]))
        if (!other) continue
        const [areaId, area] = other
        const name = look.level.thing('profiles', profileId)!.name
        return [
          {
            subjects: [id, areaId],
            at,
            message: `Stop ${index + 1} of ${route.name} lies in ${area.name || 'a reach area'}, which leaves out ${name}.`,
            fix: {
              label: `Let ${name} into ${area.name || 'the area'}`,
              edit: 'changeThings',
              args: { in: 'reachAreas', changes: { [areaId]: { profileIds: [...area.profileIds, profileId] } } },
            },
          },
        ]
      }
    }
    return []
  },
}
