// @vitest-environment happy-dom
import { blankLevel, readLevel } from '@tidytrail/core/level'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'
import { nextTick } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useLevelStore } from '../../stores/level'
import { mounted } from '../../testing/mounted'
import SneakLineCard from '../sneak-line/SneakLineCard.vue'
import WatchSpotCard from '../watch-spot/WatchSpotCard.vue'
import TrialCard from './TrialCard.vue'

const level = readLevel({
  ...blankLevel('Trials'),
  factions: { fc_a: { name: 'Reds' } },
  watchSpots: { ws_a: { name: 'Door', at: [6, 6, 0], wantedS: 9 } },
  sneakLines: { sl_a: { name: 'Past', points: [[2, 2, 0], [9, 2, 0]] } }, // prettier-ignore
  trials: { tl_a: { kind: 'spot', spotId: 'ws_a', windowS: 6, everyS: 40 }, tl_b: { kind: 'stuck', longestS: 5 } },
})
let insight: ReturnType<typeof useInsightStore>
let levels: ReturnType<typeof useLevelStore>
beforeEach(() => {
  setActivePinia(createPinia())
  levels = useLevelStore()
  levels.level = level
  insight = useInsightStore()
})
const result = (trialId: string, holds: boolean | undefined) => ({
  trialId,
  holds,
  words: 'One waits 50 s for it.',
  momentS: holds === false ? 61 : undefined,
  at: undefined,
  keys: [],
})
const text = (host: HTMLElement) => host.textContent!.replace(/\s+/g, ' ')

describe('the card of a trial', () => {
  it('is its sentence, and shows only the fields that sentence is made of', async () => {
    const card = await mounted(TrialCard, { id: 'tl_a' })
    expect(text(card.host)).toContain('Door has a window of 6 s at least every 40 s.')
    const labels = [...card.host.querySelectorAll('[aria-label]')].map((e) => e.getAttribute('aria-label'))
    expect(labels).toContain('watch spot')
    expect(labels).not.toContain('whom')
    expect(card.warnings).toEqual([])
    card.end()
  })

  it('says whether it holds, and leads to its moment and to what mends it only where it fails', async () => {
    const card = await mounted(TrialCard, { id: 'tl_a' })
    insight.results = new Map([['tl_a', result('tl_a', false)]])
    await nextTick()
    expect(text(card.host)).toContain('It fails.')
    expect(text(card.host)).toContain('Go to 1:01')
    expect(text(card.host)).toContain('Find changes that make it hold')
    insight.results = new Map([['tl_a', result('tl_a', true)]])
    await nextTick()
    expect(text(card.host)).toContain('It holds.')
    expect(text(card.host)).not.toContain('Mend it')
    insight.results = new Map([['tl_a', result('tl_a', undefined)]])
    await nextTick()
    expect(text(card.host)).toContain('It cannot be told.')
    card.end()
  })
})

describe('the card of a watch spot', () => {
  const windows = (longestS: number) => ({
    open: [{ from: 3, to: 3 + longestS }],
    watched: [],
    figures: { count: 1, share: 0.25, shortestS: longestS, longestS, meanS: longestS },
    ofS: 20,
    lookers: 2,
  })
  it('tells its windows, and offers to widen them only where they are too short', async () => {
    const card = await mounted(WatchSpotCard, { id: 'ws_a' })
    expect(text(card.host)).toContain('Rehearse, to see when nobody watches it.')
    insight.spots = { ws_a: windows(5) }
    await nextTick()
    expect(text(card.host)).toContain('0:03 · 5 s')
    expect(text(card.host)).toContain('25.0 %')
    expect(text(card.host)).toContain('Find changes that give it')
    insight.spots = { ws_a: windows(9) }
    await nextTick()
    expect(text(card.host)).toContain('There is one as long as that already.')
    card.end()
  })

  it('says of what was tried in vain what the most is', async () => {
    const card = await mounted(WatchSpotCard, { id: 'ws_a' })
    insight.spots = { ws_a: windows(5) }
    const wish = { in: 'watchSpots', id: 'ws_a', wantedS: 9 } as const
    const most = { longestS: 7, label: 'Pause 30 s longer at Gate of Beat' }
    insight.widening = { wish, progress: { done: 4, total: 4, runs: 9, found: [], most }, done: true }
    await nextTick()
    expect(text(card.host)).toContain('The most is 7 s: Pause 30 s longer at Gate of Beat.')
    card.end()
  })
})

it('the card of a sneak line without a safe way says how far one gets, and who would see the rest', async () => {
  const card = await mounted(SneakLineCard, { id: 'sl_a' })
  const figures = { count: 0, share: 0, shortestS: 0, longestS: 0, meanS: 0 }
  const ends = { m: 3.5, s: 65, at: [5, 2, 0] as const, by: [] }
  insight.lines = {
    sl_a: { lengthM: 7, ofS: 100, lookers: 1, starts: [], figures, best: undefined, earliest: undefined, ends, everyM: 0.5, seen: [] },
  } // prettier-ignore
  await nextTick()
  expect(text(card.host)).toContain('There is no safe way.')
  expect(text(card.host)).toContain('One gets 3.50 m of 7.00 m far, and is there until 1:05')
  card.end()
})
