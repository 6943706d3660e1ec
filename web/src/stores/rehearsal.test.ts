import { blankLevel } from '@tidytrail/core/level'
import { FRAME_FIELDS, packFrames, type AgentEvent, type Verdict } from '@tidytrail/core/rehearsal'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import type { AgentInfo, RunListener, RunNews } from '../workers/rehearsal.protocol'

const worker = { listener: undefined as RunListener | undefined, asked: [] as [string, ...unknown[]][] }
const remote = new Proxy(
  {},
  {
    get:
      (_, name) =>
      (...args: unknown[]) =>
        void worker.asked.push([String(name), ...args]),
  },
)
vi.mock('./survey', () => ({
  useSurveyStore: () => ({
    rehearse: (listener: RunListener, what: (r: unknown) => void) => {
      worker.listener = listener
      what(remote)
    },
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
let frame: ((now: number) => void) | undefined
vi.stubGlobal('requestAnimationFrame', (f: (now: number) => void) => ((frame = f), 1))
vi.stubGlobal('cancelAnimationFrame', () => (frame = undefined))

const { useRehearsalStore } = await import('./rehearsal')
let store: ReturnType<typeof useRehearsalStore>

/** A frame of one agent: x in mm, heading in mrad; walking. */
const one = (x: number, heading = 0, key = 1) => {
  const f = new Int32Array(FRAME_FIELDS)
  f[0] = key
  f[1] = x
  f[4] = heading
  f[7] = 1
  return f
}
const member: AgentInfo = {
  key: 1,
  id: 'sp_a#1',
  name: 'A',
  spawnerId: 'sp_a',
  routeId: null,
  profileId: 'pf_a',
  profileName: 'Warden',
  factionId: null,
  radiusM: 0.35,
  standIn: true,
  briefId: null,
  appearedS: 0,
}
const news = (run: number, from: number, frames: Int32Array[], more: Partial<RunNews> = {}): RunNews => ({
  run,
  from,
  chunks: frames.length > 0 ? [{ first: from, count: frames.length, bytes: packFrames(frames, FRAME_FIELDS) }] : [],
  t: 0,
  agents: { from: 1, list: [] },
  events: { from: 0, list: [] },
  verdicts: { from: 0, list: [] },
  marks: [],
  posts: [],
  profiles: [],
  routes: [],
  hash: undefined,
  ...more,
})

beforeEach(() => {
  setActivePinia(createPinia())
  worker.asked = []
  store = useRehearsalStore()
})

function begun(frames: Int32Array[]) {
  store.begin(7)
  const run = worker.asked.findLast(([name]) => name === 'begin')![1] as number
  worker.listener!.news(news(run, 0, frames, { agents: { from: 0, list: [member] } }))
  return run
}
const judgedAt = (...verdicts: Verdict[]) => ({ from: 0, list: [{ t: 0, verdicts }] })
const asked = (name: string) => worker.asked.filter(([n]) => n === name).map(([, ...args]) => args)

it('begins with the level as it is, its length and a seed, and runs', () => {
  begun([one(0)])
  expect(asked('begin').at(-1)!.slice(1)).toEqual([7, 240, undefined])
  expect([store.running, store.playing, store.begun, store.changes]).toEqual([true, true, true, 0])
})

it('shows an agent between two frames, turning the short way round', () => {
  begun([one(0, 3000), one(1000, -3000)])
  store.seek(0.05)
  expect(store.moment(0)).toMatchObject({ x: 0.5, state: 'walking' })
  // From 3 rad to −3 rad is 0.28 rad through half a turn, not 6 rad back.
  expect(store.moment(0)!.heading).toBeCloseTo(3 + (2 * Math.PI - 6) / 2, 2)
  expect(store.moment(0, 0)!.heading).toBe(3)
  expect(store.moment(5)).toBeUndefined()
})

it('plays no farther than has been rehearsed, and stops at the end', () => {
  const run = begun(Array.from({ length: 11 }, (_, k) => one(k * 100)))
  frame!(performance.now())
  store.faster(4)
  let now = performance.now()
  for (let k = 0; k < 50; k++) frame!((now += 100))
  expect(store.t).toBeCloseTo(1, 9)
  expect(store.playing).toBe(true)
  worker.listener!.news(
    news(
      run,
      11,
      Array.from({ length: 2390 }, () => one(0)),
      { hash: 'h' },
    ),
  )
  store.seek(239.9)
  for (let k = 0; k < 5; k++) frame!((now += 100))
  expect([store.atEnd, store.playing, store.t]).toEqual([true, false, 240])
  store.playOrPause()
  expect([store.playing, store.t]).toEqual([true, 0])
})

it('steps a frame on and back, and pauses for it', () => {
  begun(Array.from({ length: 11 }, (_, k) => one(k)))
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
  expect(store.speed).toBe(32)
  store.faster(-100)
  expect(store.speed).toBe(0.25)
})

it('hears nothing more of a run that was given up', () => {
  const old = begun([one(0)])
  store.begin(8)
  worker.listener!.news(news(old, 1, [one(9)], { hash: 'old' }))
  expect([store.frameCount, store.hash, store.running]).toEqual([0, '', true])
})

it('forgets what an edit has made otherwise, and keeps what came before', () => {
  const event = (step: number, kind: AgentEvent['kind']): AgentEvent => ({
    step,
    key: 1,
    kind,
    a: 0,
    b: 0,
    c: 0,
    route: -1,
  })
  const run = begun(Array.from({ length: 20 }, (_, k) => one(k)))
  worker.listener!.news(
    news(
      run,
      20,
      Array.from({ length: 21 }, (_, k) => one(20 + k)),
    ),
  )
  const list = [event(0, 'appeared'), event(60, 'reached'), event(90, 'finished')]
  worker.listener!.news(news(run, 41, [], { events: { from: 0, list } }))
  const marks = [{ t: 2, what: 'edit' as const }]
  worker.listener!.news(news(run, 20, [one(500), one(600)], { events: { from: 2, list: [] }, marks }))
  // Nothing of the level differs from what it was begun with: what was changed has been undone.
  expect([store.frameCount, store.changes]).toEqual([22, 0])
  expect(store.events.map((e) => e.kind)).toEqual(['appeared', 'reached'])
  expect(store.moment(0, 1.9)!.x).toBe(0.019)
  expect(store.moment(0, 2.1)!.x).toBe(0.6)
})

it('plays a span over and over', () => {
  begun(Array.from({ length: 101 }, (_, k) => one(k)))
  store.seek(2)
  store.loop = { from: 1, to: 3 }
  let now = performance.now()
  frame!(now)
  const seen = new Set<number>()
  for (let k = 0; k < 60; k++) {
    frame!((now += 100))
    seen.add(Math.round(store.t * 10))
  }
  expect(Math.min(...seen)).toBe(10)
  expect(Math.max(...seen)).toBeLessThan(30)
})

it('goes from event to event of whom one has chosen', () => {
  const event = (step: number, key: number): AgentEvent => ({ step, key, kind: 'reached', a: 0, b: 0, c: 0, route: -1 })
  const run = begun(Array.from({ length: 101 }, (_, k) => one(k)))
  const list = [event(30, 1), event(60, 2), event(90, 1)]
  worker.listener!.news(news(run, 101, [], { events: { from: 0, list } }))
  store.toEvent(1)
  expect(store.t).toBeCloseTo(1, 6)
  store.toEvent(1, 1)
  expect(store.t).toBeCloseTo(3, 6)
  store.toEvent(-1)
  expect([store.t, store.playing]).toEqual([2, false])
  store.toEvent(1, 9)
  expect(store.t).toBe(2)
})

it('steers a stand-in at the moment one is looking at, and lets it go', () => {
  begun(Array.from({ length: 101 }, (_, k) => one(k)))
  store.seek(4)
  store.takeOver('sp_a#1')
  store.steer('sp_a#1', 0, 1, 1.4)
  store.takeOver(undefined)
  expect(asked('lookAt').at(-1)).toEqual([4])
  expect(asked('steer')).toEqual([
    ['sp_a#1', 0, 0, 0],
    ['sp_a#1', 0, 1, 1.4],
    ['sp_a#1', 0, 0, -1],
  ])
})

it('says what came out differently from the run before', () => {
  const verdict = (word: Verdict['verdict'], made: number) =>
    ({
      agent: 'sp_a#1',
      name: 'A',
      key: 1,
      verdict: word,
      stops: { made, missed: 0, due: made },
      reasons: [],
    }) as never as Verdict
  const run = begun([one(0)])
  worker.listener!.news(news(run, 1, [], { verdicts: judgedAt(verdict('follows', 9)), hash: 'a' }))
  store.begin(7)
  const next = asked('begin').at(-1)![0] as number
  worker.listener!.news(news(next, 0, [one(0)], { verdicts: judgedAt(verdict('does-not-follow', 4)), hash: 'b' }))
  expect(store.differences).toEqual(['A: follows → does not follow, 9 → 4 stops'])
})

it('tells the verdicts as they stood at the moment that is looked at', () => {
  const word = (verdict: string) => ({ agent: 'sp_a#1', key: 1, verdict, stops: {} }) as never as Verdict
  const list = [
    { t: 0, verdicts: [word('follows')] },
    { t: 1, verdicts: [word('follows-with-remarks')] },
    { t: 2, verdicts: [word('does-not-follow')] },
  ]
  const run = begun(Array.from({ length: 31 }, (_, k) => one(k)))
  worker.listener!.news(news(run, 31, [], { verdicts: { from: 0, list } }))
  const at = (t: number) => (store.seek(t), store.verdictOf.get('sp_a#1')!.verdict)
  expect([at(0.5), at(1), at(1.9), at(3)]).toEqual([
    'follows',
    'follows-with-remarks',
    'follows-with-remarks',
    'does-not-follow',
  ])
  // An edit at 1.5 s makes what came after it otherwise.
  worker.listener!.news(news(run, 31, [], { verdicts: { from: 2, list: [{ t: 2, verdicts: [word('follows')] }] } }))
  expect(at(3)).toBe('follows')
})

it('says what many agents will take before they are sent, and ends where it has come to when told', () => {
  expect(store.price).toBeUndefined()
  const spawner = { count: 50_000, profileId: 'pf_a' } as never
  level.value = {
    ...level.value,
    spawners: { sp_a: spawner, sp_b: { ...(spawner as object), profileId: null } as never },
  }
  setActivePinia(createPinia())
  store = useRehearsalStore()
  expect(store.price!.agents).toBe(50_000)
  expect(store.price!.workS).toBeGreaterThan(60)
  expect(store.price!.megabytes).toBeGreaterThan(500)
  const run = begun(Array.from({ length: 21 }, (_, k) => one(k)))
  store.endHere()
  expect([store.running, store.seconds]).toEqual([false, 2])
  expect(asked('giveUp')).toHaveLength(1)
  worker.listener!.news(news(run, 21, [one(9)]))
  expect(store.frameCount).toBe(21)
  level.value = blankLevel('Rehearsed')
})

it('counts changes only while the level differs from the one it was begun with', () => {
  const was = level.value
  const run = begun([one(0)])
  level.value = { ...was, name: 'Other' }
  worker.listener!.news(news(run, 1, [], { marks: [{ t: 0, what: 'edit' }] }))
  expect(store.changes).toBe(1)
  level.value = was
  worker.listener!.news(
    news(run, 1, [], {
      marks: [
        { t: 0, what: 'edit' },
        { t: 0, what: 'edit' },
      ],
    }),
  )
  expect(store.changes).toBe(0)
})

const walk = (from: number, count: number, mm: number) => Array.from({ length: count }, (_, k) => one(from + k * mm))

it('keeps the run that was gone on from otherwise, whole, to compare with', () => {
  const run = begun(walk(0, 101, 100))
  worker.listener!.news(news(run, 101, [], { hash: 'a' }))
  expect(store.earlier).toBeUndefined()
  store.seek(4)
  store.goOnFromHere()
  worker.listener!.news(news(run, 41, walk(4100, 60, 500), { hash: 'b' }))
  expect(store.earlier!.from).toBe(4)
  expect(store.moment(0, 8)!.x).toBeCloseTo(4.1 + 39 * 0.5, 6)
  expect(store.earlierMoment('sp_a#1', 8)!.x).toBeCloseTo(8, 6)
  expect(store.earlierMoment('sp_a#1', 10.5)).toBeUndefined()
  expect(store.earlierMoment('sp_z#1', 8)).toBeUndefined()
  // Another seed is another matter: there is nothing to compare with.
  store.begin(8)
  expect(store.earlier).toBeUndefined()
})

it('keeps a finished run that an edit makes otherwise, but not one that was still being worked out', () => {
  const run = begun(walk(0, 101, 100))
  worker.listener!.news(news(run, 31, walk(0, 10, 7)))
  expect(store.earlier).toBeUndefined()
  worker.listener!.news(news(run, 41, walk(0, 60, 7), { hash: 'a' }))
  worker.listener!.news(news(run, 51, walk(0, 10, 9)))
  expect(store.earlier!.from).toBe(5)
  expect(store.earlierMoment('sp_a#1', 9)!.x).toBeCloseTo(49 * 0.007, 6)
})

it('compares what is steered with what was before the first key, not with what came of each', () => {
  const run = begun(walk(0, 101, 100))
  worker.listener!.news(news(run, 101, [], { hash: 'a' }))
  store.seek(2)
  store.takeOver('sp_a#1')
  for (const from of [21, 25, 33]) worker.listener!.news(news(run, from, walk(0, 101 - from, 1), { hash: 'b' }))
  expect(store.earlierMoment('sp_a#1', 9)!.x).toBeCloseTo(9, 6)
  expect(store.earlier!.from).toBe(2)
})

it('two that go by one id are told apart by when they appeared', () => {
  store.begin(7)
  const run = worker.asked.findLast(([name]) => name === 'begin')![1] as number
  const again = { ...member, key: 2, appearedS: 5 }
  worker.listener!.news(
    news(
      run,
      0,
      Array.from({ length: 101 }, () => one(0)),
      { agents: { from: 0, list: [member, again] } },
    ),
  )
  store.seek(2)
  expect(store.placeOf(member.id)).toBe(0)
  store.seek(8)
  expect(store.placeOf(member.id)).toBe(1)
  expect(store.count).toBe(1)
  expect(store.placeOf('nobody')).toBe(-1)
})
