import { NEAR_PX, type HitTest } from './hit'
import { signsOf } from './signs'
import { toScreenX, toScreenY } from './viewport'

/** Marks of findings stand so far beside their place, and are hit so far from their middle, pixels. */
const BESIDE_PX = 13
const FINDING_PX = 10
const MORE_PX = 14

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
      for (const { at, members } of signsOf(findings, view.scale)) {
        const dx = sx - toScreenX(view, at[0]) - BESIDE_PX
        const dy = sy - toScreenY(view, at[1]) + BESIDE_PX
        // A sign of several has a tab at its right.
        if (Math.hypot(members.length > 1 ? Math.max(0, dx - MORE_PX, -dx) : dx, dy) >= FINDING_PX) continue
        const all = members.map((m) => findings[m])
        return offer(0, { kind: 'finding', id: all[0].subjects[0], findings: all })
      }
    },
  },
]
