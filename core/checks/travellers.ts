import type { Spawner } from '@tidytrail/core/level'
import { defaultProfile, mayBeJudgedBy } from '@tidytrail/core/network'
import type { Look } from './check'
import { briefOfSpawner } from './told-by'

/**
 * The profiles that travel a route: those of its followers; while it has none those it is for, or the default one.
 */
export function travellers(look: Look, routeId: string): string[] {
  const followed = look.graph.bodies(routeId)
  if (followed.length > 0) return [...followed]
  const route = look.level.thing('routes', routeId)
  const meant = route?.profileIds ?? []
  if (meant.length > 0) return [...meant].sort()
  const fallback = usualProfile(look)
  return fallback && mayBeJudgedBy(route, look.level.thing('profiles', fallback)) ? [fallback] : []
}

/** The profile things are judged by when nobody in particular is meant. */
export const usualProfile = (look: Look): string | undefined =>
  defaultProfile({
    profiles: look.level.all('profiles'),
    spawners: look.level.all('spawners'),
    settings: look.level.settings(),
  })

/** The spawners whose agents follow a route with a profile. */
export const followersWith = (look: Look, routeId: string, profileId: string): string[] =>
  look.graph.followers(routeId).filter((s) => look.level.thing('spawners', s)?.profileId === profileId)

/** Stops looked at to tell where a route lies. */
const LOOKED_AT = 60

/** The islands the stops of routes lie on for a profile, those with most of them first. */
export function islandsOfStops(look: Look, routeIds: readonly string[], profileId: string): number[] {
  const counts = new Map<number, number>()
  for (const routeId of routeIds) {
    const route = look.level.thing('routes', routeId)
    for (const stopId of route?.order.slice(0, LOOKED_AT) ?? []) {
      const at = look.level.thing('waypoints', route!.stops[stopId].waypointId)?.at
      const island = at && look.reach.island(profileId, at)
      if (island !== undefined) counts.set(island, (counts.get(island) ?? 0) + 1)
    }
  }
  return [...counts].sort(([a, n], [b, m]) => m - n || a - b).map(([island]) => island)
}

/** The islands of the routes a spawner's agents are told to follow. */
export function islandsOfBrief(look: Look, spawner: Spawner): number[] {
  const briefId = briefOfSpawner(look, spawner)
  const brief = briefId ? look.level.thing('briefs', briefId) : undefined
  if (!brief || !spawner.profileId) return []
  const routes = brief.order.flatMap((stepId) => {
    const step = brief.steps[stepId]
    return step.kind === 'follow-route' && step.routeId ? [step.routeId] : []
  })
  return islandsOfStops(look, routes, spawner.profileId)
}

/** Said of a route nobody follows: by whom it was judged. */
export function judgedBy(look: Look, routeId: string): string {
  const route = look.level.thing('routes', routeId)
  if (look.graph.bodies(routeId).length > 0 || (route?.profileIds.length ?? 0) > 0) return ''
  if (route?.kind === 'lane' && look.lanes.comers(routeId).length > 0) return ''
  return ' Nobody follows it yet; it is judged by the usual profile.'
}
