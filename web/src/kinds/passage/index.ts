import type { Passage } from '@tidytrail/core/level'
import { computed } from 'vue'
import { NEAR_PX } from '../../map/hit'
import type { Layer } from '../../map/layer'
import { circle } from '../../ui/stroke'
import { ORDER } from '../hits'
import { defineView } from '../kind-view'
import { strokeSymbol, useCollection, useRows } from '../plain-register'
import ProfileLook from '../profile/ProfileLook.vue'
import { bowMiddle, drawPassages, drawSuggestions } from './draw'
import { PASSAGE_WORDS, passageTool } from './draw-passage'
import PassageCard from './PassageCard.vue'
import PassageFoot from './PassageFoot.vue'

const layer: Layer = {
  id: 'passages',
  name: 'Passages, a bow from end to end',
  strokes: [
    { d: 'M3 14Q17 -6 31 14', ink: 'plum', width: 1.8 },
    { d: circle(3, 14, 2) + circle(31, 14, 2), ink: 'plum', width: 1.8, fill: 'sheet' },
  ],
}
const ENDS = ['from', 'to'] as const

export const passageView = defineView({
  in: 'passages',
  stage: 'reach',
  layer,
  tone: 'text-plum',
  word: (p) => `${p.kind} passage`,
  card: PassageCard,
  painters: [
    {
      on: 'over',
      order: 20,
      layer: layer.id,
      draw: (pen, { level, chosen, hovered }) => drawPassages(pen, level, chosen, hovered),
    },
    {
      on: 'over',
      order: 21,
      layer: layer.id,
      stage: 'reach',
      draw(pen, { suggestions, hovered }) {
        const over = /^suggestion-(\d+)$/.exec(hovered ?? '')
        drawSuggestions(pen, suggestions, over ? Number(over[1]) : undefined)
      },
    },
  ],
  hits: [
    {
      order: ORDER.bow,
      layer: layer.id,
      finds: 'suggestion',
      find({ suggestions, stage }, at, offer) {
        if (stage !== 'reach') return
        suggestions.forEach((s, index) => {
          const [mx, my] = bowMiddle({ view: at.view }, s.from, s.to)
          const px = Math.hypot(mx - at.sx, my - at.sy)
          if (px < NEAR_PX) offer(px, { kind: 'suggestion', id: `suggestion-${index}`, index })
        })
      },
    },
    {
      order: ORDER.bow,
      layer: layer.id,
      finds: 'passages',
      find({ level }, at, offer) {
        for (const [id, p] of Object.entries(level.passages)) {
          if (p.hidden) continue
          const [mx, my] = bowMiddle({ view: at.view }, p.from, p.to)
          const middle = Math.hypot(mx - at.sx, my - at.sy)
          if (middle < NEAR_PX) offer(middle, { kind: 'thing', in: 'passages', id })
          if (p.locked) continue
          ENDS.forEach((end, handle) => {
            const px = at.off(p[end])
            if (px < NEAR_PX) offer(px, { kind: 'thing', in: 'passages', id, handle })
          })
        }
      },
    },
  ],
  handles: {
    only: true,
    at: (p) => ENDS.map((end) => p[end]),
    drag(p, handle, pointer, { place }) {
      const end = ENDS[handle]
      return { [end]: [...place(pointer.x, pointer.y, { free: true, nearZ: p[end][2] })] }
    },
  },
  register: {
    id: 'passages',
    stage: 'reach',
    name: 'Passages',
    find: 'Find among the passages',
    symbol: strokeSymbol(() => [{ d: 'M2 13Q11 -6 20 13', ink: 'plum', width: 1.8 }]),
    top: ProfileLook,
    foot: PassageFoot,
    use: () => ({
      ...useCollection('passages'),
      rows: useRows('passages', (p: Passage) => ({
        name: p.name || PASSAGE_WORDS[p.kind],
        detail: `${p.kind} · ${p.twoWay ? 'both ways' : 'one way'} · ${p.takesS} s${p.state === 'open' ? '' : ` · ${p.state}`}`,
        size: p.takesS,
      })),
      empty: computed(() => 'No passage yet. Draw one, or have some suggested.'),
    }),
  },
  tools: [passageTool],
  overlook: async () => (await import('./overlook')).part,
})
