import type { Finding } from '@tidytrail/core/checks'
import type { Collection } from '@tidytrail/core/level'
import type { MapScene } from './scene'
import { toLevelX, toLevelY, toScreenX, toScreenY, type Viewport } from './viewport'

/** What lies under the pointer: a thing, or what is shown of one or beside things. */
export type Hit =
  | { kind: 'thing'; in: Collection; id: string; /** One of its handles. */ handle?: number }
  | { kind: 'stop'; id: string; routeId: string; waypointId: string }
  | { kind: 'leg'; id: string; leg: number }
  | { kind: 'link'; id: string }
  | { kind: 'agent'; id: string }
  | { kind: 'finding'; id: string; /** All its sign stands for. */ findings: readonly Finding[] }
  | { kind: 'suggestion'; id: string; index: number }

/** What is looked for: a kind of hit, or things of a collection. */
export type HitKind = Exclude<Hit['kind'], 'thing'> | Collection

/** How near the pointer must come to a place, and to a line or an outline, pixels. */
export const NEAR_PX = 12
export const LEG_PX = 7

/** Where the pointer is, on the window and in the level. */
export interface HitPlace {
  readonly view: Viewport
  readonly sx: number
  readonly sy: number
  readonly x: number
  readonly y: number
  /** How far a place of the level is from the pointer, pixels. */
  off(at: readonly number[]): number
}

/** Something found under the pointer, and how far from it, pixels. */
export type Offer = (px: number, hit: Hit) => void

/** A way to find what is under the pointer. */
export interface HitTest {
  /** Tests of a lower number win; among those of the same the nearest. */
  readonly order: number
  /** The layer that must be shown. */
  readonly layer?: string
  readonly finds: HitKind
  find(scene: MapScene, at: HitPlace, offer: Offer): void
}

export const kindOfHit = (hit: Hit): HitKind => (hit.kind === 'thing' ? hit.in : hit.kind)

export function hitPlace(view: Viewport, sx: number, sy: number): HitPlace {
  return {
    view,
    sx,
    sy,
    x: toLevelX(view, sx),
    y: toLevelY(view, sy),
    off: (at) => Math.hypot(toScreenX(view, at[0]) - sx, toScreenY(view, at[1]) - sy),
  }
}

/** The thing under a window place: small things before large ones, what is chosen before what is not. */
export function hitAt(
  tests: readonly HitTest[],
  scene: MapScene,
  view: Viewport,
  sx: number,
  sy: number,
  kinds?: readonly HitKind[],
): Hit | undefined {
  const at = hitPlace(view, sx, sy)
  let best: Hit | undefined
  let bestPx = Infinity
  let order = -Infinity
  for (const test of tests) {
    if (best && test.order > order) break
    order = test.order
    if (kinds && !kinds.includes(test.finds)) continue
    if (test.layer && !scene.isShown(test.layer)) continue
    test.find(scene, at, (px, hit) => {
      if (px >= bestPx) return
      bestPx = px
      best = hit
    })
  }
  return best
}
