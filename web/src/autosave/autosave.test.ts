import {
  applyPatch,
  blankLevel,
  levelSchema,
  movePlaces,
  type Clash,
  type Level,
  type PatchOp,
} from '@tidytrail/core/level'
import fc from 'fast-check'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Aside, Batch } from './outbox'
import { batch, elsewhere, note, rename, copyOf, outbox, reach, save, server } from './test-server'

vi.mock('../api/levels', () => ({
  fetchLevel: async () => (reach(), { level: copyOf(server.level), revision: server.revisions.length + 1 }),
  fetchRevisions: async (_id: string, since: number) => {
    reach()
    return { revisions: copyOf(server.revisions.filter((r) => r.revision > since)), more: false }
  },
  saveLevel: async (_id: string, revision: number, editId: string, ops: PatchOp[]) => save(revision, editId, ops),
}))
vi.mock('./outbox', () => ({
  keepBatches: async (_id: string, batches: Batch[]) => {
    for (const b of batches) outbox.batches.set(b.id, copyOf(b))
  },
  dropBatches: async (_id: string, batches: Batch[]) => {
    for (const b of batches) outbox.batches.delete(b.id)
  },
  adoptLeftovers: async () => outbox.leftovers.splice(0),
  putAside: async (_id: string, aside: Aside) => void outbox.aside.set(aside.id, copyOf(aside)),
  dropAside: async (_id: string, id: string) => void outbox.aside.delete(id),
  listAside: async () => [...outbox.aside.values()],
}))

const { Autosave } = await import('./autosave')

/** A tab: an autosave, and the level as the tab shows it. */
async function tab() {
  const told = {
    level: undefined as unknown as Level,
    states: [] as string[],
    said: [] as string[],
    conflict: undefined as readonly Clash[] | undefined,
    aside: [] as readonly Aside[],
    overtaken: [] as PatchOp[],
    busy: false,
  }
  const autosave = new Autosave('lv_test', {
    state: (state) => told.states.push(state),
    others: (ops, why) => {
      told.level = applyPatch(told.level, ops)
      told.said.push(why)
    },
    replaced: (level, why) => {
      told.level = level
      told.said.push(why)
    },
    overtaken: (ops) => told.overtaken.push(...ops),
    conflict: (clashes) => (told.conflict = clashes),
    aside: (all) => (told.aside = all),
    said: (text) => told.said.push(text),
    busy: () => told.busy,
  })
  told.level = await autosave.open()
  const edit = (ops: PatchOp[], label = 'Edit') => {
    told.level = applyPatch(told.level, ops)
    autosave.add(copyOf(ops), label)
  }
  return { autosave, told, edit }
}
const settle = (ms = 2_000) => vi.advanceTimersByTimeAsync(ms)

beforeEach(() => {
  vi.useFakeTimers()
  Object.assign(server, {
    level: blankLevel('Kept'),
    revisions: [],
    down: false,
    full: false,
    gone: false,
    loseAnswers: 0,
    saves: 0,
  })
  outbox.batches.clear()
  outbox.aside.clear()
  outbox.leftovers = []
})
afterEach(() => vi.useRealTimers())

describe('the autosave', () => {
  it('gathers edits made in a moment into one save, in order', async () => {
    const { autosave, told, edit } = await tab()
    edit(rename('One'))
    edit(note('two'))
    expect([...outbox.batches.values()].flatMap((b) => b.ops)).toHaveLength(2)
    await settle()
    expect(server.revisions).toHaveLength(1)
    expect(server.level).toMatchObject({ name: 'One', note: 'two' })
    expect(outbox.batches.size).toBe(0)
    expect(told.states.at(-1)).toBe('kept')
    autosave.close()
  })

  it('holds edits while the server is away, and sends each of them once when it is back', async () => {
    const { autosave, told, edit } = await tab()
    server.down = true
    edit(rename('Offline'))
    await settle()
    edit(note('still offline'))
    await settle()
    expect(told.states.at(-1)).toBe('no-connection')
    expect([...outbox.batches.values()].flatMap((b) => b.ops)).toHaveLength(2)
    server.down = false
    await settle(20_000)
    expect(server.level).toMatchObject({ name: 'Offline', note: 'still offline' })
    expect(told.states.at(-1)).toBe('kept')
    autosave.close()
  })

  it('says when the server has no room, and goes on by itself once it has', async () => {
    const { autosave, told, edit } = await tab()
    server.full = true
    edit(rename('Full'))
    await settle()
    expect(told.states.at(-1)).toBe('no-room')
    server.full = false
    await settle(20_000)
    expect(server.level.name).toBe('Full')
    autosave.close()
  })

  it('waits when the level was deleted elsewhere, and goes on when it is back', async () => {
    const { autosave, told, edit } = await tab()
    server.gone = true
    edit(rename('Back'))
    await settle()
    expect(told.states.at(-1)).toBe('gone')
    server.gone = false
    await settle(20_000)
    expect(server.level.name).toBe('Back')
    autosave.close()
  })

  it('does not save twice when only the answer was lost', async () => {
    const { autosave, edit } = await tab()
    server.loseAnswers = 1
    edit(rename('Once'))
    await settle(5_000)
    expect(server.saves).toBe(2)
    expect(server.revisions).toHaveLength(1)
    autosave.close()
  })

  it('never adds to a batch that was sent, though its answer was lost', async () => {
    const { autosave, told, edit } = await tab()
    server.loseAnswers = 1
    edit(rename('First'))
    await settle(300)
    expect(told.states.at(-1)).toBe('no-connection')
    edit(note('second'))
    await settle(10_000)
    expect(told.states.at(-1)).toBe('kept')
    // "Kept" means that it is there.
    expect(server.level).toMatchObject({ name: 'First', note: 'second' })
    expect(told.level).toEqual(server.level)
    autosave.close()
  })

  it('takes in what others had changed before a save whose answer was lost', async () => {
    const { autosave, told, edit } = await tab()
    elsewhere(note('theirs'))
    server.loseAnswers = 1
    edit(rename('Mine'))
    await settle(10_000)
    expect(server.level).toMatchObject({ name: 'Mine', note: 'theirs' })
    expect(told.level).toEqual(server.level)
    // And what it saves next is made on all of that: it overwrites nothing unseen.
    elsewhere(note('theirs again'))
    edit(note('mine'))
    await settle()
    expect(told.conflict).toEqual([{ path: '/note', mine: 'mine', theirs: 'theirs again' }])
    autosave.close()
  })

  it('knows its own changes again when it only hears of them later', async () => {
    const { autosave, told, edit } = await tab()
    elsewhere(note('theirs'))
    server.loseAnswers = 1
    edit(rename('Mine'))
    await settle(300)
    edit(rename('Mine too'))
    await settle(20_000)
    expect(told.conflict).toBeUndefined()
    expect(server.level).toMatchObject({ name: 'Mine too', note: 'theirs' })
    expect(told.level).toEqual(server.level)
    autosave.close()
  })

  it('looks once more when others change the same again while somebody decides', async () => {
    const { autosave, told, edit } = await tab()
    elsewhere(rename('Theirs'))
    edit(rename('Mine'))
    await settle()
    elsewhere(rename('Theirs again'))
    await autosave.resolve('mine')
    await settle()
    expect(server.level.name).toBe('Theirs again')
    expect(told.conflict?.at(-1)).toMatchObject({ theirs: 'Theirs again' })
    await autosave.resolve('mine')
    await settle()
    expect(server.level.name).toBe('Mine')
    autosave.close()
  })

  it('takes in what others changed when it is something else, with its own save', async () => {
    const { autosave, told, edit } = await tab()
    elsewhere(note('theirs'))
    edit(rename('Mine'))
    await settle()
    expect(server.level).toMatchObject({ name: 'Mine', note: 'theirs' })
    expect(told.level).toEqual(server.level)
    expect(server.saves).toBe(2)
    expect(told.said.at(-1)).toBe('Changes made elsewhere were taken in.')
    expect(told.overtaken.map((o) => o.path)).toEqual(['/note'])
    expect(told.conflict).toBeUndefined()
    autosave.close()
  })

  it('asks when both changed the same, with both values, overwrites nothing, and does as it is told', async () => {
    for (const [how, name] of [
      ['mine', 'Mine'],
      ['theirs', 'Theirs'],
    ] as const) {
      Object.assign(server, { level: blankLevel('Kept'), revisions: [] })
      const { autosave, told, edit } = await tab()
      elsewhere(rename('Theirs'))
      edit(rename('Mine'))
      await settle()
      expect(told.conflict).toEqual([{ path: '/name', mine: 'Mine', theirs: 'Theirs' }])
      expect(server.level.name).toBe('Theirs')
      // Edits made while the question stands wait as well, and about other things are kept whatever is chosen.
      edit(note('meanwhile'))
      await settle()
      expect(server.level.note).toBe('')
      await autosave.resolve(how)
      await settle()
      expect(told.conflict).toBeUndefined()
      expect(server.level).toMatchObject({ name, note: 'meanwhile' })
      expect(told.level).toEqual(server.level)
      expect(told.states.at(-1)).toBe('kept')
      autosave.close()
    }
  })

  it('asks too when what it refers to was taken out, instead of showing a level that hangs together no more', async () => {
    const point = { name: '', at: [0, 0, 0] as [number, number, number], liftM: 0, markerId: null, tags: [] }
    server.level = { ...blankLevel('Kept'), waypoints: { wp_a: point, wp_b: point } }
    const { autosave, told, edit } = await tab()
    elsewhere([{ op: 'remove', path: '/waypoints/wp_b' }])
    edit([
      {
        op: 'add',
        path: '/links/ln_a',
        value: { fromId: 'wp_a', toId: 'wp_b', twoWay: true, costFactor: 1, share: 1, tags: [] },
      },
    ])
    await settle()
    expect(told.conflict).toEqual([{ path: '/links/ln_a/toId', mine: 'wp_b', theirs: undefined }])
    await autosave.resolve('theirs')
    expect(told.level.links).toEqual({})
    autosave.close()
  })

  it('leaves the level alone under the hand, and takes in what came when the hand is free', async () => {
    const { autosave, told, edit } = await tab()
    edit(rename('Mine'))
    told.busy = true
    elsewhere(note('theirs'))
    await settle()
    expect(told.level.note).toBe('')
    told.busy = false
    autosave.free()
    await settle()
    expect(told.level).toEqual(server.level)
    expect(server.level).toMatchObject({ name: 'Mine', note: 'theirs' })
    autosave.close()
  })

  it('sets aside what the server does not take, takes it out of the level, and keeps what came after', async () => {
    const { autosave, told, edit } = await tab()
    edit(note('forbidden'), 'Change the note')
    await settle()
    edit(rename('Later'))
    await settle()
    expect(told.aside).toMatchObject([{ label: 'Change the note', why: 'note: is not allowed' }])
    expect(outbox.aside.size).toBe(1)
    expect(server.level).toMatchObject({ name: 'Later', note: '' })
    expect(told.level).toEqual(server.level)
    expect(told.states.at(-1)).toBe('kept')
    // It is still there after a reload, and is gone when it is let go.
    autosave.close()
    const again = await tab()
    expect(again.told.aside).toHaveLength(1)
    await again.autosave.letGo(again.told.aside[0].id)
    expect(outbox.aside.size).toBe(0)
    again.autosave.close()
  })

  it('sends what was set aside once more when asked to, and forgets it when it was done otherwise', async () => {
    const { autosave, told, edit } = await tab()
    edit(note('forbidden'))
    await settle()
    await autosave.retry(told.aside[0].id, told.level)
    expect(told.level.note).toBe('forbidden')
    await settle()
    expect(told.aside).toHaveLength(1)
    expect(told.level.note).toBe('')
    edit(note('allowed'))
    await settle()
    expect(told.aside).toEqual([])
    expect(server.level.note).toBe('allowed')
    autosave.close()
  })

  it('sets aside what builds on a refused change as well', async () => {
    const { autosave, told, edit } = await tab()
    server.down = true
    edit([
      { op: 'add', path: '/markers/mk_a', value: { name: 'forbidden' } },
      { op: 'add', path: '/forbidden', value: 1 },
    ] as PatchOp[])
    await settle()
    edit([{ op: 'replace', path: '/markers/mk_a/name', value: 'Bell' }])
    await settle()
    edit(rename('Later'))
    server.down = false
    await settle(30_000)
    expect(told.aside.length).toBeGreaterThanOrEqual(2)
    expect(server.level.markers).toEqual({})
    expect(told.level).toEqual(server.level)
    autosave.close()
  })

  it('puts what an earlier tab left on top when it opens, but not what had arrived', async () => {
    elsewhere(note('arrived'), 'batch-arrived')
    outbox.leftovers = [batch('batch-arrived', note('arrived')), batch('batch-left', rename('Left behind'))]
    const { autosave, told } = await tab()
    expect(told.level).toMatchObject({ name: 'Left behind', note: 'arrived' })
    expect(told.said[0]).toContain('are back')
    await settle()
    expect(server.revisions).toHaveLength(2)
    autosave.close()
  })

  it('does not take what an earlier tab left for a quarrel with what had arrived of it', async () => {
    elsewhere(rename('First'), 'batch-arrived')
    outbox.leftovers = [batch('batch-arrived', rename('First')), batch('batch-left', rename('Second'))]
    const { autosave, told } = await tab()
    expect(told.conflict).toBeUndefined()
    await settle()
    expect(server.level.name).toBe('Second')
    autosave.close()
  })

  it('asks about what an earlier tab left when others have changed the same since', async () => {
    elsewhere(rename('Theirs'))
    outbox.leftovers = [batch('batch-left', rename('Left behind'))]
    const { autosave, told } = await tab()
    expect(told.conflict).toEqual([{ path: '/name', mine: 'Left behind', theirs: 'Theirs' }])
    await settle()
    expect(server.level.name).toBe('Theirs')
    await autosave.resolve('mine')
    await settle()
    expect(server.level.name).toBe('Left behind')
    autosave.close()
  })

  it('sets leftovers aside that no longer fit, and opens the level all the same', async () => {
    const gone = movePlaces.apply(
      { ...blankLevel('x'), waypoints: { wp_a: { name: '', at: [0, 0, 0], liftM: 0, markerId: null, tags: [] } } },
      { places: { wp_a: [1, 1, 1] } },
    ).patch
    outbox.leftovers = [batch('batch-misfit', gone)]
    const { autosave, told } = await tab()
    expect(told.level.name).toBe('Kept')
    expect(told.aside).toMatchObject([{ why: expect.stringContaining('no longer fits') }])
    autosave.close()
  })

  it('whatever fails and whoever writes, in the end shows what the server has, with every edit that was kept in it once', async () => {
    vi.useRealTimers()
    const start = levelSchema.parse({
      ...blankLevel('Kept'),
      markers: Object.fromEntries(Array.from({ length: 6 }, (_, k) => [`mk_${k}`, { name: '', at: [k, 0, 0] }])),
    })
    const step = fc.record({ who: fc.nat(2), what: fc.nat(5), trouble: fc.nat(9), ms: fc.nat(700) })
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 25 }), async (steps) => {
        vi.useFakeTimers()
        Object.assign(server, { level: start, revisions: [], down: false, full: false, loseAnswers: 0 })
        outbox.batches.clear()
        outbox.aside.clear()
        const tabs = [await tab(), await tab(), await tab()]
        const made = new Set<string>()
        for (const [k, { who, what, trouble, ms }] of steps.entries()) {
          server.down = trouble === 0
          server.full = trouble === 1
          if (trouble === 2) server.loseAnswers = 1
          const value = `${who}.${k}`
          made.add(value)
          tabs[who].edit([{ op: 'replace', path: `/markers/mk_${what}/name`, value }])
          await settle(ms)
          for (const t of tabs) if (t.told.conflict) await t.autosave.resolve(k % 2 ? 'mine' : 'theirs').catch(() => {})
        }
        Object.assign(server, { down: false, full: false, loseAnswers: 0 })
        for (let round = 0; round < 8; round++) {
          await settle(20_000)
          for (const t of tabs) if (t.told.conflict) await t.autosave.resolve('mine')
        }
        // A last edit of each brings it up to date with the others.
        for (const [k, t] of tabs.entries()) {
          t.edit([{ op: 'replace', path: `/markers/mk_${k}/kind`, value: `end ${k}` }])
          await settle(5_000)
        }
        for (const [k, t] of tabs.entries()) {
          t.edit([{ op: 'replace', path: `/markers/mk_${k}/note`, value: 'end' }])
          await settle(5_000)
        }
        for (const t of tabs) expect(t.told.states.at(-1)).toBe('kept')
        expect(tabs[2].told.level).toEqual(server.level)
        for (const t of tabs.slice(0, 2)) {
          t.edit(note(`${Math.random()}`))
          await settle(5_000)
          if (t.told.conflict) await t.autosave.resolve('mine')
          await settle(5_000)
          expect(t.told.level).toEqual(server.level)
        }
        expect(outbox.batches.size).toBe(0)
        expect(new Set(server.revisions.map((r) => r.editId)).size).toBe(server.revisions.length)
        for (const m of Object.values(server.level.markers)) if (m.name !== '') expect(made).toContain(m.name)
        for (const t of tabs) t.autosave.close()
        vi.useRealTimers()
      }),
      { numRuns: 60 },
    )
  })
})
