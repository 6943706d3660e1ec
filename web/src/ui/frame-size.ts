import { useWindowSize } from '@vueuse/core'
import { computed } from 'vue'

/**
 * How much room the window gives the frame of the sheet, pixels of the page (a window of 1280 × 800
 * zoomed to 200 % has 640 × 400 of them).
 * - wide: panels stand beside the map, and the head has a button for everything.
 * - narrow: panels stand beside the map; what is seldom needed is in a menu.
 * - small: the map has the window; one panel at a time is brought up over it.
 */
export type FrameSize = 'wide' | 'narrow' | 'small'

export const frameSize = (width: number, height: number): FrameSize =>
  width < 900 || height < 520 ? 'small' : width < 1240 ? 'narrow' : 'wide'

export function useFrameSize() {
  const { width, height } = useWindowSize()
  return computed(() => frameSize(width.value, height.value))
}
