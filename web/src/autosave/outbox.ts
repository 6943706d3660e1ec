import type { PatchOp } from '@tidytrail/core/level'
import { createStore, del, delMany, entries, set, setMany } from 'idb-keyval'

/** Changes made together, to be sent and kept together. Once sent, a batch never changes. */
export interface Batch {
  readonly id: string
  /** What the first of them is called in the undo list. */
  readonly label: string
  readonly ops: PatchOp[]
  /** The revision they were made on. */
  base: number
  sent: boolean
}

/** Changes the server did not take, and why. They are no longer in the document. */
export interface Aside {
  readonly id: string
  readonly label: string
  readonly ops: readonly PatchOp[]
  readonly why: string
}

const store = createStore('tidytrail', 'outbox')
const asideStore = createStore('tidytrail-aside', 'aside')
const tabId = crypto.randomUUID()

/** Held for as long as this tab lives, so that other tabs can tell its outbox from one left behind. */
let claimed = false
function claim(): void {
  if (claimed) return
  claimed = true
  void navigator.locks?.request(`tidytrail-tab-${tabId}`, () => new Promise(() => {}))
}

let last = 0
const numbers = new Map<string, string>()
/** The key a batch is written under: keys of one tab sort in the order the batches were made. */
function keyOf(levelId: string, batchId: string): string {
  const known = numbers.get(batchId)
  if (known) return known
  const key = `${levelId}/${tabId}/${String(++last).padStart(9, '0')}`
  numbers.set(batchId, key)
  return key
}

const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

/** Writes batches to the browser's own store. */
export async function keepBatches(levelId: string, batches: readonly Batch[]): Promise<void> {
  claim()
  await setMany(
    batches.map((b) => [keyOf(levelId, b.id), plain(b)]),
    store,
  )
}

/** Takes batches that have arrived, or were let go, out of the browser's own store. */
export async function dropBatches(levelId: string, batches: readonly Pick<Batch, 'id'>[]): Promise<void> {
  await delMany(
    batches.map((b) => keyOf(levelId, b.id)),
    store,
  )
  for (const b of batches) numbers.delete(b.id)
}

/** What older versions wrote: all that waited in a tab under one key. */
interface OldOutbox {
  revision: number
  batches: { id: string; ops: PatchOp[] }[]
}

/**
 * What was left unsent for a level, in the order it was made: by tabs that no longer live, whose it is no more, and by
 * this one when it was at the level before.
 */
export async function adoptLeftovers(levelId: string): Promise<Batch[]> {
  claim()
  const alive = new Set((await navigator.locks?.query())?.held?.map((l) => l.name))
  const found: Batch[] = []
  const keys: string[] = []
  for (const [key, value] of (await entries<string, Batch | OldOutbox>(store)).sort(([a], [b]) => (a < b ? -1 : 1))) {
    const [level, tab] = key.split('/')
    if (level !== levelId || (tab !== tabId && alive.has(`tidytrail-tab-${tab}`))) continue
    if (tab !== tabId) keys.push(key)
    const batches: Batch[] =
      'batches' in value
        ? value.batches.map((b) => ({ ...b, label: 'Earlier changes', base: value.revision, sent: true }))
        : [value]
    // One may stand there twice when a tab ended while it took them over.
    for (const batch of batches) if (!found.some((b) => b.id === batch.id)) found.push(batch)
  }
  // Written here before they go there: an end in between loses nothing.
  await keepBatches(levelId, found)
  await delMany(keys, store)
  return found.sort((a, b) => a.base - b.base)
}

export const putAside = (levelId: string, aside: Aside): Promise<void> =>
  set(`${levelId}/${aside.id}`, plain(aside), asideStore)

export const dropAside = (levelId: string, id: string): Promise<void> => del(`${levelId}/${id}`, asideStore)

/** What was set aside for a level. */
export async function listAside(levelId: string): Promise<Aside[]> {
  const all = await entries<string, Aside>(asideStore)
  return all.filter(([key]) => key.startsWith(`${levelId}/`)).map(([, aside]) => aside)
}
