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

export function reachCost(extent: Settings['extent'], cellM: number): ReachCost {
  const columns = columnsOf({ extent, cellM })
  return {
    columns,
    buildS: columns / COLUMNS_PER_S,
    memoryMB: (columns * BYTES_PER_COLUMN) / 1e6,
    tooMany: columns > LIMITS.columns,
  }
}
