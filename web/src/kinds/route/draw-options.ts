import type { RouteKind } from '@tidytrail/core/level'
import { reactive } from 'vue'

/** What the drawing tools are set to; kept while the page is open. */
export const drawing = reactive({
  kind: 'patrol' as Exclude<RouteKind, 'network'>,
  /** What a drag draws: as few stops as follow it, or one every so far. */
  drag: 'freehand' as 'freehand' | 'spaced',
  toleranceM: 1,
  spacingM: 5,
  /** Put stops into the middle between the edges on both sides. */
  middle: false,
})

/** Which way links lead: as fits is one way at the forks of lanes and circuits, and both ways elsewhere. */
export const linking = reactive({ ways: 'fitting' as 'fitting' | 'both' | 'one' })

export const KIND_WORDS: Record<RouteKind, string> = {
  patrol: 'Patrol',
  lane: 'Lane',
  circuit: 'Circuit',
  mission: 'Mission',
  network: 'Network',
}
