import { changeThings, type Junction, type Level } from '@tidytrail/core/level'
import { crossroads } from '@tidytrail/core/testing'
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
  const { pen, words, all } = recordingPen({ ...view, scale })
  const scene = bareScene(level, { chosen: new Set(chosen) })
  for (const painter of junctionView.painters!) allOf(painter.draw(pen, scene))
  return { words: words(), calls: all.length }
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

  it('is not drawn while it is hidden', () => {
    expect(drawn(put(level, { hidden: true }), ['jn_0']).calls).toBe(0)
  })
})
