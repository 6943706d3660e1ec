// @vitest-environment happy-dom
import { crossroads, withStreams } from '@tidytrail/core/testing'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'
import { nextTick } from 'vue'
import { bareScene } from '../../map/bare-scene'
import { recordingPen } from '../../map/recording-pen'
import { allOf } from '../../map/sliced'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { mounted } from '../../testing/mounted'
import { spawnerView } from '.'
import SpawnerCard from './SpawnerCard.vue'
import SpawnerFoot from './SpawnerFoot.vue'
import { spawnWords } from './spawn-words'

let levels: ReturnType<typeof useLevelStore>
beforeEach(() => {
  setActivePinia(createPinia())
  levels = useLevelStore()
})
const text = (host: Element) => host.textContent!.replace(/\s+/g, ' ')
const stream = () => levels.doc.spawners.sp_stream

describe('a stream', () => {
  it('is added onto every lane that nothing leads into, once', async () => {
    levels.level = crossroads()
    const foot = await mounted(SpawnerFoot)
    foot.button('Add a stream of traffic').click()
    await nextTick()
    const [[id, made]] = Object.entries(levels.doc.spawners)
    expect(made.where).toBe('lanes')
    expect(made.laneIds).toHaveLength(4)
    expect(useSheetStore().chosen).toBe(id)
    expect(text(foot.host)).not.toContain('Add a stream')
    foot.end()
  })

  it('says in a sentence how much it brings', () => {
    const level = withStreams(crossroads(), {
      perH: 300,
      hours: [{ fromS: 1800, perH: 900 }],
      headways: 'even',
      untilS: 3600,
    })
    expect(spawnWords(level, level.spawners.sp_stream)).toBe(
      '300 an hour onto each of 4 lanes, 1,200 in all, from 30 min on 900, one after the other evenly, until 60 min 00 s.',
    )
    const none = withStreams(crossroads(), { laneIds: [] })
    expect(spawnWords(none, none.spawners.sp_stream)).toBe('No lane is chosen for it to come onto.')
  })

  it('has lanes taken away and put back, flows by the hour, and lanes it is bound for', async () => {
    levels.level = withStreams(crossroads(), { perH: 300 })
    const card = await mounted(SpawnerCard, { id: 'sp_stream' })
    const list = card.host.querySelector('[aria-label="Lanes it comes onto"]')!
    expect(list.children).toHaveLength(4)
    list.querySelector<HTMLButtonElement>('button[aria-label^="Not onto"]')!.click()
    await nextTick()
    expect(stream().laneIds).toHaveLength(3)
    const back = [...card.host.querySelectorAll('button')].find((b) => b.textContent!.includes('nothing leads into'))!
    back.click()
    await nextTick()
    expect(stream().laneIds).toHaveLength(4)

    card.button('Another flow from a time on').click()
    await nextTick()
    expect(stream().hours).toEqual([{ fromS: 3600, perH: 300 }])
    await card.type('an hour, 1', '450')
    expect(stream().hours).toEqual([{ fromS: 3600, perH: 450 }])

    const bound = card.field('Add where it is bound for')
    const exit = Object.keys(levels.doc.routes).find((id) => !stream().laneIds.includes(id))!
    bound.value = exit
    bound.dispatchEvent(new Event('change'))
    await nextTick()
    expect(stream().bound).toEqual([{ laneId: exit, share: 1 }])
    // What a stream does not use is not asked for.
    expect(card.labels()).not.toContain('follows')
    expect(card.warnings).toEqual([])
    card.end()
  })

  it('is marked at the beginning of each of its lanes', () => {
    const marks = (laneIds?: string[]) => {
      const level = withStreams(crossroads(), laneIds ? { laneIds } : {})
      const { pen, all } = recordingPen({ x: 200, y: 200, scale: 3, width: 900, height: 900 })
      for (const painter of spawnerView.painters!)
        allOf(painter.draw(pen, bareScene(level, { chosen: new Set(['sp_stream']) })))
      return all.length
    }
    expect(marks()).toBeGreaterThan(marks([]))
  })
})
