import { NEAR_PX, type HitTest } from './hit'
import { toScreenX, toScreenY } from './viewport'

/** Marks of findings stand so far beside their place, and are hit so far from their middle, pixels. */
const BESIDE_PX = 13
const FINDING_PX = 10

/** What can be pointed at that is not a kind of thing. */
export const BASE_HITS: readonly HitTest[] = [
  {
    order: 10,
    layer: 'agents',
    finds: 'agent',
    find({ agents }, at, offer) {
      for (const a of agents) {
        const px = at.off([a.x, a.y])
        if (px < NEAR_PX) offer(px, { kind: 'agent', id: a.id })
      }
    },
  },
  {
    order: 20,
    layer: 'findings',
    finds: 'finding',
    find({ findings }, { view, sx, sy }, offer) {
      for (const finding of findings) {
        const [x, y] = finding.at
        const px = Math.hypot(toScreenX(view, x) + BESIDE_PX - sx, toScreenY(view, y) - BESIDE_PX - sy)
        if (px < FINDING_PX) return offer(0, { kind: 'finding', id: finding.subjects[0], finding })
      }
    },
  },
]
