import { blankLevel } from '@tidytrail/core/level'
import { FRAME_FIELDS } from '@tidytrail/core/rehearsal'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import type { RehearsalListener } from '../workers/rehearser.protocol'

const worker = {
  listener: undefined as RehearsalListener | undefined,
  runs: [] as { run: number; seed: number; seconds: number }[],
  stops: 0,
}
vi.mock('comlink', () => ({
  proxy: <T>(value: T) => value,
  wrap: () => ({
    start: async (listener: RehearsalListener) => void (worker.listener = listener),
    run: async (run: number, _level: unknown, seed: number, seconds: number) =>
      void worker.runs.push({ run, seed, seconds }),
    stop: async () => void worker.stops++,
  }),
}))
const level = { value: blankLevel('Rehearsed') }
vi.mock('./level', () => ({
  useLevelStore: () => ({
    get level() {
      return level.value
    },
  }),
}))
vi.stubGlobal(
  'Worker',
  class {
    terminate() {}
  },
)
let frame: ((now: number) => void) | undefined
vi.stubGlobal('requestAnimationFrame', (f: (now: number) => void) => ((frame = f), 1))
vi.stubGlobal('cancelAnimationFrame', () => (frame = undefined))

const { useRehearsalStore } = await import('./rehearsal')
let store: ReturnType<typeof useRehearsalStore>

/** A frame of one agent: x in mm, heading in mrad; walking. */
const one = (x: number, heading = 0) => {
  const f = new Int32Array(FRAME_FIELDS)
  f[0] = x
  f[3] = heading
  f[6] = 1
  return f
}
const member = {
  id: 'sp_a#1',
  name: 'A',
  spawnerId: 'sp_a',
  routeId: null,
  profileName: 'Warden',
  factionId: null,
  radiusM: 0.35,
}
const end = (run: number) => ({ run, seconds: 240, seed: 1, hash: 'h', verdicts: [], events: {}, tookMs: 1 })

beforeEach(() => {
  setActivePinia(createPinia())
  worker.runs = []
  store = useRehearsalStore()
})

async function begun(frames: Int32Array[]) {
  await store.begin(7)
  const { run } = worker.runs.at(-1)!
  worker.listener!.agents(run, [member])
  worker.listener!.frames({ run, first: 0, frames, t: (frames.length - 1) / 10 })
  return run
}

it('begins with the level as it is, its length and a seed, and runs', async () => {
  await begun([one(0)])
  expect(worker.runs.at(-1)).toMatchObject({ seed: 7, seconds: 240 })
  expect([store.running, store.playing, store.begun, store.stale]).toEqual([true, true, true, false])
})

it('shows an agent between two frames, turning the short way round', async () => {
  await begun([one(0, 3000), one(1000, -3000)])
  store.seek(0.05)
  expect(store.moment(0)).toMatchObject({ x: 0.5, state: 'walking' })
  // From 3 rad to −3 rad is 0.28 rad through half a turn, not 6 rad back.
  expect(store.moment(0)!.heading).toBeCloseTo(3 + (2 * Math.PI - 6) / 2, 2)
  expect(store.moment(0, 0)!.heading).toBe(3)
  expect(store.moment(5)).toBeUndefined()
})

it('plays no farther than has been rehearsed, and stops at the end', async () => {
  const run = await begun(Array.from({ length: 11 }, (_, k) => one(k * 100)))
  frame!(performance.now())
  store.faster(4)
  let now = performance.now()
  for (let k = 0; k < 50; k++) frame!((now += 100))
  expect(store.t).toBeCloseTo(1, 9)
  expect(store.playing).toBe(true)
  worker.listener!.frames({ run, first: 11, frames: Array.from({ length: 2390 }, () => one(0)), t: 240 })
  worker.listener!.end(end(run))
  store.seek(239.9)
  for (let k = 0; k < 5; k++) frame!((now += 100))
  expect([store.atEnd, store.playing, store.t]).toEqual([true, false, 240])
  store.playOrPause()
  expect([store.playing, store.t]).toEqual([true, 0])
})

it('steps a frame on and back, and pauses for it', async () => {
  await begun(Array.from({ length: 11 }, (_, k) => one(k)))
  store.seek(0.5)
  store.stepBy(1)
  expect([store.playing, store.t]).toEqual([false, 0.6])
  store.stepBy(-2)
  expect(store.t).toBeCloseTo(0.4, 9)
  store.stepBy(-100)
  expect(store.t).toBe(0)
})

it('goes slower and faster within bounds', () => {
  store.faster(100)
  expect(store.speed).toBe(16)
  store.faster(-100)
  expect(store.speed).toBe(0.25)
})

it('hears nothing more of a run that was given up', async () => {
  const old = await begun([one(0)])
  await store.begin(8)
  worker.listener!.frames({ run: old, first: 1, frames: [one(9)], t: 0.1 })
  worker.listener!.end(end(old))
  expect([store.frameCount, store.hash, store.running]).toEqual([0, '', true])
})
