import { exact, toMillimetre, type Point3 } from '@tidytrail/core/geometry'
import {
  freshName,
  laneOffsets,
  middleLine,
  routeSchema,
  waypointSchema,
  type Collection,
  type Level,
} from '@tidytrail/core/level'
import { directionAt, measured, placeAt } from './measured-line'

/** How wide a crossing is laid, and how far beyond the last lane it begins where there is no pavement, metres. */
const WIDTH_M = 3
const BEYOND_M = 1.2

/** What a crossing over a road is made of: a lane for walking across it, from the middle of one pavement to that of the other. */
export interface CrossingIds {
  readonly laneId: string
  readonly fromId: string
  readonly toId: string
}

/** A crossing square over a road, so far along its middle. @throws nothing: a place beyond an end of the road is held to it */
export function crossingOver(
  level: Level,
  roadId: string,
  m: number,
  ids: CrossingIds,
): { in: Collection; id: string; thing: unknown }[] {
  const road = level.roads[roadId]
  const line = measured(middleLine(road))
  const at = Math.min(line.lengthM, Math.max(0, m))
  const [x, y, z] = placeAt(line, at)
  const rad = directionAt(line, Math.max(1e-6, at))
  const offsets = laneOffsets(road, level.settings.drivesOn)
  const beyond = (side: 1 | -1): number => {
    const pavement = offsets.find(({ key }) => key === (side === 1 ? 'pl' : 'pr'))
    if (pavement) return pavement.m
    return side * (Math.max(0, ...offsets.map((o) => side * o.m + o.widthM / 2)) + BEYOND_M)
  }
  const place = (side: 1 | -1): Point3 => {
    const aside = beyond(side)
    return [toMillimetre(x - exact.sin(rad) * aside), toMillimetre(y + exact.cos(rad) * aside), toMillimetre(z)]
  }
  const tail = ids.laneId.slice(ids.laneId.indexOf('_') + 1).slice(0, 31)
  const [a, b] = [`st_${tail}a`, `st_${tail}b`]
  const lane = routeSchema.parse({
    name: freshName(level.routes, `${road.name} crossing`),
    kind: 'lane',
    use: 'walk',
    travel: 'there-and-back',
    legs: 'drawn',
    widthM: WIDTH_M,
    stops: { [a]: { waypointId: ids.fromId }, [b]: { waypointId: ids.toId } },
    order: [a, b],
  })
  return [
    { in: 'waypoints', id: ids.fromId, thing: waypointSchema.parse({ at: place(1) }) },
    { in: 'waypoints', id: ids.toId, thing: waypointSchema.parse({ at: place(-1) }) },
    { in: 'routes', id: ids.laneId, thing: lane },
  ]
}
