import { beforeEach, expect, it, vi } from 'vitest'
import type { Batch } from './outbox'

/** The browser's own store, and which tabs live, in a few lines. */
const stores = new Map<string, Map<string, unknown>>()
let tabs: string[] = []
vi.mock('idb-keyval', () => {
  const of = (store: string) => stores.get(store) ?? stores.set(store, new Map()).get(store)!
  return {
    createStore: (name: string) => name,
    set: async (key: string, value: unknown, store: string) => void of(store).set(key, value),
    setMany: async (all: [string, unknown][], store: string) => all.forEach(([k, v]) => of(store).set(k, v)),
    del: async (key: string, store: string) => void of(store).delete(key),
    delMany: async (keys: string[], store: string) => keys.forEach((k) => of(store).delete(k)),
    entries: async (store: string) => [...of(store)],
  }
})
vi.stubGlobal('navigator', {
  locks: {
    request: async (name: string) => void tabs.push(name),
    query: async () => ({ held: tabs.map((name) => ({ name })) }),
  },
})
const { adoptLeftovers, dropAside, dropBatches, keepBatches, listAside, putAside } = await import('./outbox')

const batch = (id: string, base = 1, sent = false): Batch => ({ id, label: id, ops: [], base, sent })
const kept = () => [...(stores.get('tidytrail') ?? new Map<string, unknown>())]

beforeEach(() => {
  for (const store of stores.values()) store.clear()
  tabs = tabs.filter((t) => kept().some(([key]) => key.includes(t)) || t.startsWith('tidytrail-tab-'))
})

it('keeps batches under keys in the order they were made, as they are when written, and drops them', async () => {
  const one = batch('one')
  await keepBatches('lv_a', [one, batch('two')])
  one.ops.push({ op: 'replace', path: '/note', value: 'later' })
  expect(kept().map(([, b]) => b)).toMatchObject([{ id: 'one', ops: [] }, { id: 'two' }])
  await keepBatches('lv_a', [one])
  expect(kept()).toHaveLength(2)
  expect([...kept().map(([k]) => k)].sort()).toEqual(kept().map(([k]) => k))
  await dropBatches('lv_a', [one])
  expect(kept().map(([, b]) => (b as Batch).id)).toEqual(['two'])
})

it('takes over what tabs that no longer live left, in order and once, and leaves the rest alone', async () => {
  const store = stores.get('tidytrail')!
  store.set('lv_a/dead/000000002', batch('second', 4, true))
  store.set('lv_a/dead/000000001', batch('first', 3, true))
  store.set('lv_a/other/000000001', batch('first', 3, true))
  store.set('lv_a/alive/000000001', batch('somebody else’s'))
  store.set('lv_b/dead/000000001', batch('another level’s'))
  tabs.push('tidytrail-tab-alive')
  expect((await adoptLeftovers('lv_a')).map((b) => b.id)).toEqual(['first', 'second'])
  const keys = kept().map(([k]) => k as string)
  expect(keys.filter((k) => k.includes('/dead/') && k.startsWith('lv_a'))).toEqual([])
  expect(keys).toEqual(expect.arrayContaining(['lv_a/alive/000000001', 'lv_b/dead/000000001']))
  // They are this tab's now, and still there when it comes back to the level before they have arrived.
  expect((await adoptLeftovers('lv_a')).map((b) => b.id)).toEqual(['first', 'second'])
  expect(kept().filter(([, b]) => ['first', 'second'].includes((b as Batch).id))).toHaveLength(2)
})

it('reads what an older version left, as sent: its server may have it already', async () => {
  stores
    .get('tidytrail')!
    .set('lv_a/dead', { revision: 7, batches: [{ id: 'old', ops: [{ op: 'remove', path: '/x' }] }] })
  expect(await adoptLeftovers('lv_a')).toMatchObject([{ id: 'old', base: 7, sent: true, ops: [{ path: '/x' }] }])
})

it('keeps what was set aside by its level until it is let go', async () => {
  await putAside('lv_a', { id: 'a', label: 'A', ops: [], why: 'why' })
  await putAside('lv_b', { id: 'b', label: 'B', ops: [], why: 'why' })
  expect((await listAside('lv_a')).map((a) => a.id)).toEqual(['a'])
  await dropAside('lv_a', 'a')
  expect(await listAside('lv_a')).toEqual([])
  expect(await listAside('lv_b')).toHaveLength(1)
})
