import { addRoute, blankLevel, changeSettings, renameLevel, type Level, type PatchOp } from '@tidytrail/core/level'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import type { KeeperEvents } from '../keeping/keeper'

/** What the store hands to its keeper, and the keeper's way to speak back. */
const keeper = {
  sent: [] as PatchOp[][],
  events: undefined as KeeperEvents | undefined,
  closed: 0,
  resolved: [] as string[],
  forgotten: 0,
}
vi.mock('../keeping/keeper', () => ({
  Keeper: class {
    constructor(_id: string, events: KeeperEvents) {
      keeper.events = events
    }
    async open() {
      keeper.events!.state('kept', 0, 3)
      return blankLevel('Store')
    }
    add(ops: PatchOp[]) {
      keeper.sent.push(ops)
    }
    async resolve(how: string) {
      keeper.resolved.push(how)
    }
    async forget() {
      keeper.forgotten++
    }
    close() {
      keeper.closed++
    }
  },
}))
const copies: Level[] = []
vi.mock('../api/levels', () => ({
  makeFrom: async (level: Level) => (copies.push(level), { id: 'lv_copy12345', revision: 1 }),
}))

const { useLevelStore } = await import('./level')
let store: ReturnType<typeof useLevelStore>
const heard: (PatchOp[] | 'anew')[] = []

beforeEach(async () => {
  setActivePinia(createPinia())
  Object.assign(keeper, { sent: [], closed: 0, resolved: [], forgotten: 0 })
  heard.length = 0
  store = useLevelStore()
  store.listen((_level, patch) => heard.push(patch))
  await store.open('lv_store1234')
})

const grid = (gridM: number, gesture?: string) => store.perform(changeSettings, { set: { gridM } }, gesture)

it('opens a level and tells its listeners of it anew', () => {
  expect(store.doc.name).toBe('Store')
  expect([store.keepState, store.revision]).toEqual(['kept', 3])
  expect(heard).toEqual(['anew'])
})

it('hands every edit to the keeper and the listeners as the same patch', () => {
  store.perform(renameLevel, { name: 'Other' })
  expect(store.doc.name).toBe('Other')
  expect(keeper.sent).toEqual([[{ op: 'replace', path: '/name', value: 'Other' }]])
  expect(heard.at(-1)).toEqual(keeper.sent[0])
})

it('passes over an edit that changes nothing', () => {
  store.perform(renameLevel, { name: 'Store' })
  expect(store.steps.past).toHaveLength(0)
  expect(keeper.sent).toEqual([])
})

it('keeps a drag as one step, and sends it when it ends', () => {
  for (let k = 1; k <= 20; k++) grid(k / 10, 'drag')
  expect(heard).toHaveLength(21)
  expect(keeper.sent).toEqual([])
  store.release()
  expect(keeper.sent).toEqual([[{ op: 'replace', path: '/settings/gridM', value: 2 }]])
  expect(store.steps.past).toHaveLength(1)
  store.undo()
  expect(store.doc.settings.gridM).toBe(1)
})

it('ends a drag that something else interrupts, in order', () => {
  grid(5, 'drag')
  store.perform(renameLevel, { name: 'Between' })
  expect(keeper.sent.flat().map((o) => o.path)).toEqual(['/settings/gridM', '/name'])
  grid(6, 'drag-2')
  store.close()
  expect(keeper.sent).toHaveLength(3)
  expect(keeper.closed).toBe(1)
})

it('undoes and redoes as ordinary changes that are kept too', () => {
  grid(2)
  store.perform(renameLevel, { name: 'Two' })
  store.undo()
  store.undo()
  expect(store.doc).toMatchObject({ name: 'Store', settings: { gridM: 1 } })
  store.undo()
  store.redo()
  expect(store.doc.settings.gridM).toBe(2)
  expect(keeper.sent).toHaveLength(5)
})

it('makes several edits one step', () => {
  store.together('Two routes', [
    (l) => addRoute.apply(l, { id: 'rt_a', name: 'A', kind: 'patrol' }),
    (l) => addRoute.apply(l, { id: 'rt_b', name: 'B', kind: 'patrol' }),
  ])
  expect(store.steps.past.map((e) => e.label)).toEqual(['Two routes'])
  store.undo()
  expect(store.doc.routes).toEqual({})
})

it('takes in what the keeper brings, and still undoes its own steps on top', () => {
  grid(2)
  keeper.events!.replaced({ ...store.doc, note: 'from elsewhere' }, 'why')
  expect(heard.at(-1)).toBe('anew')
  store.undo()
  expect(store.doc).toMatchObject({ note: 'from elsewhere', settings: { gridM: 1 } })
})

it('clears a history that no longer fits, rather than damaging the level', () => {
  store.together('Route', [(l) => addRoute.apply(l, { id: 'rt_a', name: 'A', kind: 'patrol' })])
  store.perform(renameLevel, { name: 'Named' })
  const { routes: _gone, ...rest } = store.doc
  keeper.events!.replaced({ ...rest, routes: undefined } as unknown as Level, 'why')
  store.undo()
  const before = store.doc
  store.undo()
  expect(store.doc).toBe(before)
  expect(store.steps.past).toHaveLength(0)
})

it('leaves a conflict to whoever uses it, also by keeping both', async () => {
  keeper.events!.conflict(blankLevel('Theirs'))
  expect(store.conflict?.name).toBe('Theirs')
  expect(await store.resolveConflict('copy')).toBe('lv_copy12345')
  expect(copies.at(-1)?.name).toBe('Store, my version')
  expect(keeper.forgotten).toBe(1)
  await store.resolveConflict('mine')
  expect(keeper.resolved).toEqual(['mine'])
})
