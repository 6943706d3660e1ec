import { columnWidthFor } from './source'
import { columnsOf, LIMITS, type Settings } from '@tidytrail/core/level'

/** Columns built a second and bytes kept a column, as measured by the benchmarks on two ordinary cores. */
const COLUMNS_PER_S = 1_100_000
const BYTES_PER_COLUMN = 26

/** What a column width costs, before anyone chooses it. */
export interface ReachCost {
  readonly columns: number
  /** Time to build it all for each profile, seconds. */
  readonly buildS: number
  /** Memory for each profile, megabytes. */
  readonly memoryMB: number
  readonly tooMany: boolean
}

/** @param radiusM of the body: slim ones have narrower columns than the level's */
export function reachCost(extent: Settings['extent'], cellM: number, radiusM = Infinity): ReachCost {
  const columns = columnsOf({ extent, cellM: Math.min(cellM, columnWidthFor(radiusM, cellM, extent)) })
  return {
    columns,
    buildS: columns / COLUMNS_PER_S,
    memoryMB: (columns * BYTES_PER_COLUMN) / 1e6,
    tooMany: columnsOf({ extent, cellM }) > LIMITS.columns,
  }
}
