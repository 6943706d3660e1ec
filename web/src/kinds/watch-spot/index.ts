import type { SpotWindows } from '@tidytrail/core/insight'
import type { WatchSpot } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useRehearsalStore } from '../../stores/rehearsal'
import { seconds } from '../../ui/figures'
import { defineView } from '../kind-view'
import { strokeSymbol, useCollection, useRows } from '../plain-register'
import type { Register } from '../register'
import { drawSpot, type SpotState } from './draw'
import { WINDOWS_LAYER } from './layer'
import { spotTool } from './place-spot'
import WatchSpotCard from './WatchSpotCard.vue'

/** What is known of a watch spot or a sneak line, in a few words. */
export const windowWords = (longestS: number | undefined, wantedS: number): string =>
  longestS === undefined ? `wants ${seconds(wantedS)}` : longestS <= 0 ? 'no window' : `longest ${seconds(longestS)}`

export const markOf = (longestS: number | undefined, wantedS: number) =>
  longestS === undefined
    ? undefined
    : longestS >= wantedS
      ? ({ text: 'open', tone: 'good' } as const)
      : ({ text: 'too short', tone: 'bad' } as const)

/** How it stands with a spot at a time, seconds; undefined where it is not known. */
export function stateAt(of: SpotWindows | undefined, t: number): SpotState {
  if (!of || t > of.ofS) return undefined
  const span = of.open.find((s) => t >= s.from && t < s.to)
  return { watched: span === undefined, leftS: span ? span.to - t : 0 }
}

const register: Register = {
  id: 'watchSpots',
  stage: 'rehearse',
  name: 'Watch spots',
  find: 'Find a watch spot',
  symbol: strokeSymbol(() => [WINDOWS_LAYER.strokes[0]], 18, 18),
  use() {
    const insight = useInsightStore()
    return {
      ...useCollection('watchSpots'),
      rows: useRows<WatchSpot>('watchSpots', (spot, id) => {
        const longestS = insight.spotOf(id)?.figures.longestS
        return {
          detail: windowWords(longestS, spot.wantedS),
          size: longestS ?? 0,
          mark: markOf(longestS, spot.wantedS),
        }
      }),
      empty: computed(
        () => 'A watch spot is a place of which you want to know when nobody watches it. Place one with I.',
      ),
    }
  },
}

export const watchSpotView = defineView({
  in: 'watchSpots',
  stage: 'rehearse',
  layer: WINDOWS_LAYER,
  tone: 'text-lake',
  card: WatchSpotCard,
  painters: [
    {
      // With what moves: an eye that is open or shut at the moment looked at.
      on: 'top',
      order: 72,
      stage: 'rehearse',
      layer: WINDOWS_LAYER.id,
      draw(pen, { level, chosen }) {
        const [insight, rehearsal] = [useInsightStore(), useRehearsalStore()]
        for (const [id, spot] of Object.entries(level.watchSpots))
          if (!spot.hidden) drawSpot(pen, spot.at, spot.name, chosen.has(id), stateAt(insight.spotOf(id), rehearsal.t))
      },
    },
  ],
  register,
  tools: [spotTool],
})
