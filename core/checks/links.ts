import type { Link } from '@tidytrail/core/level'
import type { Point3 } from '@tidytrail/core/geometry'
import type { Look } from './check'
import { travellers } from './travellers'

/** "the link from Well to Gate": by the names of its ends where they have any. */
export function linkLabel(look: Look, link: Link): string {
  const name = (id: string) => look.level.thing('waypoints', id)?.name || nodeNumber(look, id)
  return `the link ${link.twoWay ? 'between' : 'from'} ${name(link.fromId)} ${link.twoWay ? 'and' : 'to'} ${name(link.toId)}`
}

/** "node 4 of Harbour net": what a node without a name is called. */
export function nodeNumber(look: Look, waypointId: string): string {
  const user = look.graph.users(waypointId)[0]
  return user ? `node ${user.index + 1} of ${look.level.thing('routes', user.routeId)!.name}` : 'a waypoint'
}

export const nodeLabel = (look: Look, waypointId: string): string =>
  look.level.thing('waypoints', waypointId)!.name || nodeNumber(look, waypointId)

/** Can all who travel a network go straight from one place to another, and back? A link that cannot be walked helps nobody. */
export function linkable(look: Look, routeId: string, a: Point3, b: Point3): boolean {
  return travellers(look, routeId).every((profileId) => {
    const there = look.reach.path(profileId, a, b, 'drawn')
    const back = look.reach.path(profileId, b, a, 'drawn')
    return (!there || there.found) && (!back || back.found)
  })
}
