import { bodyOf, type Level } from '@tidytrail/core/level'

/** What of a level says who follows what. */
type Told = Pick<Level, 'spawners' | 'briefs'>

/** The routes a spawner's agents are told to follow, in the order of their brief; null where none is chosen. */
export function routesOfSpawner(level: Told, spawnerId: string): (string | null)[] {
  const brief = level.briefs[level.spawners[spawnerId]?.briefId ?? '']
  if (!brief) return []
  return brief.order.flatMap((id) => {
    const step = brief.steps[id]
    return step.kind === 'follow-route' ? [step.routeId] : []
  })
}

/** What was last worked out from some parts of a level, for as long as these are the very same objects. */
function fromParts<P extends readonly unknown[], V>(work: (...parts: P) => V): (...parts: P) => V {
  let last: { parts: P; value: V } | undefined
  return (...parts) => {
    if (!last || last.parts.some((part, k) => part !== parts[k])) last = { parts, value: work(...parts) }
    return last.value
  }
}

const followers = fromParts((spawners: Level['spawners'], briefs: Level['briefs']) => {
  const lists = new Map<string, string[]>()
  for (const id of Object.keys(spawners).sort()) {
    const routes = routesOfSpawner({ spawners, briefs }, id)
    for (const routeId of new Set(routes)) {
      if (routeId === null) continue
      const list = lists.get(routeId)
      if (list) list.push(id)
      else lists.set(routeId, [id])
    }
  }
  return lists
})

/** Of each route that is followed, the spawners whose agents follow it, sorted by id. */
export const followersOf = (level: Told): ReadonlyMap<string, readonly string[]> =>
  followers(level.spawners, level.briefs)

/** The spawners whose agents follow a route, sorted by id. */
export const spawnersOfRoute = (level: Told, routeId: string): readonly string[] =>
  followersOf(level).get(routeId) ?? []

/**
 * The profile things are tried with when nobody in particular is meant: the one the level names; else of those on foot,
 * or of all when none is, the one most spawners send, and of those the slimmest. So one that nobody uses and that is
 * larger than another changes nothing.
 */
export function defaultProfile(level: Pick<Level, 'profiles' | 'spawners' | 'settings'>): string | undefined {
  const { usualProfileId } = level.settings
  if (usualProfileId && level.profiles[usualProfileId]) return usualProfileId
  return commonest(level.profiles, level.spawners)
}

const commonest = fromParts((profiles: Level['profiles'], spawners: Level['spawners']): string | undefined => {
  const sent = new Map<string, number>()
  for (const { profileId } of Object.values(spawners))
    if (profileId) sent.set(profileId, (sent.get(profileId) ?? 0) + 1)
  const rank = (id: string) => {
    const { medium, radiusM, heightM, name } = profiles[id]
    return [bodyOf(medium).turnsOnTheSpot ? 0 : 1, -(sent.get(id) ?? 0), radiusM, heightM, name, id] as const
  }
  return Object.keys(profiles).sort((a, b) => {
    const [p, q] = [rank(a), rank(b)]
    const k = p.findIndex((v, i) => v !== q[i])
    return k < 0 ? 0 : p[k] < q[k] ? -1 : 1
  })[0]
})

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
