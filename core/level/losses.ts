/** What the deletion of things does to all that refers to them, worked out from the references kinds of things tell of. */
import type { Changes } from './edit'
import { keysOf } from './keys'
import { collectionOf, kindIn, WITH_PARTS } from './kinds/collections'
import { valueAt } from './pointer'
import { REFS, visitPath, type RefAt } from './references'
import type { Collection, Level } from './schema'

type Keyed = Record<string, unknown>

/** What goes, and what is said otherwise, when some things are deleted. */
export interface Losses {
  /** Things that go, by collection. */
  readonly things: ReadonlyMap<Collection, ReadonlySet<string>>
  /** Parts that go, by the collection and the id of the thing that holds them. */
  readonly parts: ReadonlyMap<Collection, ReadonlyMap<string, ReadonlySet<string>>>
  /** References that are cleared or taken out of their lists. */
  readonly references: readonly { readonly ref: RefAt; readonly holder: string }[]
}

/** Where in a reference's path the part of a thing stands, or −1 when it is of the thing itself. */
const partDepth = (ref: RefAt): number => (kindIn(ref.in).parts?.in === ref.keys[2] ? 4 : -1)

/** Who refers to a thing: its collection and id, and the part of it that does. */
interface Referrer {
  readonly in: Collection
  readonly id: string
  readonly part: string | undefined
}

/** Visits every reference of one sort, with the thing and part that hold it. */
function visitHolders(level: Level, ref: RefAt, visit: (to: string, holder: string, part: string | undefined) => void) {
  const things = level[ref.in] as unknown as Record<string, Keyed>
  const inPart = partDepth(ref) > 0
  const path = ref.keys.slice(inPart ? 4 : 2)
  const single = path.length === 1
  for (const holder of keysOf(things)) {
    if (inPart) {
      const parts = things[holder][ref.keys[2]] as Keyed
      for (const part of keysOf(parts)) visitPath(parts[part], path, (to) => visit(to, holder, part))
    } else if (single) {
      const to = things[holder][path[0]]
      if (typeof to === 'string') visit(to, holder, undefined)
    } else visitPath(things[holder], path, (to) => visit(to, holder, undefined))
  }
}

/**
 * Everything that follows from deleting some things: what refers to them and cannot do without goes too, and what
 * belonged to them alone. Costs one look at all that may refer to what goes. Unknown ids are passed over.
 * @param steps ids of parts of things that are deleted besides
 */
export function lossesOf(level: Level, ids: readonly string[], steps: readonly string[] = []): Losses {
  const things = new Map<Collection, Set<string>>()
  const parts = new Map<Collection, Map<string, Set<string>>>()
  const references: Losses['references'][number][] = []
  const isGone = (c: Collection, id: string) => things.get(c)?.has(id) === true
  const isPartGone = (c: Collection, id: string, part: string) => parts.get(c)?.get(id)?.has(part) === true

  let fresh = new Map<Collection, Set<string>>()
  const lose = (c: Collection, id: string) => {
    if (isGone(c, id)) return
    setIn(things, c).add(id)
    setIn(fresh, c).add(id)
  }
  for (const id of ids) {
    const collection = collectionOf(level, id)
    if (collection) lose(collection, id)
  }
  for (const { in: collection, id, part } of partsNamed(level, steps)) {
    let own = parts.get(collection)
    if (!own) parts.set(collection, (own = new Map()))
    setIn(own, id).add(part)
  }

  const candidates = new Map<Collection, Set<string>>()
  while (fresh.size > 0) {
    const now = fresh
    fresh = new Map()
    for (const [collection, gone] of now)
      for (const ref of REFS)
        if (ref.in === collection && ref.orphans)
          for (const id of gone)
            visitPath(level[collection][id], ref.keys.slice(2), (to) => setIn(candidates, ref.to).add(to))
    for (const ref of REFS) {
      const gone = now.get(ref.to)
      if (!gone) continue
      visitHolders(level, ref, (to, holder, part) => {
        if (!gone.has(to)) return
        if (ref.onLost !== 'delete') references.push({ ref, holder })
        else if (part === undefined) lose(ref.in, holder)
        else {
          let own = parts.get(ref.in)
          if (!own) parts.set(ref.in, (own = new Map()))
          setIn(own, holder).add(part)
        }
      })
    }
    if (fresh.size === 0 && candidates.size > 0) for (const [c, id] of orphans()) lose(c, id)
  }
  return { things, parts, references: references.filter(({ ref, holder }) => !isGone(ref.in, holder)) }

  /** Candidates nobody refers to any more, unless it is another candidate of whom the same is true. */
  function orphans(): [Collection, string][] {
    const users = new Map<string, Referrer[]>()
    for (const ref of REFS) {
      const wanted = candidates.get(ref.to)
      if (!wanted) continue
      visitHolders(level, ref, (to, holder, part) => {
        if (!wanted.has(to)) return
        const list = users.get(to)
        const user = { in: ref.in, id: holder, part }
        if (list) list.push(user)
        else users.set(to, [user])
      })
    }
    const free: [Collection, string][] = []
    const freed = new Set<string>()
    const isLive = (u: Referrer) =>
      !isGone(u.in, u.id) && !freed.has(u.id) && !(u.part !== undefined && isPartGone(u.in, u.id, u.part))
    for (let more = true; more;) {
      more = false
      for (const [collection, wanted] of candidates)
        for (const id of wanted) {
          if (freed.has(id) || users.get(id)?.some(isLive)) continue
          freed.add(id)
          if (!isGone(collection, id)) free.push([collection, id])
          more = true
        }
    }
    candidates.clear()
    return free
  }
}

function partsNamed(level: Level, ids: readonly string[]): { in: Collection; id: string; part: string }[] {
  if (ids.length === 0) return []
  return WITH_PARTS.flatMap(({ in: collection, parts }) =>
    Object.entries(level[collection]).flatMap(([id, thing]) =>
      ids
        .filter((part) => Object.hasOwn((thing as unknown as Record<string, Keyed>)[parts.in], part))
        .map((part) => ({ in: collection, id, part })),
    ),
  )
}

function setIn<K>(map: Map<K, Set<string>>, key: K): Set<string> {
  let set = map.get(key)
  if (!set) map.set(key, (set = new Set()))
  return set
}

/** Takes what is lost out of the level it was worked out for. */
export function takeOut(changes: Changes, losses: Losses): void {
  const { base } = changes
  const gone = (to: Collection, id: unknown) => losses.things.get(to)?.has(id as string) === true
  for (const [collection, holders] of losses.parts)
    for (const [id, lost] of holders) {
      if (gone(collection, id)) continue
      for (const part of lost) changes.remove([collection, id, kindIn(collection).parts!.in, part])
      const { order } = base[collection][id] as unknown as { order: string[] }
      const left = order.filter((part) => !lost.has(part))
      changes.list([collection, id, 'order'], left)
    }
  const done = new Set<string>()
  for (const { ref, holder } of losses.references) {
    const key = `${holder} ${ref.path}`
    if (done.has(key)) continue
    done.add(key)
    rewrite(changes, [ref.in, holder], changes.level[ref.in][holder], ref, ref.keys.slice(2), (id) => gone(ref.to, id))
  }
  for (const [collection, ids] of losses.things) for (const id of ids) changes.remove([collection, id])
}

/** Clears references, or takes them out of their lists. @param at the keys that lead to what the path leads on from */
function rewrite(
  changes: Changes,
  at: readonly string[],
  from: unknown,
  ref: RefAt,
  [key, ...rest]: readonly string[],
  gone: (id: unknown) => boolean,
): void {
  const value = (from as Keyed)[key]
  if (key === '*') {
    for (const inner of Object.keys(from as Keyed)) rewrite(changes, at, from, ref, [inner, ...rest], gone)
  } else if (rest.length === 0) {
    if (gone(value)) changes.set([...at, key], null)
  } else if (rest.length === 1 && rest[0] === '*' && Array.isArray(value)) {
    const left = value.filter((id) => !gone(id))
    if (left.length === value.length) return
    changes.list([...at, key], left)
    if (ref.onLost === 'keep-and-find' && left.length === 0) changes.set([...at, 'nobody'], true)
  } else if (value !== undefined && valueAt(changes.level, [...at, key]) !== undefined)
    rewrite(changes, [...at, key], value, ref, rest, gone)
}
