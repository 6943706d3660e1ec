// @vitest-environment node
import { blankLevel } from '@tidytrail/core/level'
import {
  FRAME_FIELDS,
  packFrames,
  readRunFile,
  writeRunFile,
  type RunFile,
  type Verdict,
} from '@tidytrail/core/rehearsal'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { toasts } from '../ui/toasts'

const api = { list: vi.fn(), keep: vi.fn(), fetch: vi.fn(), remove: vi.fn() }
vi.mock('../api/rehearsals', () => ({
  listRehearsals: (...args: unknown[]) => api.list(...args),
  keepRehearsal: (...args: unknown[]) => api.keep(...args),
  fetchRehearsal: (...args: unknown[]) => api.fetch(...args),
  removeRehearsal: (...args: unknown[]) => api.remove(...args),
}))
const levels = { id: 'lv_1', revision: 12 }
vi.mock('./level', () => ({ useLevelStore: () => levels }))
const results = new Map<string, unknown>()
vi.mock('./insight', () => ({ useInsightStore: () => ({ results }) }))

const verdict = (key: number, word: Verdict['verdict']): Verdict => ({
  key,
  agent: `sp_a#${key}`,
  name: `Warden ${key}`,
  spawnerId: 'sp_a',
  route: null,
  routeName: null,
  verdict: word,
  crossTrack: { rms: 0, p95: 0, max: 0 },
  stops: { made: 3, missed: 0, due: 3 },
  legs: { tookS: 1, expectedS: 1 },
  longestStuckS: 0,
  overlapS: 0,
  reasons: [],
})
const agent = (key: number) => ({ key, id: `sp_a#${key}`, name: `Warden ${key}`, spawnerId: 'sp_a', profileId: 'pf_a', factionId: null, briefId: null, standIn: false, appearedS: 0, leftS: undefined }) // prettier-ignore
const copy = {
  level: blankLevel('Kept'),
  seed: 4,
  stepS: 1 / 30,
  agents: [agent(1), agent(2)],
  events: [],
  routes: [],
  posts: [],
  profiles: [],
  verdicts: [verdict(1, 'follows'), verdict(2, 'does-not-follow')],
  chunks: [{ first: 0, count: 1, bytes: packFrames([new Int32Array(FRAME_FIELDS * 2)], FRAME_FIELDS) }],
}
const rehearsal = {
  seconds: 60,
  hash: 'abcd',
  there: true,
  copyNow: () => (rehearsal.there ? copy : undefined),
  openKept: vi.fn(),
}
vi.mock('./rehearsal', () => ({ useRehearsalStore: () => rehearsal }))
const { useKeptStore } = await import('./kept')
let store: ReturnType<typeof useKeptStore>

beforeEach(() => {
  vi.clearAllMocks()
  results.clear()
  toasts.length = 0
  Object.assign(rehearsal, { hash: 'abcd', there: true })
  setActivePinia(createPinia())
  store = useKeptStore()
})
const said = () => toasts.map((t) => t.text)

it('keeps what is on the sheet, with what came out of it', async () => {
  results.set('tl_a', { holds: true }).set('tl_b', { holds: false }).set('tl_c', { holds: undefined })
  api.keep.mockImplementation((_id, about: object, _bytes, sent: (share: number) => void) => {
    sent(0.5)
    expect(store.sent).toBe(0.5)
    return Promise.resolve({ ...about, id: 'rr_1' })
  })
  await store.keep('Before the pause')
  const [id, about, bytes] = api.keep.mock.calls[0]
  expect(id).toBe('lv_1')
  expect(about).toMatchObject({
    name: 'Before the pause',
    revision: 12,
    seed: 4,
    seconds: 60,
    hash: 'abcd',
    agents: 2,
    verdicts: { follows: 1, remarks: 0, fails: 1, untried: 0 },
    trials: { holds: 1, fails: 1 },
    bytes: (bytes as Uint8Array).length,
  })
  expect(readRunFile(bytes as Uint8Array)).toMatchObject({
    name: 'Before the pause',
    seed: 4,
    agents: [{ name: 'Warden 1' }, { name: 'Warden 2' }],
  })
  expect(store.list!.map((r) => r.id)).toEqual(['rr_1'])
  expect([store.sent, ...said()]).toEqual([-1, '“Before the pause” is kept.'])
})

it('keeps nothing that is not all there, and one at a time', async () => {
  rehearsal.hash = ''
  await store.keep('Half')
  rehearsal.hash = 'abcd'
  rehearsal.there = false
  await store.keep('None')
  expect(api.keep).not.toHaveBeenCalled()
  rehearsal.there = true
  let end: (made: unknown) => void = () => {}
  api.keep.mockImplementation(() => new Promise((resolve) => (end = resolve)))
  const first = store.keep('One')
  await store.keep('Two')
  end({ id: 'rr_1' })
  await first
  expect(api.keep).toHaveBeenCalledOnce()
})

it('says why it could not be kept, and can be asked again', async () => {
  api.keep.mockRejectedValue(new Error('the disk is full'))
  await store.keep('Lost')
  expect(said()[0]).toContain('could not be kept: the disk is full')
  expect([store.list, store.sent]).toEqual([undefined, -1])
  api.keep.mockResolvedValue({ id: 'rr_2' })
  await store.keep('Lost')
  expect(store.list!.map((r) => r.id)).toEqual(['rr_2'])
})

it('opens one as it was, and nothing where it is damaged or gone', async () => {
  const file: RunFile = { ...copy, name: 'Old', revision: 3, seconds: 60, hash: 'ff' }
  const bytes = writeRunFile(file)
  api.fetch.mockResolvedValue(bytes)
  await store.open('rr_1')
  expect(rehearsal.openKept.mock.calls[0]).toMatchObject(['rr_1', { name: 'Old', revision: 3, hash: 'ff' }])
  api.fetch.mockResolvedValue(bytes.slice(0, bytes.length - 30))
  await store.open('rr_1')
  api.fetch.mockRejectedValue(new Error('there is no such rehearsal'))
  await store.open('rr_1')
  expect(rehearsal.openKept).toHaveBeenCalledOnce()
  expect(said()).toHaveLength(2)
  expect(said()[1]).toBe('It could not be opened: there is no such rehearsal')
  expect(store.opening).toBe('')
})

it('lists what is kept, says why where it cannot, and keeps in the list what could not be thrown away', async () => {
  api.list.mockRejectedValue(new Error('the server cannot be reached'))
  await store.refresh()
  expect([store.list, store.fault]).toEqual([undefined, 'the server cannot be reached'])
  api.list.mockResolvedValue([{ id: 'rr_1' }, { id: 'rr_2' }])
  await store.refresh()
  expect([store.list!.length, store.fault]).toEqual([2, ''])
  api.remove.mockRejectedValueOnce(new Error('the server cannot be reached'))
  await store.remove('rr_1')
  expect(store.list).toHaveLength(2)
  expect(said()[0]).toContain('could not be thrown away')
  api.remove.mockResolvedValue(undefined)
  await store.remove('rr_1')
  expect(store.list!.map((r) => r.id)).toEqual(['rr_2'])
})
