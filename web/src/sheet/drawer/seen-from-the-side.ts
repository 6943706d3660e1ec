import type { Level } from '@tidytrail/core/level'

/** The route whose side view is shown: that of the first thing chosen that is, or is a stop of, one that is travelled. */
export function seenFromTheSide(level: Level, selected: readonly string[]): string | undefined {
  for (const id of selected) {
    const routeId = level.routes[id] ? id : Object.keys(level.routes).find((r) => level.routes[r].stops[id])
    if (routeId && level.routes[routeId].kind !== 'network') return routeId
  }
  return undefined
}
