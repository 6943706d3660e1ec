import { distance2, type Point3 } from '@tidytrail/core/geometry'
import type { Check } from '../check'
import { usualProfile } from '../travellers'
import { derivedId } from '../derived-id'
import { linkable, nodeLabel } from '../links'
import { metres, restingOn } from '../words'

/** A node farther away than this does not see a place for anybody's use, metres. */
const WITHIN_M = 25

export const networkUnseenPlace: Check = {
  id: 'network.unseen-place',
  stage: 'routes',
  severity: 'warning',
  sentence: 'No node of any network is at a place or sees it, so nobody who uses the network finds it.',
  each: 'markers',
  run(look, id) {
    const nets = look.graph.nets()
    if (nets.size === 0) return []
    const { at, name } = look.level.thing('markers', id)!
    let nearest: { routeId: string; waypointId: string; m: number } | undefined
    const routes = [...nets.keys()].sort()
    for (const routeId of routes) {
      const { ids, graph } = nets.get(routeId)!
      const route = look.level.thing('routes', routeId)!
      const profileId = route.profileIds[0] ?? usualProfile(look)
      for (let n = 0; n < ids.length; n++) {
        const m = distance2(at, [graph.xy[2 * n], graph.xy[2 * n + 1]])
        if (m > WITHIN_M) {
          if (!nearest || m < nearest.m) nearest = { routeId, waypointId: ids[n], m }
          continue
        }
        const waypoint = look.level.thing('waypoints', ids[n])!
        if (waypoint.markerId === id) return []
        const path = profileId && look.reach.path(profileId, waypoint.at, at, 'drawn')
        if (!path || path.found) return []
        if (!nearest || m < nearest.m) nearest = { routeId, waypointId: ids[n], m }
      }
    }
    if (!nearest) return []
    const { routeId, waypointId, m } = nearest
    // A marker may hang above its floor; a node does not.
    const { floor } = restingOn(look.ground.floors(at[0], at[1]), at[2])
    const node = {
      stopId: derivedId('st', id, routeId),
      waypointId: derivedId('wp', id, routeId),
      at: [at[0], at[1], floor.z] as Point3,
      markerId: id,
    }
    const links = [{ id: derivedId('ln', id, waypointId), fromId: node.waypointId, toId: waypointId }]
    // A node nobody can come to, or that hangs on nothing, would be a fault of its own.
    const helps = linkable(look, routeId, node.at, look.level.thing('waypoints', waypointId)!.at)
    return [
      {
        subjects: [id, routeId],
        at,
        message: `No node of ${routes.length === 1 ? look.level.thing('routes', routeId)!.name : 'any network'} is at ${name || 'a place'} or sees it within ${WITHIN_M} m.`,
        ...(helps
          ? {
              fix: {
                label: `Put a node there, linked to ${nodeLabel(look, waypointId)}, ${metres(m)} away`,
                edit: 'addNetworkNodes' as const,
                args: { routeId, nodes: [node], links },
              },
            }
          : {}),
      },
    ]
  },
}
