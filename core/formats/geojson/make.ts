import type { Point2 } from '@tidytrail/core/geometry'
import {
  coverSchema,
  markerSchema,
  reachAreaSchema,
  routeSchema,
  solidSchema,
  spawnerSchema,
  waypointSchema,
  type Collection,
  type IdKind,
  type RouteKind,
} from '@tidytrail/core/level'
import type { GeoFeature } from './read'

/** What the shapes of a file become. */
export interface GeoMapping {
  readonly polygons: 'solids' | 'covers' | 'reachAreas' | 'nothing'
  readonly lines: 'routes' | 'lanes' | 'walls' | 'nothing'
  /** Stops are those of one route, in the order of the file; nodes those of one network, not yet linked. */
  readonly points: 'markers' | 'stops' | 'nodes' | 'spawners' | 'nothing'
  /** Whom spawners send. */
  readonly profileId: string | null
  /** Are the heights of the file taken, where it has them, instead of what is on the ground? */
  readonly useHeights: boolean
  /** For solids and walls without a height of their own, metres. */
  readonly heightM: number
  /** Thickness of walls made of lines, metres. */
  readonly wallM: number
  readonly coverKind: string
  /** Where the covers lie among those of the level: the first of them; each further one lies over the one before. */
  readonly coverRank: number
  readonly shift: Point2
}

/** A lane is driven along as it is drawn. */
const DRAWN = { legs: 'drawn', curve: 'smooth' } as const

/** A thing to be added: its collection, id and value. */
export interface NewThing {
  readonly in: Collection
  readonly id: string
  readonly thing: unknown
}

/**
 * The things a file's shapes become, ready to be added to a level.
 * @param zAt height of the ground at a place, for waypoints and the feet of solids
 */
export function makeFromGeo(
  features: readonly GeoFeature[],
  mapping: GeoMapping,
  newId: (kind: IdKind) => string,
  zAt: (x: number, y: number) => number,
): NewThing[] {
  const things: NewThing[] = []
  const { shift } = mapping
  const moved = (f: GeoFeature) => f.points.map(([x, y]): [number, number] => [x + shift[0], y + shift[1]])
  let unnamed = 0
  let rank = mapping.coverRank
  const called = (f: GeoFeature, word: string) => f.name || `${word} ${++unnamed}`
  const at = (f: GeoFeature, k: number): [number, number, number] => {
    const [x, y] = [f.points[k][0] + shift[0], f.points[k][1] + shift[1]]
    return [x, y, mapping.useHeights && f.zs ? f.zs[k] : zAt(x, y)]
  }
  const stops: { at: [number, number, number]; name: string }[] = []
  for (const feature of features) {
    const points = moved(feature)
    if (feature.shape === 'point') {
      const place = at(feature, 0)
      if (mapping.points === 'markers') {
        const thing = markerSchema.parse({ name: called(feature, 'Place'), at: place })
        things.push({ in: 'markers', id: newId('markers'), thing })
      } else if (mapping.points === 'spawners') {
        const thing = spawnerSchema.parse({ name: called(feature, 'Spawner'), at: place, profileId: mapping.profileId })
        things.push({ in: 'spawners', id: newId('spawners'), thing })
      } else if (mapping.points === 'stops' || mapping.points === 'nodes') stops.push({ at: place, name: feature.name })
      continue
    }
    if (feature.shape === 'polygon') {
      if (mapping.polygons === 'solids') things.push(prism(points, called(feature, 'Block'), feature.heightM))
      else if (mapping.polygons === 'covers') {
        const name = called(feature, 'Cover')
        const thing = coverSchema.parse({ name, kind: mapping.coverKind, ring: points, rank: rank++ })
        things.push({ in: 'covers', id: newId('covers'), thing })
      } else if (mapping.polygons === 'reachAreas') {
        const thing = reachAreaSchema.parse({ name: called(feature, 'Area'), ring: points, profileIds: [] })
        things.push({ in: 'reachAreas', id: newId('reachAreas'), thing })
      }
    } else if (feature.shape === 'line') {
      if (mapping.lines === 'routes' || mapping.lines === 'lanes')
        route(
          points.map((_, k) => ({ at: at(feature, k), name: '' })),
          called(feature, mapping.lines === 'lanes' ? 'Lane' : 'Route'),
          mapping.lines === 'lanes' ? 'lane' : 'patrol',
        )
      else if (mapping.lines === 'walls') {
        for (let k = 1; k < points.length; k++) {
          const ring = wall(points[k - 1], points[k], mapping.wallM)
          things.push(prism(ring, called(feature, 'Wall'), feature.heightM))
        }
      }
    }
  }
  if (stops.length > 0) {
    if (mapping.points === 'nodes') route(stops, 'Imported network', 'network')
    else route(stops, 'Imported places')
  }
  return things

  function prism(ring: [number, number][], name: string, heightM = mapping.heightM): NewThing {
    const baseM = Math.min(...ring.map(([x, y]) => zAt(x, y)))
    const thing = solidSchema.parse({ shape: 'prism', name, ring, baseM: Math.round(baseM * 1000) / 1000, heightM })
    return { in: 'solids', id: newId('solids'), thing }
  }

  function route(
    places: readonly { at: [number, number, number]; name: string }[],
    name: string,
    kind: RouteKind = 'patrol',
  ): void {
    const stops: Record<string, unknown> = {}
    const first = places[0].at
    const last = places[places.length - 1].at
    const round = kind !== 'network' && places.length > 3 && first[0] === last[0] && first[1] === last[1]
    for (const place of round ? places.slice(0, -1) : places) {
      const waypointId = newId('waypoints')
      things.push({ in: 'waypoints', id: waypointId, thing: waypointSchema.parse(place) })
      stops[newId('stops')] = { waypointId }
    }
    const thing = routeSchema.parse({
      name,
      kind,
      stops,
      order: Object.keys(stops),
      travel: round ? 'round' : 'one-way',
      ...(kind === 'lane' && DRAWN),
    })
    things.push({ in: 'routes', id: newId('routes'), thing })
  }
}

function wall(a: Point2, b: Point2, thickM: number): [number, number][] {
  const dx = b[0] - a[0]
  const dy = b[1] - a[1]
  const k = thickM / 2 / (Math.sqrt(dx * dx + dy * dy) || 1)
  const [nx, ny] = [-dy * k, dx * k]
  return [
    [a[0] - nx, a[1] - ny],
    [b[0] - nx, b[1] - ny],
    [b[0] + nx, b[1] + ny],
    [a[0] + nx, a[1] + ny],
  ]
}
