import {
  addRoute,
  addThing,
  addThings,
  blankLevel,
  changeSettings,
  changeThings,
  markerSchema,
  movePlaces,
  renameLevel,
  type Level,
  type PatchOp,
} from '@tidytrail/core/level'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { KeeperEvents } from '../autosave/autosave'
import { toasts } from '../ui/toasts'

/** What the store hands to its autosave, and the autosave's way to speak back. */
const autosave = {
  sent: [] as PatchOp[][],
  events: undefined as KeeperEvents | undefined,
  closed: 0,
  resolved: [] as string[],
  forgotten: 0,
  freed: 0,
}
vi.mock('../autosave/autosave', () => ({
  Autosave: class {
    constructor(_id: string, events: KeeperEvents) {
      autosave.events = events
    }
    async open() {
      autosave.events!.state('kept', 0, 3)
      return blankLevel('Store')
    }
    add(ops: PatchOp[]) {
      autosave.sent.push(ops)
    }
    async resolve(how: string) {
      autosave.resolved.push(how)
    }
    async forget() {
      autosave.forgotten++
    }
    async retry() {
      throw new Error('it does not fit')
    }
    free() {
      autosave.freed++
    }
    close() {
      autosave.closed++
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
  Object.assign(autosave, { sent: [], closed: 0, resolved: [], forgotten: 0, freed: 0 })
  heard.length = 0
  store = useLevelStore()
  store.listen((_level, patch) => heard.push(patch))
  await store.open('lv_store1234')
})

const marker = (at: [number, number, number]) =>
  store.perform(addThing, {
    in: 'markers',
    id: 'mk_a',
    thing: { ...markerSchema.parse({ name: 'Bell', at: [0, 0, 0] }), at },
  })
const grid = (gridM: number, gesture?: string) => store.perform(changeSettings, { set: { gridM } }, gesture)

it('opens a level and tells its listeners of it anew', () => {
  expect(store.doc.name).toBe('Store')
  expect([store.keepState, store.revision]).toEqual(['kept', 3])
  expect(heard).toEqual(['anew'])
})

it('hands every edit to the autosave and the listeners as the same patch', () => {
  store.perform(renameLevel, { name: 'Other' })
  expect(store.doc.name).toBe('Other')
  expect(autosave.sent).toEqual([[{ op: 'replace', path: '/name', value: 'Other' }]])
  expect(heard.at(-1)).toEqual(autosave.sent[0])
})

it('passes over an edit that changes nothing', () => {
  store.perform(renameLevel, { name: 'Store' })
  expect(store.steps.past).toHaveLength(0)
  expect(autosave.sent).toEqual([])
})

it('keeps a drag as one step, and sends it when it ends', () => {
  for (let k = 1; k <= 20; k++) grid(k / 10, 'drag')
  expect(heard).toHaveLength(21)
  expect(autosave.sent).toEqual([])
  store.release()
  expect(autosave.sent).toEqual([[{ op: 'replace', path: '/settings/gridM', value: 2 }]])
  expect(store.steps.past).toHaveLength(1)
  store.undo()
  expect(store.doc.settings.gridM).toBe(1)
})

it('ends a drag that something else interrupts, in order', () => {
  grid(5, 'drag')
  store.perform(renameLevel, { name: 'Between' })
  expect(autosave.sent.flat().map((o) => o.path)).toEqual(['/settings/gridM', '/name'])
  grid(6, 'drag-2')
  store.close()
  expect(autosave.sent).toHaveLength(3)
  expect(autosave.closed).toBe(1)
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
  expect(autosave.sent).toHaveLength(5)
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

it('takes in what the autosave brings, and still undoes its own steps on top', () => {
  grid(2)
  autosave.events!.replaced({ ...store.doc, note: 'from elsewhere' }, 'why')
  expect(heard.at(-1)).toBe('anew')
  store.undo()
  expect(store.doc).toMatchObject({ note: 'from elsewhere', settings: { gridM: 1 } })
})

it('takes in patches of others, and tells its listeners just those', () => {
  autosave.events!.others([{ op: 'replace', path: '/note', value: 'theirs' }], 'why')
  expect(store.doc.note).toBe('theirs')
  expect(heard.at(-1)).toEqual([{ op: 'replace', path: '/note', value: 'theirs' }])
  expect(autosave.sent).toEqual([])
})

it('passes a step over that no longer fits, rather than damaging the level, and goes on with the one before', () => {
  grid(2)
  store.together('Route', [(l) => addRoute.apply(l, { id: 'rt_a', name: 'A', kind: 'patrol' })])
  const without = { ...store.doc, routes: {} }
  autosave.events!.replaced(without, 'why')
  store.undo()
  expect(store.doc).toBe(without)
  expect(toasts.at(-1)?.text).toContain('“Route” no longer fits')
  store.undo()
  expect(store.doc.settings.gridM).toBe(1)
})

it('asks before it undoes over what somebody else has changed since', () => {
  grid(75)
  store.perform(renameLevel, { name: 'Mine' })
  const theirs: PatchOp[] = [{ op: 'replace', path: '/settings/gridM', value: 80 }]
  autosave.events!.overtaken(theirs)
  autosave.events!.others(theirs, 'why')
  // The step on top is nobody else's business.
  store.undo()
  expect(store.doc.name).toBe('Store')
  const sent = autosave.sent.length
  store.undo()
  expect(store.doc.settings.gridM).toBe(80)
  expect(store.doubt).toEqual({
    how: 'undo',
    label: 'Change the level settings',
    clashes: [{ path: '/settings/gridM', mine: 1, theirs: 80 }],
  })
  store.settleDoubt('leave')
  expect(autosave.sent).toHaveLength(sent)
  store.undo()
  store.settleDoubt('do')
  expect(store.doc.settings.gridM).toBe(1)
  expect(autosave.sent).toHaveLength(sent + 1)
  // And the way back is an ordinary one again.
  store.redo()
  expect(store.doc.settings.gridM).toBe(75)
})

it('lets a step go without doing it when one wants to reach those below', () => {
  store.perform(renameLevel, { name: 'Mine' })
  grid(75)
  autosave.events!.overtaken([{ op: 'replace', path: '/settings/gridM', value: 80 }])
  store.undo()
  store.settleDoubt('skip')
  expect(store.doc.settings.gridM).toBe(75)
  store.undo()
  expect(store.doc.name).toBe('Store')
})

describe('an edit the level may not hold', () => {
  it.each<[string, () => boolean, string]>([
    ['a number out of range', () => grid(99_999_999), 'grid may be at most 1,000'],
    [
      'a text too long',
      () => store.perform(changeThings, { in: 'profiles', changes: { pf_warden: { note: 'x'.repeat(5_000) } } }),
      'note may have at most 4,000 letters',
    ],
    [
      'a tag too long',
      () => store.perform(changeThings, { in: 'profiles', changes: { pf_warden: { tags: ['x'.repeat(500)] } } }),
      'Warden: tags may have at most 200 letters',
    ],
    ['a place out of the world', () => marker([99_999_999, 0, 0]), 'east may be at most 100,000'],
    [
      'a sheet like a thread',
      () => store.perform(changeSettings, { set: { extent: { minX: 0, minY: 0, maxX: 0.001, maxY: 100 } } }),
      'each side must have at least 1 m',
    ],
  ])('is refused before it is taken, in plain words: %s', (_what, edit, words) => {
    const before = store.doc
    expect(edit()).toBe(false)
    expect(store.doc).toBe(before)
    expect(store.steps.past).toHaveLength(0)
    expect(autosave.sent).toEqual([])
    expect(toasts.at(-1)).toMatchObject({ kind: 'alarm', text: expect.stringContaining(words) })
  })

  it('is taken back whole when it was a drag of very many things', () => {
    const ids = Array.from({ length: 400 }, (_, k) => `mk_${k}`)
    store.together('Markers', [
      (l) =>
        addThings.apply(l, {
          things: ids.map((id) => ({ in: 'markers', id, thing: markerSchema.parse({ name: id, at: [0, 0, 0] }) })),
        }),
    ])
    const before = store.doc
    const to = (x: number) => Object.fromEntries(ids.map((id) => [id, [x, 0, 0]]))
    store.perform(movePlaces, { places: to(50) }, 'drag')
    store.perform(movePlaces, { places: to(200_000) }, 'drag')
    const sent = autosave.sent.length
    store.release()
    expect(store.doc).toEqual(before)
    expect(autosave.sent).toHaveLength(sent)
    expect(store.steps.past).toHaveLength(1)
    expect(toasts.at(-1)?.text).toContain('east may be at most 100,000')
  })
})

it('frees the hand when a drag ends, so that what others did comes in', () => {
  grid(2, 'drag')
  expect(autosave.events!.busy()).toBe(true)
  store.release()
  expect(autosave.events!.busy()).toBe(false)
  expect(autosave.freed).toBe(1)
})

it('keeps the drag under way when the level is replaced under the hand', () => {
  grid(7, 'drag')
  autosave.events!.replaced({ ...blankLevel('Anew'), note: 'theirs' }, 'why')
  expect(store.doc).toMatchObject({ name: 'Anew', note: 'theirs', settings: { gridM: 7 } })
  store.release()
  expect(autosave.sent.at(-1)).toEqual([{ op: 'replace', path: '/settings/gridM', value: 7 }])
})

it('shows what was set aside, and says so when it cannot be put back', async () => {
  autosave.events!.aside([{ id: 'a', label: 'Change', ops: [], why: 'why' }])
  expect(store.aside).toHaveLength(1)
  await store.retryAside('a')
  expect(toasts.at(-1)?.text).toContain('it does not fit')
})

it('leaves a conflict to whoever uses it, now or later, also by keeping both', async () => {
  autosave.events!.conflict([{ path: '/name', mine: 'Mine', theirs: 'Theirs' }])
  expect(store.conflict).toMatchObject([{ theirs: 'Theirs' }])
  store.conflictShown = false
  expect(store.conflict).toBeDefined()
  expect(await store.resolveConflict('copy')).toBe('lv_copy12345')
  expect(copies.at(-1)?.name).toBe('Store, my version')
  expect(autosave.forgotten).toBe(1)
  await store.resolveConflict('mine')
  expect(autosave.resolved).toEqual(['mine'])
})

describe('what is locked', () => {
  const bell = markerSchema.parse({ name: 'Bell', at: [1, 1, 0], locked: true })
  const locked = () => {
    store.perform(addThing, { in: 'markers', id: 'mk_a', thing: bell })
  }

  it('is changed by no edit but the one that unlocks it, and says so by name', () => {
    locked()
    toasts.length = 0
    const set = { name: 'Other' }
    expect(store.perform(changeThings, { in: 'markers', changes: { mk_a: set } })).toBe(false)
    expect(store.doc.markers.mk_a.name).toBe('Bell')
    expect(toasts.at(-1)!.text).toContain('Bell is locked')
    expect(store.perform(changeThings, { in: 'markers', changes: { mk_a: { locked: false } } })).toBe(true)
    expect(store.perform(changeThings, { in: 'markers', changes: { mk_a: set } })).toBe(true)
    expect(store.doc.markers.mk_a.name).toBe('Other')
  })

  it('does not stand in the way of taking earlier steps back', () => {
    locked()
    store.undo()
    expect(store.doc.markers.mk_a).toBeUndefined()
    expect(store.steps.past).toHaveLength(0)
  })
})

describe('a gesture that is broken off', () => {
  const place = (x: number) => markerSchema.parse({ name: 'Bell', at: [x, 1, 0] })
  const move = (x: number) => ({
    in: 'markers' as const,
    changes: { mk_a: { at: [x, 1, 0] as [number, number, number] } },
  })

  it('leaves the level as it was, nothing to undo, nothing sent, and is deaf to what the hand still does', () => {
    store.perform(addThing, { in: 'markers', id: 'mk_a', thing: place(1) })
    const before = store.doc
    const sent = autosave.sent.length
    store.perform(changeThings, move(5), 'drag-1')
    store.perform(changeThings, move(9), 'drag-1')
    expect(store.abandon()).toBe(true)
    expect(store.doc).toEqual(before)
    store.perform(changeThings, move(12), 'drag-1')
    store.release()
    expect(store.doc).toEqual(before)
    expect(store.steps.past).toHaveLength(1)
    expect(autosave.sent).toHaveLength(sent)
    store.perform(changeThings, move(3), 'drag-2')
    expect(store.doc.markers.mk_a.at[0]).toBe(3)
    expect(store.abandon()).toBe(true)
    expect(store.abandon()).toBe(false)
  })
})

describe('the step made last', () => {
  const add = (id: string) =>
    store.perform(addThing, { in: 'markers', id, thing: markerSchema.parse({ name: id, at: [1, 1, 0] }) })

  it('is offered to be undone only as long as it is the last', () => {
    add('mk_a')
    const { valid, run } = store.undoLast()
    expect(valid()).toBe(true)
    add('mk_b')
    expect(valid()).toBe(false)
    store.undo()
    expect(valid()).toBe(true)
    run()
    expect(store.doc.markers).toEqual({})
  })

  it('is taken back as if it had never been, if it is the one that is meant', () => {
    add('mk_a')
    const label = store.steps.past.at(-1)!.label
    expect(store.takeBackIf('Something else')).toBe(false)
    expect(store.takeBackIf(label)).toBe(true)
    expect(store.doc.markers).toEqual({})
    expect([store.steps.past.length, store.steps.future.length]).toEqual([0, 0])
    expect(autosave.sent.at(-1)).toEqual([{ op: 'remove', path: '/markers/mk_a' }])
  })
})
