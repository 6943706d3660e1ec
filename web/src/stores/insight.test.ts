// @vitest-environment node
import { crossroads } from '@tidytrail/core/testing'
import { blankLevel, trialSchema, type Level } from '@tidytrail/core/level'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { nextTick, reactive, shallowRef } from 'vue'

/** What was asked of the worker, in order; its answers are what each test says. */
const worker = {
  asked: [] as [string, ...unknown[]][],
  answers: {} as Record<string, (...args: never[]) => unknown>,
  breakDown: (_why: string) => {},
  ended: 0,
}
const remote = new Proxy(
  {},
  {
    get:
      (_, name: string) =>
      (...args: unknown[]) => {
        worker.asked.push([name, ...args])
        return Promise.resolve((worker.answers[name] as (...a: unknown[]) => unknown)?.(...args))
      },
  },
)
vi.mock('../workers/hired', () => ({
  hire: (_: unknown, failed: (why: string) => void) => {
    worker.breakDown = failed
    return { remote, ask: (answer: Promise<unknown>) => answer, end: () => worker.ended++ }
  },
}))
vi.mock('comlink', async (real) => ({ ...(await real<object>()), proxy: (x: unknown) => x }))
vi.stubGlobal('Worker', class {})
const assets = { bytes: new Map<string, Uint8Array>() }
vi.mock('./assets', () => ({ useAssetStore: () => assets }))
vi.mock('./survey', () => ({
  useSurveyStore: () => ({
    paths: new Map([['rt_a', { paths: [{ found: true, line: [[0, 0, 0], [9, 0, 0]] }, { found: false }] }]]), // prettier-ignore
  }),
}))
const level = shallowRef<Level>()
const levels = reactive({ level })
vi.mock('./level', () => ({ useLevelStore: () => levels }))
const recorded = shallowRef<unknown>()
const rehearsal = reactive({
  begun: false,
  running: false,
  frameCount: 0,
  recordedS: 0,
  seconds: 60,
  hash: '',
  findings: [] as unknown[],
  recorded,
  recording: { packed: [] as unknown[] },
  lastVerdicts: () => [],
  stale: false,
})
vi.mock('./rehearsal', () => ({ useRehearsalStore: () => rehearsal }))
const { useInsightStore } = await import('./insight')
let store: ReturnType<typeof useInsightStore>

function levelWith(more: Partial<Level>): Level {
  return { ...blankLevel('Looked at'), ...more }
}
const spot = { id: 'ws_a', name: 'By the gate', x: 3, y: 4, heightM: 1, radiusM: 0, factionIds: [], wantedS: 4 }
const withSpot = () => levelWith({ watchSpots: { ws_a: spot } as unknown as Level['watchSpots'] })
/** A rehearsal that is all there. */
function rehearsed(of: Level): void {
  level.value = of
  recorded.value = { level: of, agents: [], events: [], frame: () => {}, frameCount: 600 }
  Object.assign(rehearsal, { begun: true, running: false, frameCount: 600, recordedS: 60, hash: 'h1' })
}
const names = () => worker.asked.map(([name]) => name)
const passes = async (ms = 200) => {
  await nextTick()
  await vi.advanceTimersByTimeAsync(ms)
}

beforeEach(() => {
  vi.useFakeTimers({ now: 100_000 })
  worker.asked = []
  worker.answers = { find: () => ({ spots: {}, lines: {}, trials: [] }) }
  worker.ended = 0
  level.value = undefined
  recorded.value = undefined
  Object.assign(rehearsal, { begun: false, running: false, frameCount: 0, recordedS: 0, hash: '', findings: [] })
  assets.bytes.clear()
  setActivePinia(createPinia())
  store = useInsightStore()
})
afterEach(() => {
  store.stop()
  store.$dispose()
})

it('hires nobody while nothing is asked about', async () => {
  rehearsed(blankLevel('Nothing asked'))
  await passes(5000)
  expect(worker.asked).toEqual([])
  expect(store.foundS).toBe(-1)
})

it('looks once the rehearsal is there, hands it over once, and looks again when the level is edited', async () => {
  worker.answers.find = () => ({ spots: { ws_a: { shareS: 1 } }, lines: {}, trials: [] })
  rehearsed(withSpot())
  await passes()
  expect(names()).toEqual(['load', 'find'])
  expect(worker.asked[1][1]).toEqual({ spots: ['ws_a'], lines: [], trials: false, traffic: false })
  expect(store.spotOf('ws_a')).toEqual({ shareS: 1 })
  expect(store.foundS).toBe(60)
  // Another window wanted: what was recorded is the same.
  level.value = withSpot()
  await passes()
  expect(names()).toEqual(['load', 'find', 'find'])
  recorded.value = { ...(recorded.value as object), agents: [{ key: 1 }] }
  rehearsal.frameCount = 601
  await passes()
  expect(names().slice(3)).toEqual(['load', 'find'])
})

it('asks about traffic where there are lanes, and lets it go with the rehearsal', async () => {
  const figures = { counters: {}, approaches: [], slowest: [], gridlocks: [] }
  worker.answers.find = () => ({ spots: {}, lines: {}, trials: [], traffic: figures })
  rehearsed(crossroads())
  await passes()
  expect(worker.asked[1][1]).toEqual({ spots: [], lines: [], trials: false, traffic: true })
  expect(store.traffic).toEqual(figures)
  rehearsal.begun = false
  await passes()
  expect(store.traffic).toBeUndefined()
})

it('looks seldom while a rehearsal is being worked out, and at the end once more', async () => {
  rehearsed(withSpot())
  rehearsal.running = true
  await passes()
  expect(names().filter((n) => n === 'find')).toHaveLength(1)
  for (let k = 0; k < 20; k++) {
    rehearsal.frameCount += 10
    await passes(100)
  }
  expect(names().filter((n) => n === 'find')).toHaveLength(1)
  await passes(1000)
  expect(names().filter((n) => n === 'find')).toHaveLength(2)
  rehearsal.running = false
  await passes()
  expect(names().filter((n) => n === 'find')).toHaveLength(3)
})

it('takes no more than a part of the time while a rehearsal is being worked out, where looking takes long', async () => {
  let found: (of: unknown) => void = () => {}
  worker.answers.find = () => new Promise((resolve) => (found = resolve))
  rehearsed(withSpot())
  rehearsal.running = true
  await passes(3150)
  found({ spots: {}, lines: {}, trials: [] })
  await passes(0)
  rehearsal.frameCount++
  await passes(8500)
  expect(names().filter((n) => n === 'find')).toHaveLength(1)
  await passes(1000)
  expect(names().filter((n) => n === 'find')).toHaveLength(2)
})

it('draws string-lines before it looks for what takes long, along the ways the survey knows', async () => {
  worker.answers.stringLine = (id: string) => (id === 'rt_a' ? { lengthM: 30 } : undefined)
  rehearsed(withSpot())
  store.routeIds = ['rt_a', 'rt_gone']
  await passes()
  expect(names()).toEqual(['load', 'stringLine', 'stringLine', 'find'])
  expect(worker.asked[1].slice(1)).toEqual(['rt_a', [[[0, 0, 0], [9, 0, 0]], []]]) // prettier-ignore
  expect(store.strings).toEqual([{ lengthM: 30 }])
  // A kept rehearsal of another level went other ways than those.
  rehearsal.stale = true
  store.routeIds = ['rt_a']
  await passes()
  rehearsal.stale = false
  expect(worker.asked.findLast(([name]) => name === 'stringLine')).toEqual(['stringLine', 'rt_a', undefined])
})

it('forgets all of it when the rehearsal is cleared', async () => {
  worker.answers.find = () => ({ spots: { ws_a: {} }, lines: { sl_a: {} }, trials: [{ trialId: 'tl_a' }] })
  rehearsed(withSpot())
  await passes()
  expect(store.results.size).toBe(1)
  rehearsal.begun = false
  await passes()
  expect([store.spots, store.lines, store.results.size, store.foundS]).toEqual([{}, {}, 0, -1])
})

it('says why it can find nothing out any more, asks nobody until it is begun again, and then starts from the recording', async () => {
  rehearsed(withSpot())
  await passes()
  worker.breakDown('out of memory')
  level.value = withSpot()
  await passes(5000)
  expect(store.failed).toBe('out of memory')
  expect(names()).toEqual(['load', 'find'])
  store.restart()
  await passes()
  expect(store.failed).toBe('')
  expect(names()).toEqual(['load', 'find', 'load', 'find'])
})

it('looks for coverage only when it is shown, and again only when somebody’s eyes meet something else', async () => {
  const seen = { seconds: new Float32Array(1) }
  worker.answers.coverage = () => seen
  const first = withSpot()
  rehearsed(first)
  await passes()
  store.shown.coverage = true
  await passes()
  expect(store.coverage).toStrictEqual(seen)
  level.value = withSpot()
  await passes()
  expect(names().filter((n) => n === 'coverage')).toHaveLength(1)
  recorded.value = { ...(recorded.value as object), level: { ...first, solids: { so_a: {} } } }
  level.value = withSpot()
  await passes()
  expect(names().filter((n) => n === 'coverage')).toHaveLength(2)
  store.shown.coverage = false
  await passes()
  expect(store.coverage).toBeUndefined()
})

it('shows what would widen a window as it is found; what was found stays when looking is ended', async () => {
  rehearsed(withSpot())
  await passes()
  const wish = { in: 'watchSpots' as const, id: 'ws_a', wantedS: 6 }
  let tell: (p: unknown) => void = () => {}
  let end: (p: unknown) => void = () => {}
  worker.answers.widen = (_: unknown, told: (p: unknown) => void) => {
    tell = told
    return new Promise((resolve) => (end = resolve))
  }
  const looking = store.widen(wish)
  await passes()
  expect(store.widening).toEqual({ wish, progress: undefined, done: false })
  const progress = { tried: 3, found: [{ words: 'Pause 2 s longer' }] }
  tell(progress)
  expect(store.widening).toEqual({ wish, progress, done: false })
  store.stopWidening()
  expect(names().at(-1)).toBe('cancel')
  end(undefined)
  await looking
  expect(store.widening).toEqual({ wish, progress, done: true })
  // What another wish had found is not taken for this one’s.
  const other = { ...wish, wantedS: 9 }
  const before = tell
  void store.widen(other)
  await passes()
  before({ tried: 99, found: [] })
  expect(store.widening).toEqual({ wish: other, progress: undefined, done: false })
})

it('finds company once for a recording', async () => {
  worker.answers.company = () => ({ meetings: [], alone: [] })
  rehearsed(withSpot())
  await passes()
  await store.findCompany()
  await store.findCompany()
  expect(names().filter((n) => n === 'company')).toHaveLength(1)
  expect(store.company).toEqual({ hash: 'h1', of: { meetings: [], alone: [] } })
  rehearsal.hash = 'h2'
  await store.findCompany()
  expect(store.company!.hash).toBe('h2')
})

it('adds trials that fail to what was found about agents', async () => {
  const trial = trialSchema.parse({ kind: 'stuck', longestS: 5 })
  worker.answers.find = () => ({
    spots: {},
    lines: {},
    trials: [
      { trialId: 'tl_a', holds: false, words: 'Warden 1 was stuck for 8.0 s.', momentS: 12 },
      { trialId: 'tl_b', holds: true, words: '' },
    ],
  })
  rehearsal.findings = [{ id: 'of an agent' }]
  rehearsed(levelWith({ trials: { tl_a: trial } }))
  await passes()
  expect(store.findings).toHaveLength(2)
  expect(store.findings[1]).toMatchObject({ check: 'rehearsal.trial-failed', moment: 12 })
})

it('hands each file of the ground over once', async () => {
  assets.bytes.set('aa', new Uint8Array(3))
  rehearsed(withSpot())
  await passes()
  level.value = withSpot()
  await passes()
  expect(names()).toEqual(['give', 'load', 'find', 'find'])
})
