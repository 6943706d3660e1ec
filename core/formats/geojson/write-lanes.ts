import { toMillimetre, type Point3 } from '@tidytrail/core/geometry'
import type { Level, Restriction } from '@tidytrail/core/level'
import { laneNet } from '@tidytrail/core/traffic'
import { metresPerRadian } from '../degrees'

/** Digits of a degree: a tenth of a millimetre. */
const DIGITS = 9
const DEGREES = 180 / Math.PI

/**
 * The lanes of a level as GeoJSON (RFC 7946): lanes and the ways between them as lines, junctions as polygons. A level
 * lies nowhere on the earth: its origin is put at no longitude and no latitude.
 * @returns the file, and what of the level is not in it
 */
export function writeLanesGeoJson(level: Level): { text: string; left: string[] } {
  const net = laneNet(level)
  const { east, north } = metresPerRadian(0)
  const degrees = ([x, y, z]: Point3) => [Number(((x / east) * DEGREES).toFixed(DIGITS)), Number(((y / north) * DEGREES).toFixed(DIGITS)), toMillimetre(z)] // prettier-ignore
  const feature = (id: string, type: string, coordinates: unknown, properties: object) => ({
    type: 'Feature',
    id,
    geometry: { type, coordinates },
    properties,
  })
  const whoOf = ({ profileIds, nobody }: Restriction & { nobody?: boolean }) =>
    nobody ? [] : profileIds.map((id) => level.profiles[id]?.name ?? id)
  const lanes = [...net.lanes.values()].map(({ id, route, line, roadId }) =>
    feature(id, 'LineString', line.places.map(degrees), {
      kind: 'lane',
      name: route.name,
      use: route.use,
      road: roadId ? level.roads[roadId].name : null,
      widthM: route.widthM,
      speedLimitMps: route.speedLimitMps,
      onlyFor: whoOf(route),
      noChange: route.noChange,
      halts: route.halts,
      tags: route.tags,
    }),
  )
  const walked = Object.entries(level.routes).flatMap(([id, route]) => {
    if (route.kind !== 'lane' || route.use !== 'walk' || route.order.length < 2) return []
    const places = route.order.map((s) => level.waypoints[route.stops[s].waypointId].at)
    const { name, use, widthM, tags } = route
    return [feature(id, 'LineString', places.map(degrees), { kind: 'lane', name, use, widthM, onlyFor: whoOf(route), tags })] // prettier-ignore
  })
  const ways = [...net.moves.values()]
    .filter((m) => m.line.places.length > 1)
    .map(({ id, from, to, line, share }) =>
      feature(id, 'LineString', line.places.map(degrees), { kind: 'join', from, to, share }),
    )
  const junctions = Object.entries(level.junctions).map(([id, { name, ring, control }]) => {
    const round = [...ring, ring[0]].map(([x, y]) => degrees([x, y, 0]).slice(0, 2))
    return feature(id, 'Polygon', [counterclockwise(round)], { kind: 'junction', name, control })
  })
  const features = [...lanes, ...walked, ...ways, ...junctions]
  return {
    text: `${JSON.stringify({ type: 'FeatureCollection', name: level.name, features }, null, 1)}\n`,
    left: junctions.length > 0 ? ['who goes first at junctions, and signal plans'] : [],
  }
}

/** A ring round what is inside on its left (RFC 7946, 3.1.6). */
function counterclockwise(ring: number[][]): number[][] {
  const area2 = ring.reduce((sum, [x, y], k) => (k === 0 ? 0 : sum + ring[k - 1][0] * y - x * ring[k - 1][1]), 0)
  return area2 < 0 ? ring.reverse() : ring
}
