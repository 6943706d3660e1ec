import { defaultProfile } from '@tidytrail/core/network'
import type { Look } from './check'

/**
 * The profiles that travel a route: those of its followers; while it has none those it is for, or the default one.
 */
export function travellers(look: Look, routeId: string): string[] {
  const ids = new Set<string>()
  for (const spawnerId of look.graph.followers(routeId)) {
    const profileId = look.level.thing('spawners', spawnerId)?.profileId
    if (profileId) ids.add(profileId)
  }
  if (ids.size > 0) return [...ids].sort()
  const meant = look.level.thing('routes', routeId)?.profileIds ?? []
  if (meant.length > 0) return [...meant].sort()
  const fallback = usualProfile(look)
  return fallback ? [fallback] : []
}

/** The profile things are judged by when nobody in particular is meant. */
export const usualProfile = (look: Look): string | undefined =>
  defaultProfile({
    profiles: look.level.all('profiles'),
    spawners: look.level.all('spawners'),
    settings: look.level.settings(),
  })

/** Said of a route nobody follows: by whom it was judged. */
export function judgedBy(look: Look, routeId: string): string {
  const followed = look.graph.followers(routeId).some((s) => look.level.thing('spawners', s)?.profileId)
  if (followed || (look.level.thing('routes', routeId)?.profileIds.length ?? 0) > 0) return ''
  return ' Nobody follows it yet; it is judged by the usual profile.'
}
