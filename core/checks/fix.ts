import {
  addAndSet,
  addLinks,
  addNetworkNodes,
  addStop,
  addThing,
  assignRoute,
  changeStops,
  changeThings,
  closeAtStart,
  cutLinks,
  dropNode,
  joinRoutes,
  mergeWaypoints,
  movePlaces,
  orderStops,
  removeStops,
  removeThings,
  reverseRoute,
  reverseRoutes,
  separateWaypoint,
  setThings,
  swapStops,
  type EditResult,
  type Level,
} from '@tidytrail/core/level'

/** The edits a fix may be made of, by the name it is known by in files and messages. */
const FIX_EDITS = {
  addAndSet,
  addLinks,
  addNetworkNodes,
  addStop,
  addThing,
  assignRoute,
  changeStops,
  changeThings,
  closeAtStart,
  cutLinks,
  dropNode,
  joinRoutes,
  mergeWaypoints,
  movePlaces,
  orderStops,
  removeStops,
  removeThings,
  reverseRoute,
  reverseRoutes,
  separateWaypoint,
  setThings,
  swapStops,
} as const

type FixOf<N extends keyof typeof FIX_EDITS> = {
  /** What the button says. */
  readonly label: string
  readonly edit: N
  readonly args: Parameters<(typeof FIX_EDITS)[N]['apply']>[1]
}

/** An ordinary edit that mends a finding, as plain data. */
export type Fix = { [N in keyof typeof FIX_EDITS]: FixOf<N> }[keyof typeof FIX_EDITS]

/** The level with a fix applied, with the patches to keep and to undo it. */
export function applyFix(level: Level, fix: Fix): EditResult {
  const edit = FIX_EDITS[fix.edit] as { apply: (level: Level, args: unknown) => EditResult }
  return edit.apply(level, fix.args)
}
