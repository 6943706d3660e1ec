import { changeThings, type Junction, type Level } from '@tidytrail/core/level'
import { crossroads, walkedCrossroads } from '@tidytrail/core/testing'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'
import { bareScene } from '../../map/bare-scene'
import { recordingPen } from '../../map/recording-pen'
import { allOf } from '../../map/sliced'
import { useTrafficStore } from '../../stores/traffic'
import { junctionView } from '.'
import { planOf } from './ways'

beforeEach(() => setActivePinia(createPinia()))

const put = (level: Level, set: Partial<Junction>) =>
  changeThings.apply(level, { in: 'junctions', changes: { jn_0: set } }).level
const view = { x: 200, y: 200, scale: 12, width: 900, height: 600 }

/** What is drawn of junctions, on the map and after the hand. */
function drawn(level: Level, chosen: string[] = [], scale = view.scale) {
  const { pen, words, all, marks } = recordingPen({ ...view, scale })
  const scene = bareScene(level, { chosen: new Set(chosen) })
  for (const painter of junctionView.painters!) allOf(painter.draw(pen, scene))
  return { words: words(), calls: all.length, spots: marks('arc'), squares: marks('rect').length }
}

describe('a junction on the map', () => {
  const level = crossroads()

  it('has its name, and when it is chosen the number of each of its ways', () => {
    expect(drawn(level).words).toEqual(['Junction 1'])
    const numbers = drawn(level, ['jn_0']).words.filter((w) => /^\d+$/.test(w))
    expect(numbers.sort((a, b) => Number(a) - Number(b))).toEqual(planOf(level, 'jn_0').ways.map((_, k) => `${k + 1}`))
  })

  it('shows where one waits as soon as somebody does, but not from far away', () => {
    const stops = put(level, { control: 'all-way' })
    expect(drawn(stops).calls).toBeGreaterThan(drawn(level).calls)
    expect(drawn(stops, [], 1).calls).toBe(drawn(level, [], 1).calls)
  })

  it('shows only the pair that is pointed at', () => {
    const all = drawn(level, ['jn_0']).calls
    const { a, b } = planOf(level, 'jn_0').pairs[0]
    useTrafficStore().pair = [a.id, b.id]
    expect(drawn(level, ['jn_0']).calls).toBeLessThan(all)
  })

  it('shows the lights of those who walk at the kerbs, and where one waits at red before their crossings', () => {
    const lit = walkedCrossroads()
    const dark = put(lit, { phases: lit.junctions.jn_0.phases.map((p) => ({ ...p, laneIds: [] })) })
    expect(drawn(lit).squares).toBe(4 * 2)
    expect(drawn(dark).squares).toBe(0)
    // The lines of the four approaches lie 5.5 m farther out, 66 pixels at this scale: 16.5 m from the middle.
    const out = (of: Level) => Math.max(...drawn(of).spots.map(([x, y]) => Math.max(Math.abs(x - 450), Math.abs(y - 300)))) // prettier-ignore
    expect(out(lit)).toBeCloseTo(16.5 * view.scale, 0)
    expect(out(dark)).toBeCloseTo(11 * view.scale, 0)
    const letters = drawn(lit, ['jn_0']).words.filter((w) => /^[a-z]$/.test(w))
    expect(letters).toEqual(['a', 'b', 'c', 'd'])
  })

  it('is not drawn while it is hidden', () => {
    expect(drawn(put(level, { hidden: true }), ['jn_0']).calls).toBe(0)
  })
})
