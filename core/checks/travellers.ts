import { defaultProfile } from '@tidytrail/core/network'
import type { Level } from '@tidytrail/core/level'
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
  const fallback = defaultProfile({ profiles: look.level.all('profiles') } as Level)
  return fallback ? [fallback] : []
}
