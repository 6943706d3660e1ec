import type { Point3 } from '@tidytrail/core/geometry'
import type { Level } from '@tidytrail/core/level'
import { profilesOfRoute } from '@tidytrail/core/network'
import type { ReachMap } from '@tidytrail/core/reach'

/** The routes and spawners of a profile that lie on each island, by island number. */
export function islandUsers(level: Level, map: ReachMap, profileId: string): Map<number, string[]> {
  const users = new Map<number, string[]>()
  const note = (at: Point3, id: string) => {
    const spot = map.reachedAt(...at)
    const island = spot ? map.islandOf(spot) : -1
    if (island < 0) return
    const list = users.get(island)
    if (!list) users.set(island, [id])
    else if (!list.includes(id)) list.push(id)
  }
  for (const [id, spawner] of Object.entries(level.spawners)) if (spawner.profileId === profileId) note(spawner.at, id)
  for (const [id, route] of Object.entries(level.routes)) {
    if (!profilesOfRoute(level, id).includes(profileId)) continue
    for (const stopId of route.order) note(level.waypoints[route.stops[stopId].waypointId].at, id)
  }
  return users
}
