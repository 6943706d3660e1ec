import { bodyOf, type Level } from '@tidytrail/core/level'

/** The routes a spawner's agents are told to follow, in the order of their brief; null where none is chosen. */
export function routesOfSpawner(level: Level, spawnerId: string): (string | null)[] {
  const brief = level.briefs[level.spawners[spawnerId]?.briefId ?? '']
  if (!brief) return []
  return brief.order.flatMap((id) => {
    const step = brief.steps[id]
    return step.kind === 'follow-route' ? [step.routeId] : []
  })
}

/** The spawners whose agents follow a route, sorted by id. */
export function spawnersOfRoute(level: Level, routeId: string): string[] {
  return Object.keys(level.spawners)
    .filter((id) => routesOfSpawner(level, id).includes(routeId))
    .sort()
}

/** The profile things are tried with when nobody in particular is meant: the first on foot, else the first of all. */
export function defaultProfile(level: Level): string | undefined {
  const ids = Object.keys(level.profiles).sort()
  return ids.find((id) => bodyOf(level.profiles[id].medium).turnsOnTheSpot) ?? ids[0]
}

/** The profiles that travel a route: those of its followers; while it has none those it is for, or the default one. */
export function profilesOfRoute(level: Level, routeId: string): string[] {
  const ids = new Set<string>()
  for (const spawnerId of spawnersOfRoute(level, routeId)) {
    const { profileId } = level.spawners[spawnerId]
    if (profileId) ids.add(profileId)
  }
  if (ids.size > 0) return [...ids].sort()
  const meant = level.routes[routeId]?.profileIds ?? []
  if (meant.length > 0) return [...meant].sort()
  const fallback = defaultProfile(level)
  return fallback ? [fallback] : []
}

/** Every profile a reach map is needed for. */
export function profilesInUse(level: Level): string[] {
  const ids = new Set<string>()
  for (const { profileId } of Object.values(level.spawners)) if (profileId) ids.add(profileId)
  for (const { profileIds } of Object.values(level.routes)) for (const id of profileIds) ids.add(id)
  const fallback = defaultProfile(level)
  if (fallback) ids.add(fallback)
  return [...ids].sort()
}
