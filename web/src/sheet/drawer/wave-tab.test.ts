// @vitest-environment happy-dom
import { changeThings } from '@tidytrail/core/level'
import { signalledStreet } from '@tidytrail/core/testing'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'
import { nextTick } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSheetStore } from '../../stores/sheet'
import { mounted } from '../../testing/mounted'
import { DRAWER_TABS } from './tabs'
import { waveWays } from './wave-ways'
import WaveTab from './WaveTab.vue'

const doc = () => useLevelStore().doc
const lane = (road: string) => doc().roads[`rd_${road}`].lanes.find((l) => l.key === 'a1')!.laneId!
const told = (host: HTMLElement) => host.querySelector('[data-testid=wave-told]')!.textContent!
const secondsIn = (text: string) => [...text.matchAll(/([\d.]+) s of/g)].map((m) => Number(m[1]))
const buttonIn = (host: HTMLElement, name: string | RegExp) =>
  [...host.querySelectorAll('button')].find((b) => b.textContent!.trim().match(name))!

beforeEach(() => {
  setActivePinia(createPinia())
  useLevelStore().level = signalledStreet([120, 260])
  useSheetStore().stage = 'routes'
})

it('is there for a lane and a junction on whose way two signals lie, and for nothing else', () => {
  const tab = DRAWER_TABS.find((t) => t.id === 'wave')!.use()
  expect(tab()).toBeUndefined()
  useSheetStore().choose([lane('m0')])
  expect(tab()).toMatchObject({ name: 'Green wave' })
  useSheetStore().choose([Object.keys(doc().junctions)[0]])
  expect(tab()).toMatchObject({ name: 'Green wave' })
  useSheetStore().choose([lane('n0')])
  expect(tab()).toBeUndefined()
  expect(waveWays(doc(), Object.keys(doc().junctions)[0])).toHaveLength(2)
})

it('widens the band of one way, or of both, in one step each', async () => {
  useSheetStore().choose([lane('m0')])
  const { host, warnings } = await mounted(WaveTab)
  const before = secondsIn(told(host))
  buttonIn(host, 'One way').click()
  await nextTick()
  const one = secondsIn(told(host))
  expect(one[0]).toBeGreaterThanOrEqual(before[0] ?? 0)
  expect(host.querySelectorAll('svg rect').length).toBeGreaterThan(4)
  buttonIn(host, 'Both ways').click()
  await nextTick()
  const both = secondsIn(told(host))
  expect(both.reduce((a, b) => a + b, 0)).toBeGreaterThanOrEqual(one.reduce((a, b) => a + b, 0) - 0.01)
  useLevelStore().undo()
  await nextTick()
  expect(secondsIn(told(host))).toEqual(one)
  expect(warnings).toEqual([])
})

it('says that cycles differ, and makes them one', async () => {
  const [id] = Object.keys(doc().junctions)
  const phases = doc().junctions[id].phases.map((p) => ({ ...p, greenS: p.greenS + 4 }))
  useLevelStore().level = changeThings.apply(doc(), { in: 'junctions', changes: { [id]: { phases } } }).level
  useSheetStore().choose([lane('m0')])
  const { host } = await mounted(WaveTab)
  expect(told(host)).toMatch(/^Their cycles differ/)
  buttonIn(host, /^Give all of them/).click()
  await nextTick()
  expect(told(host)).toMatch(/^Green all along/)
})

it('lets each signal begin when it is told, as typed', async () => {
  useSheetStore().choose([lane('m0')])
  const { host } = await mounted(WaveTab)
  const [, second] = Object.keys(doc().junctions)
  const input = [...host.querySelectorAll('input')].find((i) => i.closest('label')?.textContent?.includes(`${doc().junctions[second].name} begins at`))! // prettier-ignore
  input.value = '12'
  input.dispatchEvent(new Event('input'))
  input.dispatchEvent(new Event('blur'))
  await nextTick()
  expect(doc().junctions[second].offsetS).toBe(12)
})

it('draws who drove there while it is open, from the cycle before the moment that is looked at on', async () => {
  useSheetStore().choose([lane('m0')])
  const { host, end } = await mounted(WaveTab)
  const insight = useInsightStore()
  expect(insight.routeIds).toContain(lane('m0'))
  const drawn = () => host.querySelectorAll('[data-testid=wave-thread]').length
  expect(drawn()).toBe(0)
  const thread = (from: number) => ({ key: 1, t: [from, from + 5], m: [0, 40] })
  const line = { routeId: lane('m0'), lengthM: 89, closed: false, stops: [], pauses: [], marks: [], gaps: [] }
  insight.strings = [{ ...line, threads: [thread(3), thread(30), thread(900)] }]
  await nextTick()
  expect(drawn()).toBe(2)
  useRehearsalStore().t = 910
  await nextTick()
  expect(drawn()).toBe(1)
  expect(host.textContent).toMatch(/1[45]:\d\d/)
  end()
  expect(insight.routeIds).toEqual([])
})
