// @vitest-environment node
import type { Job } from '@tidytrail/contract'
import { blankLevel } from '@tidytrail/core/level'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { reactive } from 'vue'
import { NoConnection } from '../api/client'

const figures = (seed: number, passes = true) => ({
  seed,
  hash: `h${seed}`,
  passes,
  figures: [
    { name: 'stops made', unit: '', value: seed * 10 },
    { name: 'do not follow', unit: '', value: passes ? 0 : 1 },
  ],
  trials: [],
})
const jobOf = (more: Partial<Job>): Job => ({ id: 'jb_1', state: 'running', total: 3, done: 0, results: [], error: null, ...more }) as Job // prettier-ignore

/** What the server does with a job, told by each test. */
const server = {
  start: vi.fn(),
  cancel: vi.fn(() => Promise.resolve()),
  tell: undefined as ((job: Job) => void) | undefined,
  end: undefined as ((job: Job | undefined) => void) | undefined,
  gone: undefined as ((why: Error) => void) | undefined,
  stop: undefined as AbortSignal | undefined,
}
vi.mock('../api/jobs', () => ({
  startJob: (...args: unknown[]) => server.start(...args),
  cancelJob: (...args: []) => server.cancel(...args),
  followJob: (_id: string, tell: (job: Job) => void, stop: AbortSignal) => {
    Object.assign(server, { tell, stop })
    return new Promise((resolve, reject) => Object.assign(server, { end: resolve, gone: reject }))
  },
}))
const levels = reactive({ id: 'lv_1', waiting: 0, level: blankLevel('Many') as unknown })
vi.mock('./level', () => ({ useLevelStore: () => levels }))
const rehearsal = reactive({ begun: true })
vi.mock('./rehearsal', () => ({ useRehearsalStore: () => rehearsal }))
const page = { seeds: vi.fn(), cancel: vi.fn() }
vi.mock('./insight', () => ({ useInsightStore: () => page }))
const notes = new Map<string, string>()
vi.stubGlobal('sessionStorage', {
  getItem: (k: string) => notes.get(k) ?? null,
  setItem: (k: string, v: string) => void notes.set(k, v),
  removeItem: (k: string) => void notes.delete(k),
})
const { useSeedsStore } = await import('./seeds')
let store: ReturnType<typeof useSeedsStore>

const passes = (ms = 0) => vi.advanceTimersByTimeAsync(ms)
beforeEach(() => {
  vi.useFakeTimers()
  vi.clearAllMocks()
  notes.clear()
  Object.assign(server, { tell: undefined, end: undefined, gone: undefined, stop: undefined })
  server.start.mockImplementation(() => Promise.resolve(jobOf({})))
  Object.assign(levels, { id: 'lv_1', waiting: 0, level: blankLevel('Many') })
  rehearsal.begun = true
  setActivePinia(createPinia())
  store = useSeedsStore()
})

it('follows a job of the server to its end, and counts each seed once', async () => {
  void store.start(5, 3)
  await passes()
  expect(server.start).toHaveBeenCalledWith('lv_1', { kind: 'seeds', first: 5, count: 3 })
  server.tell!(jobOf({ results: [figures(5), figures(6, false)] }))
  // After the connection broke some of it is told once more.
  server.tell!(jobOf({ results: [figures(6, false), figures(7)] }))
  expect(store.runs.map((r) => r.seed)).toEqual([5, 6, 7])
  expect([store.state, store.total, notes.get('tidytrail-job-lv_1')]).toEqual(['running', 3, 'jb_1'])
  server.end!(jobOf({ state: 'done' }))
  await passes()
  expect([store.state, store.pass.runs, store.pass.passed, store.worst]).toEqual(['done', 3, 2, 6])
  expect(store.spread[0]).toMatchObject({ name: 'stops made', least: 50, greatest: 70 })
  expect(notes.size).toBe(0)
})

it('waits until what was just changed is kept, as the server rehearses what it has', async () => {
  levels.waiting = 2
  void store.start(1, 2)
  await passes(1000)
  expect(server.start).not.toHaveBeenCalled()
  levels.waiting = 0
  await passes(200)
  expect(server.start).toHaveBeenCalledOnce()
})

it('is done by the page where changes cannot be kept, or the server cannot be reached', async () => {
  page.seeds.mockImplementation((list: number[], tell: (f: unknown) => void) => {
    for (const seed of list) tell(figures(seed))
    return Promise.resolve(true)
  })
  levels.waiting = 1
  void store.start(0x7fffffff, 2)
  await passes(7000)
  expect(server.start).not.toHaveBeenCalled()
  // Seeds have 31 bits: after the last comes the first.
  expect(page.seeds.mock.calls[0][0]).toEqual([0x7fffffff, 0])
  expect([store.where, store.state, store.runs.length]).toEqual(['page', 'done', 2])
  levels.waiting = 0
  server.start.mockRejectedValue(new NoConnection())
  void store.start(4, 1)
  await passes()
  expect([store.where, store.state, store.runs.map((r) => r.seed)]).toEqual(['page', 'done', [4]])
})

it('says what to do where neither can: the page needs a rehearsal to begin from', async () => {
  rehearsal.begun = false
  server.start.mockRejectedValue(new NoConnection())
  void store.start(1, 2)
  await passes()
  expect(store.state).toBe('failed')
  expect(store.why).toContain('Rehearse once')
  expect(page.seeds).not.toHaveBeenCalled()
})

it('tells why the server refused, and does not begin in the page then', async () => {
  server.start.mockRejectedValue(new Error('ten jobs of this level are waiting'))
  void store.start(1, 2)
  await passes()
  expect([store.state, store.why]).toEqual(['failed', 'ten jobs of this level are waiting'])
  expect(page.seeds).not.toHaveBeenCalled()
})

it('is cancelled on the server; what has come stays, and what comes later is not taken', async () => {
  void store.start(1, 3)
  await passes()
  server.tell!(jobOf({ results: [figures(1)] }))
  store.cancel()
  server.tell!(jobOf({ results: [figures(2)] }))
  server.end!(undefined)
  await passes()
  expect(server.cancel).toHaveBeenCalledWith('jb_1')
  expect([store.state, store.runs.length, server.stop!.aborted, notes.size]).toEqual(['cancelled', 1, true, 0])
  // There is nothing to cancel any more.
  store.cancel()
  expect(server.cancel).toHaveBeenCalledOnce()
})

it('is cancelled in the page', async () => {
  let end: (all: boolean) => void = () => {}
  page.seeds.mockImplementation(() => new Promise((resolve) => (end = resolve)))
  server.start.mockRejectedValue(new NoConnection())
  void store.start(1, 3)
  await passes()
  store.cancel()
  end(false)
  await passes()
  expect(page.cancel).toHaveBeenCalledOnce()
  expect(store.state).toBe('cancelled')
})

it('is followed again after the page was loaded anew, and forgotten where it is gone', async () => {
  notes.set('tidytrail-job-lv_1', 'jb_9')
  store.resume()
  server.tell!(jobOf({ id: 'jb_9', total: 40, results: [figures(1)] }))
  expect([store.state, store.total, store.runs.length]).toEqual(['running', 40, 1])
  server.gone!(new Error('there is no such job'))
  await passes()
  expect([store.state, notes.size]).toEqual(['idle', 0])
  store.resume()
  expect(store.state).toBe('idle')
})

it('goes on without the page when it is left, and does not mix with the next', async () => {
  void store.start(1, 3)
  await passes()
  const before = server.tell!
  store.clear()
  before(jobOf({ results: [figures(1)] }))
  expect([store.runs.length, store.state, server.cancel.mock.calls.length]).toEqual([0, 'idle', 0])
})

it('says when the level is another than the one they are of', async () => {
  void store.start(1, 1)
  await passes()
  expect(store.current).toBe(true)
  levels.level = blankLevel('Changed')
  expect(store.current).toBe(false)
})
