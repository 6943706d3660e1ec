import { floorUnder, type Floor } from '@tidytrail/core/ground'
import type { Waypoint } from '@tidytrail/core/level'
import type { Look } from './check'

/** What a waypoint is called: "Stop 3 of Quay round", "Node 3 of Yard net", or its own name when no route uses it. */
export function waypointLabel(look: Look, id: string, waypoint: Waypoint): string {
  const users = look.graph.users(id)
  if (users.length === 0) return waypoint.name || 'A loose waypoint'
  const { routeId, index } = users[0]
  const route = look.level.thing('routes', routeId)
  return `${route?.kind === 'network' ? 'Node' : 'Stop'} ${index + 1} of ${route?.name ?? 'a route'}`
}

export const metres = (m: number) => `${m.toFixed(2)} m`

/** The floor a thing belongs to, and how far above it (negative: below it) the thing hangs. */
export function restingOn(floors: readonly Floor[], z: number): { floor: Floor; above: number } {
  const floor = floorUnder(floors, z)
  return { floor, above: z - floor.z }
}

/** Heights closer than this count as settled, metres. */
export const SETTLED_M = 0.25
