import { computed, type ComputedRef } from 'vue'
import { pageColours, type PageColours } from './page-colours'
import { useTheme } from './theme'

/** The page's colours for charts, which are drawn on a canvas; others by night. */
export function useChartInks(): ComputedRef<PageColours> {
  const { night } = useTheme()
  return computed(() => {
    void night.value
    return pageColours()
  })
}

export const CHART_FONT = "'Atkinson Hyperlegible', sans-serif"

/** What all axes have in common: thin rules, figures in faded ink. */
export const axisLook = (inks: PageColours) => ({
  axisLine: { lineStyle: { color: inks.faded } },
  axisTick: { lineStyle: { color: inks.faded } },
  axisLabel: { color: inks.faded, fontFamily: CHART_FONT, fontSize: 11 },
  splitLine: { lineStyle: { color: inks.rule } },
})

/** Tips are drawn on the canvas as well: the page lets nobody write styles into it. */
export const tipLook = (inks: PageColours) => ({
  renderMode: 'richText' as const,
  backgroundColor: inks.sheet,
  borderColor: inks.rule,
  textStyle: { color: inks.ink, fontFamily: CHART_FONT, fontSize: 12 },
})

/** Seconds between the figures of a time axis: full minutes, or parts of one. */
export const tickS = (lengthS: number): number =>
  [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1200].find((s) => lengthS / s <= 9) ?? 3600
