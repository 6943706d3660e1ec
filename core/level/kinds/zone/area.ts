import {
  boxOf,
  distanceToLine,
  distanceToSegment,
  exact,
  ringHolds,
  type Box2,
  type Point2,
} from '@tidytrail/core/geometry'

/** The stretch of ground a zone covers: metres. */
export interface Area {
  readonly box: Box2
  /** Does it cover a place, and is a floor at that height meant? Without a height all floors are. */
  holds(x: number, y: number, z?: number): boolean
  /** How far a place is from its edge, metres. */
  edgeM(x: number, y: number): number
  /** A place in its midst that stands for it. */
  readonly middle: Point2
}

interface Told {
  readonly shape: 'polygon' | 'circle' | 'band'
  readonly ring: readonly Point2[]
  readonly routeId: string | null
  readonly widthM: number
  readonly fromM: number | null
  readonly toM: number | null
}
interface Around {
  readonly routes: Readonly<
    Record<
      string,
      { order: readonly string[]; stops: Readonly<Record<string, { waypointId: string }>>; travel: string }
    >
  >
  readonly waypoints: Readonly<Record<string, { at: readonly [number, number, number] }>>
}

/** The ground a zone covers; undefined when it covers none, such as a band along no route. */
export function areaOf({ routes, waypoints }: Around, zone: Told): Area | undefined {
  const { fromM, toM, ring } = zone
  const meant = (z: number | undefined) => z === undefined || (z >= (fromM ?? -Infinity) && z <= (toM ?? Infinity))
  if (zone.shape === 'polygon') {
    const box = boxOf(ring)
    return {
      box,
      holds: (x, y, z) => meant(z) && ringHolds(ring, x, y),
      edgeM: (x, y) => distanceToLine([...ring, ring[0]], x, y),
      middle: [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2],
    }
  }
  if (zone.shape === 'circle') {
    const [[cx, cy], [px, py]] = ring
    const r = exact.hypot(px - cx, py - cy)
    return {
      box: { minX: cx - r, minY: cy - r, maxX: cx + r, maxY: cy + r },
      holds: (x, y, z) => meant(z) && (x - cx) ** 2 + (y - cy) ** 2 <= r * r,
      edgeM: (x, y) => Math.abs(exact.hypot(x - cx, y - cy) - r),
      middle: [cx, cy],
    }
  }
  const route = routes[zone.routeId ?? '']
  if (!route || route.order.length < 2) return undefined
  const line = route.order.map((s) => waypoints[route.stops[s].waypointId].at)
  if (route.travel === 'round') line.push(line[0])
  const half = zone.widthM / 2
  const far = (x: number, y: number) => {
    let best = Infinity
    for (let k = 1; k < line.length; k++)
      best = Math.min(best, distanceToSegment(x, y, line[k - 1][0], line[k - 1][1], line[k][0], line[k][1]))
    return best
  }
  return {
    box: boxOf(line, half),
    holds: (x, y, z) => meant(z) && far(x, y) <= half,
    edgeM: (x, y) => Math.abs(far(x, y) - half),
    middle: [line[line.length >> 1][0], line[line.length >> 1][1]],
  }
}
