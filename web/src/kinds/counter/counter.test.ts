// @vitest-environment happy-dom
import type { CounterFigures, TrafficFigures } from '@tidytrail/core/insight'
import { levelSchema, removeThings, type Level } from '@tidytrail/core/level'
import { crossroads, withLanes } from '@tidytrail/core/testing'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { bareScene } from '../../map/bare-scene'
import { recordingPen } from '../../map/recording-pen'
import { allOf } from '../../map/sliced'
import TrafficTab from '../../sheet/drawer/TrafficTab.vue'
import { Bench } from '../../sheet/tools/tool-bench'
import { useInsightStore } from '../../stores/insight'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSheetStore } from '../../stores/sheet'
import { mounted } from '../../testing/mounted'
import { counterView } from '.'
import CounterCard from './CounterCard.vue'
import { counterTool, laneUnder } from './place-counter'

// Charts are drawn on a canvas, of which there is none here.
vi.mock('../../ui/EChart.vue', () => ({ default: { props: ['label'], template: '<i />', render: () => null } }))

const lane = (): Level =>
  withLanes({ a: [[10, 40, 0], [110, 40, 0]] }) // prettier-ignore
const level = (): Level =>
  levelSchema.parse({
    ...lane(),
    counters: {
      ct_a: { name: 'Toll', laneId: 'rt_a', atM: 30 },
      ct_b: { name: 'Bridge', laneId: 'rt_a', atM: 80 },
    },
  })
const FIGURES: CounterFigures = {
  count: 24,
  perH: 432,
  mps: 7.25,
  spaceMps: 7,
  perKm: 17.1,
  headways: [0, 3, 20],
  headwayS: 8.2,
  spans: [{ fromS: 0, toS: 60, count: 8, perH: 480, mps: 7, spaceMps: 6.9, perKm: 19 }],
  travel: { count: 20, meanS: 7.4, medianS: 7.1, p95S: 9.8 },
  curve: [{ perKm: 10, perH: 300, mps: 8 }],
}
const traffic = (more: Partial<TrafficFigures> = {}): TrafficFigures => ({
  counters: { ct_a: FIGURES, ct_b: { ...FIGURES, perH: 90, travel: undefined } },
  approaches: [],
  slowest: [],
  gridlocks: [],
  ...more,
})
let levels: ReturnType<typeof useLevelStore>
let insight: ReturnType<typeof useInsightStore>
beforeEach(() => {
  setActivePinia(createPinia())
  levels = useLevelStore()
  levels.level = level()
  insight = useInsightStore()
  useSheetStore().stage = 'rehearse'
})
const text = (host: Element) => host.textContent!.replace(/\s+/g, ' ').trim()

describe('the tool for counters', () => {
  it('puts one on the lane under the pointer, and none where no lane is', () => {
    const bench = new Bench()
    bench.level = lane()
    const tool = bench.make(counterTool)
    bench.click(tool, 52, 41, { alt: true })
    expect(Object.values(bench.level.counters)).toMatchObject([{ name: 'Counter 1', laneId: 'rt_a', atM: 42 }])
    bench.click(tool, 52, 60)
    expect(Object.keys(bench.level.counters)).toHaveLength(1)
    expect(bench.sheet.hint).toContain('No lane is there')
    expect(laneUnder(bench.level, 5, 40, 4)).toBeUndefined()
    expect(laneUnder(bench.level, 7, 40, 4)).toEqual({ laneId: 'rt_a', atM: 0 })
  })
})

describe('a counter on the map', () => {
  const view = { x: 60, y: 40, scale: 5, width: 1000, height: 700 }
  const words = (of: Level) => {
    const { pen, words: said } = recordingPen(view)
    for (const painter of counterView.painters!) allOf(painter.draw(pen, bareScene(of)))
    return said()
  }
  it('says what flows once it is known', () => {
    expect(words(levels.doc)).toEqual([])
    insight.traffic = traffic()
    expect(words(levels.doc)).toEqual(['432 an hour', '90 an hour'])
  })

  it('shows the ring of those who wait for each other for as long as it holds', () => {
    const rehearsal = useRehearsalStore()
    vi.spyOn(rehearsal.recording, 'moment').mockImplementation(
      (key) => ({ x: 40 + 10 * key, y: 40 + (key % 2) * 8 }) as never,
    )
    insight.traffic = traffic({ gridlocks: [{ fromS: 0, toS: 40, keys: [1, 2, 3] }] })
    expect(words(levels.doc)).toContain('Gridlock: 3 wait for each other')
    insight.traffic = traffic({ gridlocks: [{ fromS: 10, toS: 40, keys: [1, 2, 3] }] })
    expect(words(levels.doc)).not.toContain('Gridlock: 3 wait for each other')
  })

  it('slides along its lane when it is dragged', () => {
    const { handles } = counterView
    expect(handles!.at(levels.doc.counters.ct_a as never, levels.doc)).toEqual([[40, 40, 0]])
    const bench = new Bench()
    bench.level = levels.doc
    const moved = handles!.drag(levels.doc.counters.ct_a as never, 0, bench.pointer(73.4, 44), bench.context as never)
    expect(moved).toEqual({ atM: 63.4 })
  })
})

describe('the card of a counter', () => {
  it('tells what passed, and how long it takes to another one', async () => {
    const card = await mounted(CounterCard, { id: 'ct_a' })
    expect(text(card.host)).toContain('Rehearse, to see who passes.')
    insight.traffic = traffic()
    await nextTick()
    expect(text(card.host.querySelector('[data-testid=counted]')!)).toBe(
      'passed24flow432 an hourspeed7.3 m/sdensity17.1 a kilometreheadway8.2 s',
    )
    const to = card.field('time to')
    to.value = 'ct_b'
    to.dispatchEvent(new Event('change'))
    await nextTick()
    insight.traffic = traffic()
    await nextTick()
    expect(levels.doc.counters.ct_a.toId).toBe('ct_b')
    expect(text(card.host.querySelector('[data-testid=travel]')!)).toContain('20 passed both: 7.1 s in the middle')
    expect(card.warnings).toEqual([])
    card.end()
  })

  it('goes with its lane when that is deleted, and forgets another that is', () => {
    levels.level = levelSchema.parse({
      ...level(),
      counters: { ...level().counters, ct_a: { name: 'Toll', laneId: 'rt_a', atM: 3, toId: 'ct_b' } },
    })
    levels.perform(removeThings, { ids: ['ct_b'] })
    expect(levels.doc.counters.ct_a.toId).toBeNull()
    levels.perform(removeThings, { ids: ['rt_a'] })
    expect(levels.doc.counters).toEqual({})
  })
})

describe('what the drawer tells of traffic', () => {
  it('is counters, queues by approach, and the slowest places with what holds people there', async () => {
    const cross = crossroads()
    const [laneId] = Object.keys(cross.routes)
    levels.level = levelSchema.parse({ ...cross, counters: { ct_a: { name: 'Toll', laneId, atM: 5 } } })
    await nextTick()
    insight.traffic = traffic({
      counters: { ct_a: FIGURES },
      approaches: [
        {
          junctionId: 'jn_0',
          laneId,
          count: 40,
          stopped: 30,
          meanS: 12.4,
          p95S: 31,
          queueMean: 1.24,
          queueMost: 6,
          perH: 240,
        },
      ],
      slowest: [{ laneId, fromM: 80, toM: 100, lostS: 312, vehicles: 41, causes: [{ limit: 'signal', share: 0.7 }, { limit: 'queue', share: 0.3 }] }], // prettier-ignore
      gridlocks: [{ fromS: 65, toS: 90, keys: [1, 2] }],
    })
    const tab = await mounted(TrafficTab)
    expect(text(tab.host)).toContain('Toll · 432/h')
    tab.button('Queues').click()
    await nextTick()
    expect(text(tab.host.querySelector('[data-testid=approaches] tbody')!)).toBe(
      `${cross.routes[laneId].name}Junction 14075 %12 s31 s1.26`,
    )
    tab.button('Slowest places').click()
    await nextTick()
    const row = tab.host.querySelector('[data-testid=slowest] tbody')!
    expect(text(row)).toContain('a signal 70 %, who is in front 30 %')
    row.querySelector('button')!.dispatchEvent(new Event('mouseenter'))
    expect(insight.pointed).toHaveLength(2)
    row.querySelector('button')!.dispatchEvent(new Event('mouseleave'))
    expect(insight.pointed).toBeUndefined()
    const seek = vi.spyOn(useRehearsalStore(), 'seek').mockImplementation(() => {})
    tab.button('Gridlock of 2 from 1:05').click()
    expect(seek).toHaveBeenCalledWith(65)
    expect(tab.warnings).toEqual([])
    tab.end()
  })

  it('says so where nothing is known, or no counter stands', async () => {
    const tab = await mounted(TrafficTab)
    expect(text(tab.host)).toContain('Rehearse, to see how traffic flows.')
    insight.traffic = traffic({ counters: {} })
    await nextTick()
    expect(text(tab.host)).toContain('No counter stands on a lane yet.')
    tab.end()
  })
})
