/** Things taken out of a level, to be put into the same or another. */
import { z } from 'zod'
import { LevelError } from './error'
import { errorOf } from './faults'
import { collectionOf, isCollection, kindIn, standsAlone, WITH_PARTS } from './kinds/collections'
import { copyNames } from './copy-names'
import type { IdKind } from './ids'
import { REFS, references, visitPath } from './references'
import { levelSchema, type Collection, type Level } from './schema'
import type { NewThing } from './sketched'
import { movedThing, shift } from './transform'

type Keyed = Record<string, unknown>

/** Things with all that they stand on, by their collections. */
export interface Clip {
  readonly format: 'tidytrail-clip'
  readonly things: Readonly<Partial<Record<Collection, Readonly<Record<string, unknown>>>>>
}

/** Kinds of things whose places others stand on, such as waypoints. */
const SUPPORTS = new Set(REFS.filter((r) => r.stands).map((r) => r.to))

/** Is a thing of this kind copied when it is chosen? */
const isCopied = (collection: Collection): boolean =>
  standsAlone(collection) || SUPPORTS.has(collection) || REFS.some((r) => r.in === collection && r.stands)

/**
 * What is copied of a choice: things that stand for themselves, and those that stand on others with these, such as
 * routes with their waypoints and links. What joins two things that are copied comes along.
 */
export function clipOf(level: Level, ids: readonly string[]): Clip {
  const taken = new Map<Collection, Set<string>>()
  const take = (collection: Collection, id: string) => {
    let set = taken.get(collection)
    if (!set) taken.set(collection, (set = new Set()))
    if (set.has(id) || !Object.hasOwn(level[collection], id)) return
    set.add(id)
    for (const ref of REFS)
      if (ref.in === collection && ref.stands)
        visitPath(level[collection][id], ref.keys.slice(2), (to) => take(ref.to, to))
  }
  for (const id of ids) {
    const collection = collectionOf(level, id)
    if (collection && isCopied(collection)) take(collection, id)
  }
  for (const link of joinsOf(level, taken)) take('links', link)
  const things = Object.fromEntries(
    [...taken].map(([collection, set]) => [
      collection,
      Object.fromEntries([...set].map((id) => [id, level[collection][id]])),
    ]),
  )
  return { format: 'tidytrail-clip', things }
}

/** Links between two waypoints that are taken. */
function joinsOf(level: Level, taken: ReadonlyMap<Collection, ReadonlySet<string>>): string[] {
  const waypoints = taken.get('waypoints')
  if (!waypoints) return []
  return Object.entries(level.links).flatMap(([id, l]) =>
    waypoints.has(l.fromId) && waypoints.has(l.toId) ? [id] : [],
  )
}

/** How many things of a collection are in a clip. */
export const clippedIn = (clip: Clip, collection: Collection): number =>
  Object.keys(clip.things[collection] ?? {}).length

const envelope = z.strictObject({
  format: z.literal('tidytrail-clip'),
  things: z.record(z.string(), z.record(z.string(), z.unknown())),
})

/**
 * A clip read from what somebody else may have written. What it names beside its own things is looked at when it is
 * pasted.
 * @throws LevelError that names the place of the first fault
 */
export function readClip(value: unknown): Clip {
  const outer = envelope.safeParse(value)
  if (!outer.success) throw errorOf(outer.error)
  const things: Partial<Record<Collection, Record<string, unknown>>> = {}
  for (const [collection, all] of Object.entries(outer.data.things)) {
    if (!isCollection(collection) || !isCopied(collection)) continue
    const read = levelSchema.shape[collection].safeParse(all)
    if (!read.success) throw errorOf(read.error, ['things', collection])
    things[collection] = read.data as Record<string, unknown>
  }
  const whole = { ...emptyCollections(), ...things } as unknown as Level
  for (const ref of references(whole)) {
    const [collection] = ref.at.split('.')
    const stands = REFS.some((r) => r.in === collection && r.stands && r.to === ref.in)
    const part = WITH_PARTS.some(({ parts }) => parts.in === ref.in)
    if (!ref.found && (stands || part))
      throw new LevelError('dangling-reference', `things.${ref.at}`, `names ${ref.id}, which is not in it`)
  }
  return { format: 'tidytrail-clip', things }
}

const emptyCollections = () =>
  Object.fromEntries(Object.keys(levelSchema.shape).flatMap((key) => (isCollection(key) ? [[key, {}]] : [])))

/**
 * The things of a clip with ids of their own, moved. What they name that is neither in the clip nor in the level is
 * dealt with as if it had been deleted. They keep their names unless these are taken.
 */
export function pasted(
  level: Level,
  clip: Clip,
  [dx, dy]: readonly [number, number],
  newId: (kind: IdKind) => string,
): NewThing[] {
  const ids = new Map<string, string>()
  for (const [collection, things] of Object.entries(clip.things))
    for (const id of Object.keys(things)) ids.set(id, newId(collection as Collection))
  return Object.entries(clip.things).flatMap(([key, things]) => {
    const collection = key as Collection
    const called = copyNames(level[collection])
    return Object.entries(things).flatMap(([id, old]) => {
      const thing = renumbered(level, collection, structuredClone(old) as Keyed, ids, newId)
      if (!thing) return []
      if (typeof thing.name === 'string') thing.name = called(thing.name)
      return [{ in: collection, id: ids.get(id)!, thing: movedThing(collection, thing, shift(dx, dy)) ?? thing }]
    })
  })
}

/** A thing whose references lead to new things, or to what the level has; undefined when it cannot be without one. */
function renumbered(
  level: Level,
  collection: Collection,
  thing: Keyed,
  ids: ReadonlyMap<string, string>,
  newId: (kind: IdKind) => string,
): Keyed | undefined {
  for (const ref of REFS) {
    if (ref.in !== collection) continue
    const known = (id: string) => ids.get(id) ?? (Object.hasOwn(level[ref.to], id) ? id : undefined)
    if (!relink(thing, ref.keys.slice(2), known, ref.onLost)) return undefined
  }
  const { parts } = kindIn(collection)
  if (!parts) return thing
  const fresh = new Map(Object.keys(thing[parts.in] as Keyed).map((part) => [part, newId(parts.in as IdKind)]))
  thing[parts.in] = Object.fromEntries(Object.entries(thing[parts.in] as Keyed).map(([k, v]) => [fresh.get(k)!, v]))
  thing.order = (thing.order as string[]).flatMap((part) => fresh.get(part) ?? [])
  return thing
}

/** @returns false when something is lost that what holds it cannot be without */
function relink(
  holder: Keyed,
  [key, ...rest]: readonly string[],
  known: (id: string) => string | undefined,
  onLost: string,
): boolean {
  if (key === '*') {
    for (const inner of Object.keys(holder))
      if (!relink(holder[inner] as Keyed, rest, known, onLost)) delete holder[inner]
    return true
  }
  const value = holder[key]
  if (value === undefined || value === null) return true
  if (rest.length === 0) {
    const to = known(value as string)
    if (to === undefined && onLost === 'delete') return false
    holder[key] = to ?? null
  } else if (rest.length === 1 && rest[0] === '*') {
    const list = value as string[]
    const left = list.flatMap((id) => known(id) ?? [])
    holder[key] = left
    if (onLost === 'keep-and-find' && left.length === 0 && list.length > 0) holder.nobody = true
  } else return relink(value as Keyed, rest, known, onLost)
  return true
}
