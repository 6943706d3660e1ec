import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { nextTick, reactive } from 'vue'

const rehearsal = reactive({ t: 3, begun: true, kept: undefined as object | undefined })
vi.mock('./rehearsal', () => ({ useRehearsalStore: () => rehearsal }))
const asked: [string, number][] = []
let answer: (() => void) | undefined
vi.mock('./survey', () => ({
  useSurveyStore: () => ({
    heat: (t: number) => (
      asked.push(['heat', t]),
      new Promise((resolve) => (answer = () => resolve({ seconds: new Float32Array([t]) })))
    ),
    straying: (t: number) => (asked.push(['straying', t]), Promise.resolve([{ routeId: `rt_${t}` }])),
  }),
}))
vi.mock('./insight', () => ({
  useInsightStore: () => ({
    heat: (t: number) => Promise.resolve({ seconds: new Float32Array([-t]) }),
    straying: (t: number) => Promise.resolve([{ routeId: `kept_${t}` }]),
  }),
}))
const { useWatchingStore } = await import('./watching')
let store: ReturnType<typeof useWatchingStore>

beforeEach(() => {
  vi.useFakeTimers({ now: 10_000 })
  asked.length = 0
  answer = undefined
  Object.assign(rehearsal, { t: 3, begun: true, kept: undefined })
  setActivePinia(createPinia())
  store = useWatchingStore()
})
afterEach(() => store.$dispose())
const passes = async (ms: number) => {
  await nextTick()
  await vi.advanceTimersByTimeAsync(ms)
}

it('gathers nothing that nobody watches', async () => {
  rehearsal.t = 4
  await passes(5000)
  expect(asked).toEqual([])
})

it('gathers what is watched up to the moment looked at, and forgets it when it is no longer', async () => {
  store.on.straying = true
  await passes(10)
  expect(asked).toEqual([['straying', 3]])
  expect(store.strayed).toEqual([{ routeId: 'rt_3' }])
  store.on.straying = false
  await passes(10)
  expect(store.strayed).toEqual([])
})

it('asks one question at a time, and the last moment is not left out', async () => {
  store.on.heat = true
  await passes(10)
  for (let k = 0; k < 20; k++) {
    rehearsal.t += 0.1
    await passes(50)
  }
  // Still waiting for the first answer.
  expect(asked).toEqual([['heat', 3]])
  answer!()
  await passes(1000)
  expect(asked.at(-1)![1]).toBeCloseTo(5, 6)
  expect(asked.length).toBe(2)
  answer!()
  await passes(1)
  expect(store.heat!.seconds[0]).toBeCloseTo(5, 5)
})

it('shows nothing of a rehearsal that is over', async () => {
  store.on.heat = store.on.straying = true
  await passes(10)
  answer!()
  await passes(10)
  rehearsal.begun = false
  await passes(2000)
  expect(asked.filter(([what]) => what === 'heat')).toHaveLength(1)
  expect(store.heat).toBeUndefined()
  expect(store.strayed).toEqual([])
})

it('gathers from its recording what was kept, as it is not worked out here', async () => {
  rehearsal.kept = {}
  store.on.heat = store.on.straying = true
  await passes(10)
  expect(asked).toEqual([])
  expect(store.heat).toEqual({ seconds: new Float32Array([-3]) })
  expect(store.strayed).toEqual([{ routeId: 'kept_3' }])
})
