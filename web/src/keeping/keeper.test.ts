import { blankLevel, movePlaces, renameLevel, type Level, type PatchOp } from '@tidytrail/core/level'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ApiProblem, NoConnection } from '../api/client'
import type { Batch, Waiting } from './outbox'

/** A server and a browser's store in a few lines: one level, its revisions, and what a tab left behind. */
const server = {
  level: blankLevel('Kept') as Level,
  revisions: [] as { revision: number; editId: string; patch: PatchOp[] }[],
  down: false,
  loseAnswers: 0,
  saves: 0,
}
const outbox = { waiting: undefined as Waiting | undefined, leftovers: [] as Waiting[] }

vi.mock('../api/levels', async () => {
  const { applyPatch } = await import('@tidytrail/core/level')
  const reach = () => {
    if (server.down) throw new NoConnection()
  }
  return {
    fetchLevel: async () => (reach(), { level: server.level, revision: server.revisions.length + 1 }),
    fetchRevisions: async (_id: string, since: number) => (reach(), server.revisions.filter((r) => r.revision > since)),
    saveLevel: async (id: string, revision: number, editId: string, ops: PatchOp[]) => {
      reach()
      server.saves++
      const known = server.revisions.find((r) => r.editId === editId)
      if (known) return { id, revision: known.revision }
      const now = server.revisions.length + 1
      const stale = { type: 'about:blank', title: '', status: 412, detail: 'stale', revision: now }
      if (revision !== now) throw new ApiProblem(stale)
      if (ops.some((o) => o.path === '/forbidden')) throw new ApiProblem({ ...stale, status: 422, detail: 'not valid' })
      server.level = applyPatch(server.level, ops)
      server.revisions.push({ revision: now + 1, editId, patch: JSON.parse(JSON.stringify(ops)) })
      if (server.loseAnswers-- > 0) throw new NoConnection()
      return { id, revision: now + 1 }
    },
  }
})
vi.mock('./outbox', () => ({
  keepWaiting: async (_id: string, waiting: { revision: number; batches: Batch[] }) => {
    outbox.waiting = waiting.batches.length > 0 ? JSON.parse(JSON.stringify(waiting)) : undefined
  },
  adoptLeftovers: async () => outbox.leftovers.splice(0),
}))

const { Keeper } = await import('./keeper')

function watch() {
  const told = {
    states: [] as string[],
    replaced: [] as { level: Level; why: string }[],
    conflicts: [] as Level[],
    refused: [] as string[],
  }
  const keeper = new Keeper('lv_test', {
    state: (state) => told.states.push(state),
    replaced: (level, why) => told.replaced.push({ level, why }),
    conflict: (theirs) => told.conflicts.push(theirs),
    refused: (detail) => told.refused.push(detail),
  })
  return { keeper, told }
}
const rename = (name: string) => renameLevel.apply(blankLevel('x'), { name }).patch
const note = (text: string): PatchOp[] => [{ op: 'replace', path: '/note', value: text }]
/** Somebody else saves. */
const elsewhere = async (ops: PatchOp[]) => {
  const { saveLevel } = await import('../api/levels')
  await saveLevel('lv_test', server.revisions.length + 1, `else-${server.revisions.length}`, ops)
}
const settle = () => vi.advanceTimersByTimeAsync(2_000)

beforeEach(() => {
  vi.useFakeTimers()
  Object.assign(server, { level: blankLevel('Kept'), revisions: [], down: false, loseAnswers: 0, saves: 0 })
  outbox.waiting = undefined
  outbox.leftovers = []
})
afterEach(() => vi.useRealTimers())

describe('the keeper', () => {
  it('gathers edits made in a moment into one save, in order', async () => {
    const { keeper, told } = watch()
    await keeper.open()
    keeper.add(rename('One'))
    keeper.add(note('two'))
    expect(outbox.waiting?.batches[0].ops).toHaveLength(2)
    await settle()
    expect(server.revisions).toHaveLength(1)
    expect(server.level).toMatchObject({ name: 'One', note: 'two' })
    expect(outbox.waiting).toBeUndefined()
    expect(told.states.at(-1)).toBe('kept')
    keeper.close()
  })

  it('holds edits while the server is away, and sends each of them once when it is back', async () => {
    const { keeper, told } = watch()
    await keeper.open()
    server.down = true
    keeper.add(rename('Offline'))
    await settle()
    keeper.add(note('still offline'))
    await settle()
    expect(told.states.at(-1)).toBe('no-connection')
    expect(outbox.waiting?.batches.flatMap((b) => b.ops)).toHaveLength(2)
    server.down = false
    await vi.advanceTimersByTimeAsync(20_000)
    expect(server.level).toMatchObject({ name: 'Offline', note: 'still offline' })
    expect(told.states.at(-1)).toBe('kept')
    keeper.close()
  })

  it('does not save twice when only the answer was lost', async () => {
    const { keeper } = watch()
    await keeper.open()
    server.loseAnswers = 1
    keeper.add(rename('Once'))
    await vi.advanceTimersByTimeAsync(5_000)
    expect(server.saves).toBe(2)
    expect(server.revisions).toHaveLength(1)
    keeper.close()
  })

  it('takes in what others changed when it is something else', async () => {
    const { keeper, told } = watch()
    await keeper.open()
    await elsewhere(note('theirs'))
    keeper.add(rename('Mine'))
    await settle()
    expect(server.level).toMatchObject({ name: 'Mine', note: 'theirs' })
    expect(told.replaced.at(-1)).toMatchObject({
      why: 'Changes made elsewhere were taken in.',
      level: { name: 'Mine', note: 'theirs' },
    })
    expect(told.conflicts).toEqual([])
    keeper.close()
  })

  it('asks when both changed the same, overwrites nothing, and does as it is told', async () => {
    for (const [how, name] of [
      ['mine', 'Mine'],
      ['theirs', 'Theirs'],
    ] as const) {
      Object.assign(server, { level: blankLevel('Kept'), revisions: [] })
      const { keeper, told } = watch()
      await keeper.open()
      await elsewhere(rename('Theirs'))
      keeper.add(rename('Mine'))
      await settle()
      expect(told.conflicts).toMatchObject([{ name: 'Theirs' }])
      expect(server.level.name).toBe('Theirs')
      // Edits made while the question stands wait as well.
      keeper.add(note('meanwhile'))
      await settle()
      expect(server.level.note).toBe('')
      await keeper.resolve(how)
      await settle()
      expect(server.level).toMatchObject({ name, note: how === 'mine' ? 'meanwhile' : '' })
      expect(told.states.at(-1)).toBe('kept')
      keeper.close()
    }
  })

  it('says so when the server refuses, and keeps what was refused', async () => {
    const { keeper, told } = watch()
    await keeper.open()
    keeper.add([{ op: 'add', path: '/forbidden', value: 1 }])
    await settle()
    expect(told.refused[0]).toContain('not valid')
    expect(told.states.at(-1)).toBe('refused')
    expect(outbox.waiting?.batches).toHaveLength(1)
    keeper.close()
  })

  it('puts what an earlier tab left on top when it opens, but not what had arrived', async () => {
    await elsewhere(note('arrived'))
    server.revisions[0].editId = 'batch-arrived'
    outbox.leftovers = [
      {
        revision: 1,
        batches: [
          { id: 'batch-arrived', ops: note('arrived') },
          { id: 'batch-left', ops: rename('Left behind') },
        ],
      },
    ]
    const { keeper, told } = watch()
    const level = await keeper.open()
    expect(level).toMatchObject({ name: 'Left behind', note: 'arrived' })
    expect(told.replaced[0].why).toContain('are back')
    await settle()
    expect(server.revisions).toHaveLength(2)
    keeper.close()
  })

  it('sets leftovers aside that no longer fit, and opens the level all the same', async () => {
    const gone = movePlaces.apply(
      { ...blankLevel('x'), waypoints: { wp_a: { name: '', at: [0, 0, 0], liftM: 0, markerId: null, tags: [] } } },
      { places: { wp_a: [1, 1, 1] } },
    ).patch
    outbox.leftovers = [{ revision: 1, batches: [{ id: 'batch-misfit', ops: gone }] }]
    const { keeper, told } = watch()
    expect((await keeper.open()).name).toBe('Kept')
    expect(told.refused[0]).toContain('set aside')
    keeper.close()
  })
})
