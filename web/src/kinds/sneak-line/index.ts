import { distanceToSegment, lengthOf, toMillimetre } from '@tidytrail/core/geometry'
import type { SneakLine } from '@tidytrail/core/level'
import { computed } from 'vue'
import { LEG_PX, type HitTest } from '../../map/hit'
import { useInsightStore } from '../../stores/insight'
import { useRehearsalStore } from '../../stores/rehearsal'
import { metres } from '../../ui/figures'
import { ORDER } from '../hits'
import { defineView } from '../kind-view'
import { strokeSymbol, useCollection, useRows } from '../plain-register'
import type { Register } from '../register'
import { markOf, windowWords } from '../watch-spot'
import { WINDOWS_LAYER } from '../watch-spot/layer'
import { drawPlan, drawSneakLine } from './draw'
import { sneakTool } from './draw-line'
import SneakLineCard from './SneakLineCard.vue'

/** Found by its line. */
const onLine: HitTest = {
  order: ORDER.line,
  layer: WINDOWS_LAYER.id,
  finds: 'sneakLines',
  find(scene, at, offer) {
    if (scene.stage !== 'rehearse') return
    for (const [id, line] of Object.entries(scene.level.sneakLines)) {
      if (line.hidden) continue
      const { points } = line
      for (let k = 1; k < points.length; k++) {
        const px =
          distanceToSegment(at.x, at.y, points[k - 1][0], points[k - 1][1], points[k][0], points[k][1]) * at.view.scale
        if (px < LEG_PX) offer(px, { kind: 'thing', in: 'sneakLines', id })
      }
    }
  },
}

const register: Register = {
  id: 'sneakLines',
  stage: 'rehearse',
  name: 'Sneak lines',
  find: 'Find a sneak line',
  symbol: strokeSymbol(() => [{ d: 'M2 13l6-8 9 4', ink: 'plum', width: 1.6, dash: '1 3' }], 20, 17),
  use() {
    const insight = useInsightStore()
    return {
      ...useCollection('sneakLines'),
      rows: useRows<SneakLine>('sneakLines', (line, id) => {
        const longestS = insight.lineOf(id)?.figures.longestS
        return {
          detail: `${metres(lengthOf(line.points))} · ${windowWords(longestS, line.wantedS)}`,
          size: lengthOf(line.points),
          mark: markOf(longestS, line.wantedS),
        }
      }),
      empty: computed(() => 'A sneak line is the way a player would take unseen. Draw one with U.'),
    }
  },
}

export const sneakLineView = defineView<'sneakLines'>({
  in: 'sneakLines',
  stage: 'rehearse',
  layer: WINDOWS_LAYER,
  tone: 'text-plum',
  card: SneakLineCard,
  painters: [
    {
      on: 'top',
      order: 71,
      stage: 'rehearse',
      layer: WINDOWS_LAYER.id,
      draw(pen, { level, chosen }) {
        const [insight, rehearsal] = [useInsightStore(), useRehearsalStore()]
        for (const [id, line] of Object.entries(level.sneakLines)) {
          if (line.hidden) continue
          drawSneakLine(pen, line, chosen.has(id), line.name)
          const best = insight.lineOf(id)?.best
          if (best && chosen.has(id)) drawPlan(pen, line, best, rehearsal.t)
        }
      },
    },
  ],
  hits: [onLine],
  handles: {
    at: (line) => line.points,
    drag: (line, handle, p) => ({
      points: line.points.map((q, k) => (k === handle ? (p.at.map(toMillimetre) as [number, number, number]) : q)),
    }),
  },
  register,
  tools: [sneakTool],
})
