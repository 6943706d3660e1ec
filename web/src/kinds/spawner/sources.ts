import type { LaneNet } from '@tidytrail/core/traffic'

/** Lanes that nothing leads into, by id: where traffic comes from outside. */
export const sourcesOf = (net: LaneNet): string[] =>
  [...net.lanes.values()].filter((lane) => !lane.closed && !net.into.has(lane.id)).map((lane) => lane.id)
