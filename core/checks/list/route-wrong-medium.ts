import { bodyOf, admits } from '@tidytrail/core/level'
import type { Check } from '../check'
import { stopPlaces } from '../stops'

export const routeWrongMedium: Check = {
  id: 'route.wrong-medium',
  stage: 'routes',
  severity: 'blocker',
  sentence: 'Agents are told to follow a route that is not for their profile, or none of which they can travel.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    if (route.kind === 'network' || route.order.length === 0) return []
    const places = stopPlaces(look, route)
    for (const profileId of look.graph.bodies(id)) {
      const profile = look.level.thing('profiles', profileId)
      if (!profile) continue
      if (!admits(route, profileId)) {
        return [
          {
            subjects: [id, profileId],
            at: places[0],
            message: `${profile.name} is told to follow ${route.name}, which is for ${route.profileIds.map((p) => look.level.thing('profiles', p)?.name).join(', ') || 'nobody'}.`,
            fix: {
              label: `Let ${profile.name} use it`,
              edit: 'changeThings',
              args: { in: 'routes', changes: { [id]: { profileIds: [...route.profileIds, profileId] } } },
            },
          },
        ]
      }
      const lost = places.every((p) => {
        const map = look.reach.map(profileId, p, 1)
        return map !== undefined && map.reachedAt(...p) === undefined
      })
      if (!lost || look.reach.islandCount(profileId) === 0) continue
      return [
        {
          subjects: [id, profileId],
          at: places[0],
          message: `${profile.name} moves ${bodyOf(profile.medium).word}, and no stop of ${route.name} lies there.`,
        },
      ]
    }
    return []
  },
}
