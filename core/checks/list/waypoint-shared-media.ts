import { bodyOf } from '@tidytrail/core/level'
import type { Check } from '../check'
import { derivedId } from '../derived-id'
import { travellers } from '../travellers'
import { waypointLabel } from '../words'

/** Media that move over the same floors. */

export const waypointSharedMedia: Check = {
  id: 'waypoint.shared-media',
  stage: 'routes',
  severity: 'warning',
  sentence: 'Routes for water, air and land share a waypoint, which cannot suit all of them.',
  each: 'waypoints',
  run(look, id) {
    const users = look.graph.users(id)
    if (users.length < 2) return []
    const byMedium = new Map<string, { routeId: string; index: number }[]>()
    for (const user of users) {
      for (const profileId of travellers(look, user.routeId)) {
        const medium = look.level.thing('profiles', profileId)?.medium
        if (!medium) continue
        const kind = bodyOf(medium).stands ? 'land' : medium
        byMedium.set(kind, [...(byMedium.get(kind) ?? []), user])
      }
    }
    if (byMedium.size < 2) return []
    const waypoint = look.level.thing('waypoints', id)!
    const [, ...others] = [...byMedium.keys()].sort()
    const moved = others.flatMap((kind) => byMedium.get(kind)!)
    const newIds = Object.fromEntries(
      moved.map(({ routeId, index }) => {
        const stopId = look.level.thing('routes', routeId)!.order[index]
        return [stopId, derivedId('wp', id, stopId)]
      }),
    )
    return [
      {
        subjects: [id, ...new Set(users.map((u) => u.routeId))],
        at: waypoint.at,
        message: `${waypointLabel(look, id, waypoint)} is shared by routes for ${[...byMedium.keys()].sort().join(' and ')}.`,
        fix: { label: 'Separate them', edit: 'separateWaypoint', args: { waypointId: id, newIds } },
      },
    ]
  },
}
