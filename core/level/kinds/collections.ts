import type { Collection, Level, ThingOf } from '../schema'
import type { Kind, Parts } from './kind'
import { KINDS } from './list'

const kinds: readonly Kind[] = KINDS

/** The record collections of a level, in the order of a level file. */
export const COLLECTIONS = kinds.map((kind) => kind.in) as readonly Collection[]

const byCollection = new Map(kinds.map((kind) => [kind.in, kind]))

/** The kind of thing a collection holds. */
export const kindIn = (collection: string): Kind => byCollection.get(collection)!

/** Is it the name of a collection? */
export const isCollection = (key: string): key is Collection => byCollection.has(key)

/** One word for a thing of a collection, and for several of them. */
export const thingWord = (collection: Collection): string => kindIn(collection).word
export const thingsWord = (collection: Collection): string => {
  const { word, plural } = kindIn(collection)
  return plural ?? `${word}s`
}

/** Collections whose things stand for themselves, so that a copy is a thing of its own. */
export const STANDING = kinds.filter((kind) => kind.stands).map((kind) => kind.in) as readonly Collection[]
export const standsAlone = (collection: Collection): boolean => kindIn(collection).stands === true

/** The collections whose things have parts, with those. */
export const WITH_PARTS = kinds.flatMap((kind) =>
  (kind.parts as Parts | undefined) ? [{ in: kind.in as Collection, parts: kind.parts as Parts }] : [],
)

const byPrefix = new Map(kinds.map((kind) => [kind.prefix, kind.in as Collection]))

/** The collection a thing is in, found by its id, or undefined when the level has no such thing. */
export function collectionOf(level: Level, id: string): Collection | undefined {
  // Most ids say it by what they begin with; others may have been made elsewhere.
  const likely = byPrefix.get(id.slice(0, 2))
  if (likely && Object.hasOwn(level[likely], id)) return likely
  return COLLECTIONS.find((c) => Object.hasOwn(level[c], id))
}

/** A thing of whatever kind, as far as all kinds have something in common. */
export interface AnyThing {
  readonly name?: string
  readonly kind?: string
  readonly locked?: boolean
  readonly hidden?: boolean
}

/** A thing by its id, with the collection it is in. */
export function thingOf(level: Level, id: string): { in: Collection; id: string; thing: AnyThing } | undefined {
  const collection = collectionOf(level, id)
  return collection && { in: collection, id, thing: level[collection][id] as AnyThing }
}

/** What a thing is called: its name where it has one, otherwise its kind. */
export function nameOf(level: Level, id: string): string {
  const found = thingOf(level, id)
  if (!found) return id
  return found.thing.name?.trim() || thingWord(found.in)
}

/** Things of one collection by their ids. */
export type Things<C extends Collection> = Readonly<Record<string, ThingOf<C>>>
