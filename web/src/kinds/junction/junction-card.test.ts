// @vitest-environment happy-dom
import { changeThings, type Junction, type Level } from '@tidytrail/core/level'
import { crossroads, settled, walkedCrossroads, withRoads } from '@tidytrail/core/testing'
import { laneNet, watchOf } from '@tidytrail/core/traffic'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'
import { nextTick } from 'vue'
import { bareScene } from '../../map/bare-scene'
import { recordingPen } from '../../map/recording-pen'
import { allOf } from '../../map/sliced'
import { Bench } from '../../sheet/tools/tool-bench'
import { useInsightStore } from '../../stores/insight'
import { useLevelStore } from '../../stores/level'
import { useTrafficStore } from '../../stores/traffic'
import { mounted } from '../../testing/mounted'
import { roundaboutTool } from './draw-roundabout'
import { junctionView } from '.'
import JunctionCard from './JunctionCard.vue'
import JunctionFoot from './JunctionFoot.vue'
import { planOf } from './ways'

const put = (level: Level, set: Partial<Junction>) =>
  changeThings.apply(level, { in: 'junctions', changes: { jn_0: set } }).level
let levels: ReturnType<typeof useLevelStore>
beforeEach(() => {
  setActivePinia(createPinia())
  levels = useLevelStore()
})
const text = (host: Element) => host.textContent!.replace(/\s+/g, ' ').trim()
const junction = () => levels.doc.junctions.jn_0

describe('the card of a junction', () => {
  it('suggests stages as long as Webster has them for what was counted, and says by what', async () => {
    levels.level = put(settled(crossroads()), { control: 'signals' })
    const card = await mounted(JunctionCard, { id: 'jn_0' })
    const flows = () => text(card.host.querySelector('[data-testid=plan-flows]')!)
    expect(flows()).toBe('With 450 an hour from each side, until a rehearsal has counted.')
    card.button('Suggest a plan').click()
    await nextTick()
    const greens = () => junction().phases.map((p) => p.greenS)
    expect(greens()[0]).toBe(greens()[1])
    // Four times as many along one road as along the other.
    const { ways } = planOf(levels.doc, 'jn_0')
    const first = new Set(ways.filter((w) => junction().phases[0].linkIds.includes(w.id)).map((w) => w.from))
    const froms = [...new Set(ways.map((w) => w.from))]
    const approach = { junctionId: 'jn_0', count: 9, stopped: 0, meanS: 0, p95S: 0, queueMean: 0, queueMost: 0 }
    useInsightStore().traffic = {
      counters: {},
      slowest: [],
      gridlocks: [],
      approaches: froms.map((laneId) => ({ ...approach, laneId, perH: first.has(laneId) ? 800 : 200 })),
    }
    await nextTick()
    expect(flows()).toMatch(/^By what the rehearsal counted: (800|200), .* an hour\.$/)
    card.button('Suggest a plan').click()
    await nextTick()
    expect(greens()[0]).toBeGreaterThan(2.5 * greens()[1])
    levels.undo()
    levels.undo()
  })

  it('tells how many conflicts are open, and settles them all as usual in one step', async () => {
    levels.level = crossroads()
    const card = await mounted(JunctionCard, { id: 'jn_0' })
    const all = planOf(levels.doc, 'jn_0').pairs.length
    expect(text(card.host)).toContain(`${all} of ${all} conflicts are not settled.`)
    card.button('Settle as usual').click()
    await nextTick()
    expect(text(card.host)).toContain(`All ${all} conflicts are settled.`)
    levels.undo()
    await nextTick()
    expect(text(card.host)).toContain(`${all} of ${all} conflicts are not settled.`)
    expect(card.warnings).toEqual([])
    card.end()
  })

  it('turns a cell of its table round by clicks, and shows the pair that is pointed at', async () => {
    levels.level = crossroads()
    const card = await mounted(JunctionCard, { id: 'jn_0' })
    const cell = () => card.host.querySelector<HTMLButtonElement>('[data-testid=pairs] button')!
    const says = () => cell().getAttribute('aria-label')!
    expect(says()).toContain('is not settled with')
    const words = []
    for (let k = 0; k < 4; k++) {
      cell().click()
      await nextTick()
      words.push(says())
    }
    expect(words.map((w) => /gives way to|stops, and|goes before|is not settled/.exec(w)?.[0])).toEqual([
      'gives way to',
      'stops, and',
      'goes before',
      'is not settled',
    ])
    cell().dispatchEvent(new Event('mouseenter'))
    expect(useTrafficStore().pair).toHaveLength(2)
    cell().dispatchEvent(new Event('mouseleave'))
    expect(useTrafficStore().pair).toBeUndefined()
    card.end()
  })

  it('gives those who walk green in a stage and takes it from them, by the letter of their crossing', async () => {
    levels.level = walkedCrossroads()
    const card = await mounted(JunctionCard, { id: 'jn_0' })
    const letters = () => [...card.host.querySelectorAll('svg text')].map((t) => t.textContent).filter((t) => /[a-z]/.test(t!)) // prettier-ignore
    expect(letters()).toEqual(['a', 'b', 'c', 'd'])
    const buttons = [...card.host.querySelectorAll('button')]
    const [first, second] = buttons.filter((b) => b.getAttribute('aria-label')?.startsWith('Way a, '))
    expect(first.getAttribute('aria-label')).toBe(`Way a, ${levels.doc.routes.rt_xe.name}, on foot`)
    expect([first, second].map((b) => b.getAttribute('aria-pressed'))).toEqual(['false', 'true'])
    second.click()
    first.click()
    await nextTick()
    expect(junction().phases.map((p) => p.laneIds.includes('rt_xe'))).toEqual([true, false])
    levels.undo()
    levels.undo()
    expect(junction().phases.map((p) => p.laneIds.includes('rt_xe'))).toEqual([false, true])
  })

  it('makes stages of signals when it is to have them, each with a green for somebody', async () => {
    levels.level = crossroads()
    const card = await mounted(JunctionCard, { id: 'jn_0' })
    const select = card.field('settled by')
    select.value = 'signals'
    select.dispatchEvent(new Event('change'))
    await nextTick()
    expect(junction().phases.length).toBeGreaterThan(1)
    for (const phase of junction().phases) expect(phase.linkIds.length).toBeGreaterThan(0)
    expect(text(card.host)).toContain('conflicts are settled.')
    card.end()
  })
})

describe('what those who give way watch', () => {
  const level = put(settled(crossroads()), { control: 'give-way' })

  it('is as much as is needed, unless it is said otherwise; too little is said, with why', async () => {
    levels.level = level
    const card = await mounted(JunctionCard, { id: 'jn_0' })
    const says = () => [...card.host.querySelectorAll('[data-testid=watch-says]')].map(text)
    expect(new Set(says())).toEqual(new Set(['as far as needed']))
    const label = card.host.querySelector('[data-testid=watches] input')!.getAttribute('aria-label')!
    await card.type(label, '12')
    const said = junction().yields.filter((y) => y.watchM === 12)
    expect(said).toHaveLength(1)
    const [short] = says().filter((w) => w.includes('It needs'))
    expect(short).toMatch(/At 14\.0 m\/s one comes from there in 0\.9 s; it takes [\d.]+ s to set off/)
    // What it is said to need is what the core works out.
    const net = laneNet(levels.doc)
    const pair = planOf(levels.doc, 'jn_0').pairs.find((p) => 'watchM' in p.settled && p.settled.watchM === 12)!
    expect(short).toContain(`It needs ${watchOf(levels.doc, net, pair)!.needM.toFixed(0)}`)
    levels.undo()
    await nextTick()
    expect(new Set(says())).toEqual(new Set(['as far as needed']))
    card.end()
  })

  it('is drawn along the lanes for the pair that is pointed at, and where it is too short', () => {
    const drawn = (of: Level) => {
      const { pen, all } = recordingPen({ x: 200, y: 200, scale: 12, width: 900, height: 600 })
      const scene = bareScene(of, { chosen: new Set(['jn_0']) })
      for (const painter of junctionView.painters!) allOf(painter.draw(pen, scene))
      return all.length
    }
    const traffic = useTrafficStore()
    const pairs = planOf(level, 'jn_0').pairs.filter((p) => p.settled.by === 'gives-way')
    const plain = drawn(level)
    const short = put(level, {
      yields: level.junctions.jn_0.yields.map((y, k) => (k === 0 ? { ...y, watchM: 10 } : y)),
    })
    expect(drawn(short)).toBeGreaterThan(plain)
    traffic.pair = [pairs[0].a.id, pairs[0].b.id]
    const pointed = drawn(level)
    traffic.pair = ['nobody', 'nobody']
    expect(pointed).toBeGreaterThan(drawn(level))
  })
})

describe('the list of junctions', () => {
  it('makes the joins and junctions that are missing, each in one step', async () => {
    levels.level = withRoads({
      a: { points: [[80, 200, 0], [189, 200, 0]] }, // prettier-ignore
      b: { points: [[320, 200, 0], [211, 200, 0]] }, // prettier-ignore
      c: { points: [[200, 320, 0], [200, 211, 0]] }, // prettier-ignore
    })
    const foot = await mounted(JunctionFoot)
    const button = (start: string) =>
      [...foot.host.querySelectorAll('button')].find((b) => b.textContent!.trim().startsWith(start))!
    button('Make 6 joins').click()
    await nextTick()
    expect(Object.keys(levels.doc.links)).toHaveLength(6)
    button('Make 1 junction').click()
    await nextTick()
    expect(Object.keys(levels.doc.junctions)).toHaveLength(1)
    expect(text(foot.host)).toContain('No join is missing')
    expect(text(foot.host)).toContain('No junction is missing')
    foot.end()
  })
})

describe('the tool for roundabouts', () => {
  const arms = () => {
    const bench = new Bench()
    bench.level = withRoads({
      a: { points: [[0, 40, 0], [36, 40, 0]] }, // prettier-ignore
      b: { points: [[120, 40, 0], [84, 40, 0]] }, // prettier-ignore
      c: { points: [[60, 0, 0], [60, 16, 0]] }, // prettier-ignore
    })
    return bench
  }
  it('takes a middle and a radius, and joins all that ends there; undone it is gone whole', () => {
    const bench = arms()
    const before = bench.level
    const tool = bench.make(roundaboutTool)
    bench.click(tool, 60, 40)
    expect(bench.level).toBe(before)
    bench.click(tool, 60, 54)
    const [ring] = Object.values(bench.level.junctions)
    expect(ring.control).toBe('give-way')
    expect(Object.keys(bench.level.links)).toHaveLength(6)
    expect(bench.sheet.selected).toEqual(Object.keys(bench.level.junctions))
    bench.undo()
    expect(bench.level).toBe(before)
  })

  it('takes the radius of its options on Enter, and tells why there can be none', () => {
    const bench = arms()
    const tool = bench.make(roundaboutTool)
    bench.click(tool, 60, 40)
    expect(tool.busy!()).toBe(true)
    tool.press!('Enter')
    expect(Object.keys(bench.level.junctions)).toHaveLength(1)
    const again = bench.make(roundaboutTool)
    const before = bench.level
    bench.click(again, 110, 5)
    again.press!('Enter')
    expect(bench.level).toBe(before)
    expect(bench.sheet.hint).toContain('have to end before it')
    again.press!('Escape')
    expect(again.busy!()).toBe(false)
  })

  it('shows the ring with its arms while it is drawn', () => {
    const bench = arms()
    const tool = bench.make(roundaboutTool)
    bench.click(tool, 60, 40)
    tool.move!(bench.pointer(60, 55), false)
    const { pen, words } = recordingPen(bench.view)
    tool.draw!(pen)
    expect(words()).toEqual(['15.0 m, 3 arms'])
  })
})
