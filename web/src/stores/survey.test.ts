import { movePlaces, type Level } from '@tidytrail/core/level'
import { smallLevel } from '@tidytrail/core/testing'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import type { SurveyListener, SurveyReport } from '../workers/surveyor.protocol'
import { useLevelStore } from './level'

/** The workers there have been, each with what it was told and how to break it. */
interface FakeWorker {
  listener?: SurveyListener
  told: [string, ...unknown[]][]
  fail(why: string): void
  ended: boolean
}
const workers: FakeWorker[] = []
vi.mock('comlink', () => ({ proxy: <T>(value: T) => value, wrap: () => ({}) }))
vi.mock('../workers/hired', () => ({
  hire(_worker: unknown, failed: (why: string) => void) {
    const made: FakeWorker = { told: [], fail: failed, ended: false }
    workers.push(made)
    const remote = new Proxy(
      {},
      {
        get:
          (_target, name: string) =>
          async (...args: unknown[]) => {
            if (name === 'start') made.listener = args[0] as SurveyListener
            made.told.push([name, ...args])
            return name === 'islands' ? [{ users: [name], gap: undefined }] : undefined
          },
      },
    )
    return { remote, ask: (answer: Promise<unknown>) => answer, end: () => (made.ended = true) }
  },
}))
vi.stubGlobal('Worker', class {})
vi.stubGlobal('Path2D', class {})
vi.stubGlobal('fetch', () => new Promise(() => {}))

const { useSurveyStore } = await import('./survey')
let survey: ReturnType<typeof useSurveyStore>
let levels: ReturnType<typeof useLevelStore>
const calls = (worker: FakeWorker) => worker.told.map(([name]) => name)
const report = (stamp: number, more: Partial<SurveyReport> = {}): SurveyReport => ({
  stamp,
  findings: [],
  profiles: {},
  routes: {},
  tookMs: 1,
  ...more,
})

beforeEach(async () => {
  setActivePinia(createPinia())
  workers.length = 0
  levels = useLevelStore()
  survey = useSurveyStore()
  levels.level = smallLevel()
  await survey.start()
})

it('hands the level to the worker as a whole, then only what each edit changes', () => {
  const [worker] = workers
  expect(worker.told.find(([name]) => name === 'setLevel')?.[1]).toBe(levels.level)
  levels.perform(movePlaces, { places: { wp_a: [3, 3, 0] } })
  const [, ops, stamp] = worker.told.find(([name]) => name === 'patch')!
  expect(ops).toEqual([{ op: 'replace', path: '/waypoints/wp_a/at', value: [3, 3, 0] }])
  expect(stamp).toBe(2)
})

it('is up to date once the report of the newest level has come', () => {
  const { listener } = workers[0]
  levels.perform(movePlaces, { places: { wp_a: [3, 3, 0] } })
  listener!.report(report(1))
  expect(survey.upToDate).toBe(false)
  listener!.report(report(2))
  expect(survey.upToDate).toBe(true)
})

it('tells what it knows from what it knew, and from what it never came to know', async () => {
  const { listener } = workers[0]
  expect(survey.standing).toBe('begun')
  listener!.report(report(1))
  expect(survey.standing).toBe('known')
  levels.perform(movePlaces, { places: { wp_a: [3, 3, 0] } })
  expect(survey.standing).toBe('renewed')
  listener!.report(report(2))
  workers[0].fail('out of memory')
  expect(survey.standing).toBe('known')
  levels.perform(movePlaces, { places: { wp_a: [4, 4, 0] } })
  expect(survey.standing).toBe('stopped')
  await survey.restart()
  expect(survey.standing).toBe('renewed')
  survey.stop()
  expect(survey.standing).toBe('begun')
})

it('keeps the paths of routes that did not change, and lets go of those that are gone', () => {
  const { listener } = workers[0]
  const found = { profileId: 'pf_warden', climbM: 0, paths: [] }
  listener!.report(report(1, { routes: { rt_a: found, rt_b: found } }))
  listener!.report(report(1, { routes: { rt_b: null } }))
  expect([...survey.paths.keys()]).toEqual(['rt_a'])
})

it('says why the worker failed, and starts another one with the level as it is now', async () => {
  workers[0].listener!.report(report(1))
  workers[0].fail('out of memory')
  expect(survey.failed).toBe('out of memory')
  levels.perform(movePlaces, { places: { wp_a: [4, 4, 0] } })
  await survey.restart()
  expect(survey.failed).toBe('')
  expect(workers[0].ended).toBe(true)
  const given = workers[1].told.find(([name]) => name === 'setLevel')?.[1] as Level
  expect(given.waypoints.wp_a.at).toEqual([4, 4, 0])
  // The dead one hears of nothing any more, the new one of every edit.
  const before = calls(workers[0]).length
  levels.perform(movePlaces, { places: { wp_a: [5, 5, 0] } })
  expect(calls(workers[0])).toHaveLength(before)
  expect(calls(workers[1])).toContain('patch')
})

it('answers with nothing once it has been stopped, instead of waiting', async () => {
  survey.stop()
  expect(workers[0].ended).toBe(true)
  expect(await survey.path([0, 0, 0], [1, 1, 0])).toBeUndefined()
  expect(await survey.spare('rt_a', 2)).toEqual([])
  expect(await survey.suggest()).toBe(0)
})

it('asks for the islands of the profile that is looked at', async () => {
  await survey.askIslands()
  expect(survey.islandFacts).toHaveLength(1)
  expect(workers[0].told.find(([name]) => name === 'islands')?.[1]).toBe('pf_warden')
})

it('leaves what came out as before the very same, so that nothing is drawn anew for it', () => {
  const { listener } = workers[0]
  const finding = { check: 'reach.none', severity: 'blocker', stage: 'reach', subjects: ['pf_a'], message: 'No floor.' }
  const route = { profileId: 'pf_a', paths: [], climbM: 0 }
  const island = { id: 0, areaM2: 5 }
  const told = (tiles = {}, islands = [island], routes = {}): Partial<SurveyReport> =>
    ({ findings: [{ ...finding }], profiles: { pf_a: { tiles, anew: false, islands } }, routes }) as never
  listener!.report(report(1, told({}, [island], { rt_a: route })))
  const known = { findings: survey.findings, paths: survey.paths, reach: survey.reach }
  listener!.report(report(1, told({}, [{ ...island }])))
  expect({ findings: survey.findings, paths: survey.paths, reach: survey.reach }).toStrictEqual(known)
  expect(survey.findings).toBe(known.findings)
  expect(survey.paths).toBe(known.paths)
  expect(survey.reach).toBe(known.reach)
  listener!.report(report(1, told({}, [{ ...island, areaM2: 6 }], { rt_a: null })))
  expect(survey.findings).toBe(known.findings)
  expect(survey.paths).not.toBe(known.paths)
  expect(survey.paths.size).toBe(0)
  expect(survey.reach).not.toBe(known.reach)
  listener!.report(report(1, { ...told(), findings: [] }))
  expect(survey.findings).toEqual([])
  listener!.report(report(1))
  expect(survey.reach.size).toBe(0)
})

it('shows the reach looked at before the report of the level comes, and goes on saying that it is at work', () => {
  const { listener } = workers[0]
  listener!.report(report(1))
  levels.perform(movePlaces, { places: { wp_a: [3, 3, 0] } })
  const drawn = (islands: unknown[]) => ({ tiles: { 3: { rings: [], edges: [] } }, anew: true, islands }) as never
  listener!.progress(2, 1, 100, [{ minX: 0, minY: 0, maxX: 9, maxY: 9 }])
  listener!.picture(2, 'pf_a', drawn([]))
  expect([...survey.reach.get('pf_a')!.tiles.keys()]).toEqual([3])
  // As long as it is not whole, what is being worked out is marked.
  expect(survey.rebuilding).toHaveLength(1)
  listener!.picture(2, 'pf_a', drawn([{ areaM2: 5 }]))
  expect(survey.rebuilding).toEqual([])
  expect(survey.upToDate).toBe(false)
})

it('takes every picture in, as no tile is told of twice', () => {
  const { listener } = workers[0]
  const tile = { rings: [], edges: [] }
  levels.perform(movePlaces, { places: { wp_a: [3, 3, 0] } })
  // Of the level before the last edit.
  listener!.picture(1, 'pf_a', { tiles: { 3: tile }, anew: true, islands: [] })
  listener!.picture(2, 'pf_a', { tiles: { 4: tile }, anew: false, islands: [] })
  expect([...survey.reach.get('pf_a')!.tiles.keys()]).toEqual([3, 4])
})

it('tells the worker whose reach is looked at, and where', () => {
  survey.look(7, 8)
  const looks = workers[0].told.filter(([name]) => name === 'look')
  expect(looks.at(-1)).toEqual(['look', survey.profileId, 7, 8])
  expect(looks[0][1]).toBe(survey.profileId)
})

it('puts the findings together from what each report tells', () => {
  const { listener } = workers[0]
  const finding = (check: string) =>
    ({ check, severity: 'note', stage: 'reach', subjects: [], message: check }) as never
  listener!.report(report(1, { findings: [finding('a'), finding('b'), finding('c')] }))
  const [, b, c] = survey.findings
  listener!.report(report(1, { findings: [[1, 2], finding('d')] }))
  expect(survey.findings.map((f) => f.check)).toEqual(['b', 'c', 'd'])
  expect(survey.findings[0]).toBe(b)
  expect(survey.findings[1]).toBe(c)
})
