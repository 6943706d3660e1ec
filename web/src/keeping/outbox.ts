import type { PatchOp } from '@tidytrail/core/level'
import { createStore, del, entries, set } from 'idb-keyval'

/** Changes made together, to be sent and kept together. */
export interface Batch {
  readonly id: string
  readonly ops: PatchOp[]
}

/** What a tab has not yet had accepted, and the revision its first batch was made to. */
export interface Waiting {
  readonly revision: number
  readonly batches: readonly Batch[]
}

const store = createStore('tidytrail', 'outbox')
const tabId = crypto.randomUUID()

/** Held for as long as this tab lives, so that other tabs can tell its outbox from one left behind. */
let claimed = false
function claim(): void {
  if (claimed) return
  claimed = true
  void navigator.locks?.request(`tidytrail-tab-${tabId}`, () => new Promise(() => {}))
}

const keyOf = (levelId: string, tab: string) => `${levelId}/${tab}`

/** Writes what is waiting to the browser's own store; an empty list clears it. */
export async function keepWaiting(levelId: string, waiting: Waiting): Promise<void> {
  claim()
  const key = keyOf(levelId, tabId)
  if (waiting.batches.length === 0) await del(key, store)
  else await set(key, JSON.parse(JSON.stringify(waiting)), store)
}

/** What tabs that no longer live left unsent for a level, oldest revision first; it now belongs to this tab. */
export async function adoptLeftovers(levelId: string): Promise<Waiting[]> {
  claim()
  const alive = new Set((await navigator.locks?.query())?.held?.map((l) => l.name))
  const found: Waiting[] = []
  for (const [key, value] of await entries<string, Waiting>(store)) {
    const [level, tab] = key.split('/')
    if (level !== levelId || tab === tabId || alive.has(`tidytrail-tab-${tab}`)) continue
    found.push(value)
    await set(keyOf(levelId, tabId), value, store)
    await del(key, store)
  }
  return found.sort((a, b) => a.revision - b.revision)
}
