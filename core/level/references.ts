import { LevelError } from './error'
import type { Collection } from './kinds'
import type { Level } from './schema'

/** Every place in a level that names another thing by its id, `*` standing for any key, and where that thing is. */
export const REFS: readonly { readonly path: string; readonly to: Collection }[] = [
  { path: 'waypoints.*.markerId', to: 'markers' },
  { path: 'links.*.fromId', to: 'waypoints' },
  { path: 'links.*.toId', to: 'waypoints' },
  { path: 'routes.*.stops.*.waypointId', to: 'waypoints' },
  { path: 'routes.*.linkIds.*', to: 'links' },
  { path: 'routes.*.profileIds.*', to: 'profiles' },
  { path: 'posts.*.zoneId', to: 'zones' },
  { path: 'factions.*.hostileTo.*', to: 'factions' },
  { path: 'briefs.*.steps.*.routeId', to: 'routes' },
  { path: 'spawners.*.profileId', to: 'profiles' },
  { path: 'spawners.*.factionId', to: 'factions' },
  { path: 'spawners.*.briefId', to: 'briefs' },
  { path: 'passages.*.profileIds.*', to: 'profiles' },
  { path: 'reachAreas.*.profileIds.*', to: 'profiles' },
  { path: 'covers.*.profileIds.*', to: 'profiles' },
  { path: 'junctions.*.laneIds.*', to: 'routes' },
]

/** Things that are kept in an order, which names each of them exactly once. */
export const ORDERED: readonly { readonly in: 'routes' | 'briefs'; readonly things: 'stops' | 'steps' }[] = [
  { in: 'routes', things: 'stops' },
  { in: 'briefs', things: 'steps' },
]

const PATTERNS = REFS.map(({ path, to }) => ({ parts: path.split('.'), to }))

/** One reference from a thing to another: where it stands, what it names, and where that should be. */
export interface Reference {
  at: string
  id: string
  in: Collection | 'stops' | 'steps'
  found: boolean
}

/**
 * Visits every reference within a part of a level.
 * @param keys lead to the part; @param value what stands there
 */
export function visitReferences(
  keys: readonly string[],
  value: unknown,
  visit: (to: Collection, id: string, at: () => string) => void,
): void {
  const trail = [...keys]
  for (const { parts, to } of PATTERNS) {
    if (keys.length > parts.length) continue
    if (keys.every((key, i) => parts[i] === '*' || parts[i] === key)) into(value, parts, keys.length, to, trail, visit)
  }
}

function into(
  value: unknown,
  parts: readonly string[],
  depth: number,
  to: Collection,
  trail: string[],
  visit: (to: Collection, id: string, at: () => string) => void,
): void {
  if (depth === parts.length) {
    if (typeof value === 'string') visit(to, value, () => trail.join('.'))
    return
  }
  if (typeof value !== 'object' || value === null) return
  const part = parts[depth]
  const step = (key: string, inside: unknown) => {
    trail.push(key)
    into(inside, parts, depth + 1, to, trail, visit)
    trail.pop()
  }
  if (part !== '*') step(part, (value as Record<string, unknown>)[part])
  else if (Array.isArray(value)) for (let i = 0; i < value.length; i++) step(String(i), value[i])
  else for (const key in value) step(key, (value as Record<string, unknown>)[key])
}

/** Every reference in the level. */
export function references(level: Level): Reference[] {
  const all: Reference[] = []
  visitReferences([], level, (to, id, at) => all.push({ at: at(), id, in: to, found: Object.hasOwn(level[to], id) }))
  for (const kind of ORDERED) for (const id of Object.keys(level[kind.in])) all.push(...ordered(level, kind, id))
  return all
}

/** An order must name each of its things exactly once. */
function ordered(level: Level, kind: (typeof ORDERED)[number], id: string): Reference[] {
  const holder = level[kind.in][id] as unknown as { order: string[] } & Record<string, object>
  const things = holder[kind.things]
  const all: Reference[] = []
  const seen = new Set<string>()
  const at = `${kind.in}.${id}`
  for (const [i, entry] of holder.order.entries()) {
    all.push({
      at: `${at}.order.${i}`,
      id: entry,
      in: kind.things,
      found: Object.hasOwn(things, entry) && !seen.has(entry),
    })
    seen.add(entry)
  }
  for (const key of Object.keys(things))
    if (!seen.has(key)) all.push({ at: `${at}.${kind.things}.${key}`, id: key, in: kind.things, found: false })
  return all
}

function dangling(r: Reference): LevelError {
  const why =
    r.in === 'stops' || r.in === 'steps'
      ? `${r.id} must stand exactly once among the ${r.in} and in their order`
      : `refers to ${r.id}, which is not among the ${r.in}`
  return new LevelError('dangling-reference', r.at, why, r.at.split('.'))
}

/** @throws LevelError naming the first reference that leads nowhere */
export function assertReferences(level: Level): void {
  visitReferences([], level, (to, id, at) => {
    if (!Object.hasOwn(level[to], id)) throw dangling({ at: at(), id, in: to, found: false })
  })
  for (const kind of ORDERED) for (const id of Object.keys(level[kind.in])) assertOrder(level, kind, id)
}

/** @throws LevelError when an order does not name each of its things exactly once */
export function assertOrder(level: Level, kind: (typeof ORDERED)[number], id: string): void {
  const holder = level[kind.in][id] as unknown as { order: string[] } & Record<string, object>
  const things = holder[kind.things]
  const inOrder = new Set(holder.order)
  if (inOrder.size === holder.order.length) {
    let known = 0
    for (const key in things)
      if (inOrder.has(key)) known++
      else return fail()
    if (known === inOrder.size) return
  }
  fail()

  function fail(): never {
    throw dangling(ordered(level, kind, id).find((r) => !r.found)!)
  }
}

/** @throws LevelError for a reference that leads nowhere */
export function assertReference(level: Level, to: Collection, id: string, at: () => string): void {
  if (!Object.hasOwn(level[to], id)) throw dangling({ at: at(), id, in: to, found: false })
}
