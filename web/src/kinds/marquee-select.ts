/** What lies within a marquee. */
import { ringHolds, type Point2 } from '@tidytrail/core/geometry'
import { standsOnFloor } from '@tidytrail/core/ground'
import { pointsIn, type AnyThing, type Collection, type Level } from '@tidytrail/core/level'
import type { KindView } from './kind-view'
import { VIEWS } from './list'

/**
 * The things that lie within a ring: stops, and waypoints of no route; things by all of their places. What does
 * not stand on floors is taken on its own stage alone. What is hidden or locked stays out.
 */
export function marqueeSelect(
  level: Level,
  ring: readonly Point2[],
  stage: string,
  isShown: (layer: string) => boolean,
): string[] {
  const holds = (at: readonly number[]) => ringHolds(ring, at[0], at[1])
  const ids: string[] = []
  const used = new Set<string>()
  for (const route of Object.values(level.routes)) {
    for (const stopId of route.order) {
      const { waypointId } = route.stops[stopId]
      used.add(waypointId)
      if (isShown('routes') && !route.hidden && !route.locked && holds(level.waypoints[waypointId].at)) ids.push(stopId)
    }
  }
  for (const view of VIEWS) {
    if (!isShown(view.layer.id) || !isTaken(view, stage)) continue
    for (const [id, t] of Object.entries(level[view.in])) {
      const thing = t as AnyThing
      if (thing.hidden || thing.locked || (view.in === 'waypoints' && used.has(id))) continue
      const points = pointsIn(view.in as Collection, t)
      if (points.length > 0 && points.every(holds)) ids.push(id)
    }
  }
  return ids
}

const isTaken = (view: KindView, stage: string) => standsOnFloor(view.in) || view.stage === stage

/** All that the register of a stage lists and that is neither hidden nor locked. */
export function thingsOfStage(level: Level, stage: string, isShown: (layer: string) => boolean): string[] {
  return VIEWS.filter((view) => view.stage === stage && isShown(view.layer.id)).flatMap((view) =>
    Object.entries(level[view.in]).flatMap(([id, t]) =>
      (t as AnyThing).hidden || (t as AnyThing).locked || pointsIn(view.in as Collection, t).length === 0 ? [] : [id],
    ),
  )
}
