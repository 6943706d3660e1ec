import { defaultProfile } from '@tidytrail/core/network'
import type { Level } from '@tidytrail/core/level'
import type { Look } from './check'

/** The walking profiles that travel a route: those of its followers, or the default one while it has none. */
export function travellers(look: Look, routeId: string): string[] {
  const ids = new Set<string>()
  for (const spawnerId of look.followers(routeId)) {
    const profileId = look.thing('spawners', spawnerId)?.profileId
    if (profileId) ids.add(profileId)
  }
  if (ids.size > 0) return [...ids].sort()
  const fallback = defaultProfile({ profiles: look.all('profiles') } as Level)
  return fallback ? [fallback] : []
}
