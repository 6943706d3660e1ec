import {
  bodyOf,
  briefIdOf,
  briefIdsOf,
  filledStep,
  type BriefStep,
  type Fill,
  type Level,
  type Profile,
  type Route,
} from '@tidytrail/core/level'

/** What of a level says who follows what. */
type Told = Pick<Level, 'spawners' | 'briefs' | 'squads'>

/** A brief somebody is told by: with which body, and whose it is. */
export interface Telling {
  readonly briefId: string
  readonly profileId: string | null
  readonly fills: readonly Fill[]
}

/** The briefs those a spawner sends are told by, with the bodies they are told with, once each. */
export function tellingsOf(level: Told, spawnerId: string): Telling[] {
  const s = level.spawners[spawnerId]
  if (!s) return []
  const fills: readonly Fill[] = s.fills
  const own = { briefId: briefIdOf(level, s), profileId: s.profileId, fills }
  const all = [
    own,
    ...s.mix.map((m) => ({ briefId: m.briefId ?? own.briefId, profileId: m.profileId ?? own.profileId, fills })),
  ]
  const once = new Map(all.map((t) => [`${t.briefId} ${t.profileId}`, t]))
  return [...once.values()].filter((t): t is Telling => t.briefId !== null && level.briefs[t.briefId] !== undefined)
}

/** The steps of a brief with the body each is done with: from boarding until getting out that of what is boarded. */
export function stepsWithBodies(level: Told, { briefId, profileId, fills }: Telling) {
  const brief = level.briefs[briefId]
  let body = profileId
  return brief.order.map((id) => {
    const step = filledStep(brief.steps[id], fills)
    if (step.whenId !== null) return { id, step, profileId }
    const now = { id, step, profileId: body }
    if (step.kind === 'board') body = level.spawners[step.spawnerId ?? '']?.profileId ?? body
    else if (step.kind === 'get-out') body = profileId
    return now
  })
}

/** The routes a step of a brief may lead along. */
const routesOfStep = (step: BriefStep): (string | null)[] =>
  step.kind === 'follow-route' ? [step.routeId, ...step.others.map((o) => o.routeId)] : []

/** The routes a spawner's agents are told to follow, in the order of their briefs; null where none is chosen. */
export function routesOfSpawner(level: Told, spawnerId: string): (string | null)[] {
  return tellingsOf(level, spawnerId).flatMap(({ briefId, fills }) => {
    const brief = level.briefs[briefId]
    return brief.order.flatMap((id) => routesOfStep(filledStep(brief.steps[id], fills)))
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

const following = fromParts((spawners: Level['spawners'], briefs: Level['briefs'], squads: Level['squads']) => {
  const lists = new Map<string, string[]>()
  const bodies = new Map<string, string[]>()
  const put = (lists: Map<string, string[]>, key: string, value: string) => {
    const list = lists.get(key)
    if (!list) lists.set(key, [value])
    else if (!list.includes(value)) list.push(value)
  }
  const told = { spawners, briefs, squads }
  for (const id of Object.keys(spawners).sort()) {
    const seen = new Set<string>()
    for (const telling of tellingsOf(told, id))
      for (const { step, profileId } of stepsWithBodies(told, telling))
        for (const routeId of routesOfStep(step)) {
          if (routeId === null) continue
          if (profileId) put(bodies, routeId, profileId)
          if (seen.has(routeId)) continue
          seen.add(routeId)
          const list = lists.get(routeId)
          if (list) list.push(id)
          else lists.set(routeId, [id])
        }
  }
  for (const list of bodies.values()) list.sort()
  return { lists, bodies }
})

const telling = fromParts((spawners: Level['spawners'], briefs: Level['briefs'], squads: Level['squads']) => {
  const told = new Map<string, string[]>()
  const inZone = new Map<string, string[]>()
  const put = (lists: Map<string, string[]>, key: string | null | undefined, id: string) => {
    if (!key) return
    const list = lists.get(key)
    if (!list) lists.set(key, [id])
    else if (list.at(-1) !== id) list.push(id)
  }
  // Which zones a brief names does not hang on who is told by it, but for blanks.
  const named = new Map<string, readonly string[]>()
  for (const [id, brief] of Object.entries(briefs)) named.set(id, zonesNamed(Object.values(brief.steps)))
  for (const id of Object.keys(spawners).sort()) {
    const s = spawners[id]
    for (const briefId of briefIdsOf({ squads }, s)) {
      put(told, briefId, id)
      for (const zoneId of named.get(briefId) ?? []) put(inZone, zoneId, id)
    }
    for (const fill of s.fills) put(inZone, fill.zoneId, id)
    put(inZone, squads[s.squadId ?? '']?.zoneId, id)
  }
  return { told, inZone }
})

/** The zones steps name to be in or to hold. */
const zonesNamed = (steps: readonly BriefStep[]): string[] =>
  steps.flatMap((step) => {
    if (step.kind === 'wander') return [step.zoneId, ...step.others.map((o) => o.zoneId)].filter((z) => z !== null)
    return step.kind === 'hold' && step.zoneId !== null ? [step.zoneId] : []
  })

/** Of each brief, the spawners whose agents are told by it, sorted by id. */
export const toldOf = (level: Told): ReadonlyMap<string, readonly string[]> =>
  telling(level.spawners, level.briefs, level.squads).told

/** Of each zone, the spawners whose agents are told to be in it or belong to a squad that holds it, sorted by id. */
export const inZoneOf = (level: Told): ReadonlyMap<string, readonly string[]> =>
  telling(level.spawners, level.briefs, level.squads).inZone

/** Of each route that is followed, the spawners whose agents follow it, sorted by id. */
export const followersOf = (level: Told): ReadonlyMap<string, readonly string[]> =>
  following(level.spawners, level.briefs, level.squads).lists

/** Of each route that is followed, the profiles that follow it, sorted by id. */
export const bodiesOf = (level: Told): ReadonlyMap<string, readonly string[]> =>
  following(level.spawners, level.briefs, level.squads).bodies

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
  const followed = bodiesOf(level).get(routeId)
  if (followed) return [...followed]
  const meant = level.routes[routeId]?.profileIds ?? []
  if (meant.length > 0) return [...meant].sort()
  const fallback = defaultProfile(level)
  return fallback && mayBeJudgedBy(level.routes[routeId], level.profiles[fallback]) ? [fallback] : []
}

/** Is a route nobody follows judged by a profile that is meant by nobody? A lane one drives along is not by one that walks. */
export const mayBeJudgedBy = (route: Route | undefined, profile: Profile | undefined): boolean =>
  !(route?.kind === 'lane' && route.use === 'drive' && profile && bodyOf(profile.medium).turnsOnTheSpot)

/** Every profile a reach map is needed for. */
export function profilesInUse(level: Level): string[] {
  const ids = new Set<string>()
  for (const { profileId, mix } of Object.values(level.spawners)) {
    if (profileId) ids.add(profileId)
    for (const m of mix) if (m.profileId) ids.add(m.profileId)
  }
  for (const { profileIds } of Object.values(level.routes)) for (const id of profileIds) ids.add(id)
  const fallback = defaultProfile(level)
  if (fallback) ids.add(fallback)
  return [...ids].sort()
}
