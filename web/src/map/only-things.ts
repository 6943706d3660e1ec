import { COLLECTIONS, type Level } from '@tidytrail/core/level'

/** Collections others are drawn by, and that are not drawn themselves: nothing of them is left out. */
const DRAWN_BY = new Set(['profiles', 'factions', 'briefs', 'squads'])

/** A level with only some of its things, and the waypoints those lie on, to draw no more than them. */
export function onlyThings(level: Level, wanted: readonly string[]): Level {
  const some: Record<string, Record<string, unknown>> = {}
  for (const collection of COLLECTIONS) {
    if (DRAWN_BY.has(collection)) continue
    const things: Record<string, unknown> = {}
    for (const id of wanted) {
      const thing = level[collection][id]
      if (thing) things[id] = thing
    }
    some[collection] = things
  }
  const only = { ...level, ...some } as Level
  const on = [
    ...Object.values(only.routes).flatMap((r) => r.order.map((s) => r.stops[s].waypointId)),
    ...Object.values(only.links).flatMap((l) => [l.fromId, l.toId]),
  ]
  for (const id of on) some.waypoints[id] = level.waypoints[id]
  return only
}
