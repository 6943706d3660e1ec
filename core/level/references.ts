import { LevelError } from './error'
import { WITH_PARTS } from './kinds/collections'
import type { Kind, Ref } from './kinds/kind'
import { KINDS } from './kinds/list'
import type { Collection, Level } from './schema'

/** A place in a level that names another thing by its id, `*` standing for any key. */
export interface RefAt extends Ref {
  readonly in: Collection
  readonly to: Collection
  /** The keys from the top of the level. */
  readonly keys: readonly string[]
}

/** Every place in a level that names another thing, as the kinds of things tell it. */
export const REFS: readonly RefAt[] = (KINDS as readonly Kind[]).flatMap((kind) =>
  (kind.refs ?? []).map((ref) => ({
    ...ref,
    in: kind.in as Collection,
    to: ref.to as Collection,
    keys: [kind.in, '*', ...ref.path.split('.')],
  })),
)

/** One reference from a thing to another: where it stands, what it names, and where that should be. */
export interface Reference {
  at: string
  id: string
  in: string
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
  for (const { keys: parts, to } of REFS) {
    if (keys.length > parts.length) continue
    if (keys.every((key, i) => parts[i] === '*' || parts[i] === key)) into(value, parts, keys.length, to, trail, visit)
  }
}

/** Visits every id that stands in a thing at a path, `*` standing for any key. */
export function visitPath(thing: unknown, path: readonly string[], visit: (id: string) => void, depth = 0): void {
  if (depth === path.length) {
    if (typeof thing === 'string') visit(thing)
    return
  }
  if (typeof thing !== 'object' || thing === null) return
  const part = path[depth]
  if (part !== '*') visitPath((thing as Record<string, unknown>)[part], path, visit, depth + 1)
  else if (Array.isArray(thing)) for (let i = 0; i < thing.length; i++) visitPath(thing[i], path, visit, depth + 1)
  else for (const key in thing) visitPath((thing as Record<string, unknown>)[key], path, visit, depth + 1)
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
  for (const kind of WITH_PARTS) for (const id of Object.keys(level[kind.in])) all.push(...ordered(level, kind, id))
  return all
}

/** An order must name each of its things exactly once. */
function ordered(level: Level, kind: (typeof WITH_PARTS)[number], id: string): Reference[] {
  const holder = level[kind.in][id] as unknown as { order: string[] } & Record<string, object>
  const things = holder[kind.parts.in]
  const all: Reference[] = []
  const seen = new Set<string>()
  const at = `${kind.in}.${id}`
  for (const [i, entry] of holder.order.entries()) {
    all.push({
      at: `${at}.order.${i}`,
      id: entry,
      in: kind.parts.in,
      found: Object.hasOwn(things, entry) && !seen.has(entry),
    })
    seen.add(entry)
  }
  for (const key of Object.keys(things))
    if (!seen.has(key)) all.push({ at: `${at}.${kind.parts.in}.${key}`, id: key, in: kind.parts.in, found: false })
  return all
}

function dangling(r: Reference): LevelError {
  const why = WITH_PARTS.some(({ parts }) => parts.in === r.in)
    ? `${r.id} must stand exactly once among the ${r.in} and in their order`
    : `refers to ${r.id}, which is not among the ${r.in}`
  return new LevelError('dangling-reference', r.at, why, r.at.split('.'))
}

/** @throws LevelError naming the first reference that leads nowhere */
export function assertReferences(level: Level): void {
  visitReferences([], level, (to, id, at) => {
    if (!Object.hasOwn(level[to], id)) throw dangling({ at: at(), id, in: to, found: false })
  })
  for (const kind of WITH_PARTS) for (const id of Object.keys(level[kind.in])) assertOrder(level, kind, id)
}

/** @throws LevelError when an order does not name each of its things exactly once */
export function assertOrder(level: Level, kind: (typeof WITH_PARTS)[number], id: string): void {
  const holder = level[kind.in][id] as unknown as { order: string[] } & Record<string, object>
  const things = holder[kind.parts.in]
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
