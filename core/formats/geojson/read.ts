import { exact, ringArea, ringCrossing, type Point2 } from '@tidytrail/core/geometry'
import { assertShallow, LevelError } from '@tidytrail/core/level'
import { metresPerRadian } from '../degrees'
import { FormatError } from '../error'
import { FORMAT_LIMITS } from '../limits'

/** How coordinates become metres: less an offset, or from degrees about an origin. */
export type GeoFrame =
  | { readonly units: 'metres'; readonly offset?: Point2 }
  | { readonly units: 'degrees'; readonly originLon: number; readonly originLat: number }

/** One shape out of a file, in metres. */
export interface GeoFeature {
  readonly shape: 'polygon' | 'line' | 'point'
  readonly name: string
  readonly points: readonly Point2[]
  /** How high each of its places lies, metres, where the file says so of all of them. */
  readonly zs: readonly number[] | undefined
  /** A height the file gives it, metres. */
  readonly heightM: number | undefined
}

export interface GeoRead {
  readonly features: readonly GeoFeature[]
  readonly repairs: readonly string[]
}

/** Radius of the ball Web Mercator draws the earth as, metres (EPSG 3857). */
const BALL_M = 6_378_137

/** Longitude and latitude of a place of Web Mercator, degrees. */
export function fromMercator(x: number, y: number): Point2 {
  const deg = 180 / Math.PI
  return [(x / BALL_M) * deg, (2 * exact.atan(exact.exp(y / BALL_M)) - Math.PI / 2) * deg]
}

/** The system of coordinates an old file names, as it did before there was but one; empty where it names none. */
function crsOf(document: Json): string {
  const crs = isObject(document.crs) && isObject(document.crs.properties) ? document.crs.properties : {}
  const name = crs.name ?? crs.code ?? crs.href ?? ''
  return typeof name === 'string' || typeof name === 'number' ? String(name).slice(0, 80) : ''
}
export const isMercator = (crs: string): boolean => /(^|\D)(3857|900913|102100|102113|3785)$/.test(crs)
const isDegrees = (crs: string) => /CRS:?84$|(^|\D)4326$/i.test(crs)

/** What is wrong with one line or ring, and with nothing else. */
class ShapeFault extends FormatError {}

type Json = Record<string, unknown>
const isObject = (v: unknown): v is Json => typeof v === 'object' && v !== null && !Array.isArray(v)

/**
 * Polygons, lines and points from GeoJSON (RFC 7946), features and bare geometries alike. Degrees are laid flat about
 * the origin with the radii of WGS 84 there; Web Mercator is turned back into degrees first. A line or ring that cannot be used is left out and told of.
 * @throws FormatError naming the feature
 */
export function readGeoJson(text: string, frame: GeoFrame): GeoRead {
  let document: unknown
  try {
    assertShallow(text)
    document = JSON.parse(text)
  } catch (error) {
    if (error instanceof LevelError) throw new FormatError(error.at, error.why)
    throw new FormatError('', 'is not JSON')
  }
  if (!isObject(document) || typeof document.type !== 'string')
    throw new FormatError('', 'is no GeoJSON: it has no type')
  const list =
    document.type === 'FeatureCollection'
      ? document.features
      : [document.type === 'Feature' ? document : { type: 'Feature', geometry: document }]
  if (!Array.isArray(list)) throw new FormatError('features', 'is not a list')
  if (list.length > FORMAT_LIMITS.features)
    throw new FormatError(
      'features',
      `there are ${list.length.toLocaleString('en')}; at most ${FORMAT_LIMITS.features.toLocaleString('en')} are read`,
    )
  const crs = crsOf(document)
  const mercator = frame.units === 'degrees' && isMercator(crs)
  const scale = frame.units === 'degrees' ? metresPerRadian(frame.originLat) : undefined
  let corners = 0
  let firstFault: FormatError | undefined
  const features: GeoFeature[] = []
  const repairs: string[] = []
  if (mercator) repairs.push(`its coordinates are Web Mercator (${crs}); they are turned into true metres`)
  else if (crs && !isDegrees(crs))
    repairs.push(`its coordinates are of ${crs}, and are taken as the ${frame.units} they are`)
  list.forEach((feature: unknown, i) => {
    const properties = isObject(feature) && isObject(feature.properties) ? feature.properties : {}
    const name = typeof properties.name === 'string' ? properties.name.slice(0, 200) : ''
    const at = `feature ${i + 1}${name ? ` “${name.slice(0, 40)}”` : ''}`
    if (!isObject(feature) || feature.type !== 'Feature') throw new FormatError(at, 'is no feature')
    if (feature.geometry === null) {
      repairs.push(`${at} has no geometry and was left out`)
      return
    }
    const said = properties.height
    const height = typeof said === 'number' || typeof said === 'string' ? Number(said) : NaN
    const heightM = height > 0 && height < 10_000 ? height : undefined
    geometry(feature.geometry, at, 0, (shape, points) => {
      const zs = points.map((p) => (p as readonly number[])[2])
      const flat = points.map((p): Point2 => [p[0], p[1]])
      features.push({ shape, name, points: flat, zs: zs.every((z) => z !== undefined) ? zs : undefined, heightM })
    })
  })
  if (features.length === 0) throw firstFault ?? new FormatError('', 'has nothing in it that can be used')
  return { features, repairs }

  function geometry(
    g: unknown,
    at: string,
    depth: number,
    take: (shape: GeoFeature['shape'], points: Point2[]) => void,
  ): void {
    if (!isObject(g)) throw new FormatError(at, 'its geometry is no object')
    const parts = (v: unknown, what: string): unknown[] => {
      if (!Array.isArray(v)) throw new FormatError(at, `${what} is not a list`)
      return v
    }
    switch (g.type) {
      case 'Point':
        return take('point', [place(g.coordinates, at)])
      case 'MultiPoint':
        return parts(g.coordinates, 'its coordinates').forEach((p) => take('point', [place(p, at)]))
      case 'LineString':
        return sound(at, () => take('line', line(g.coordinates, at)))
      case 'MultiLineString':
        return parts(g.coordinates, 'its coordinates').forEach((l) => sound(at, () => take('line', line(l, at))))
      case 'Polygon':
        return sound(at, () => take('polygon', polygon(g.coordinates, at)))
      case 'MultiPolygon':
        return parts(g.coordinates, 'its coordinates').forEach((p) => sound(at, () => take('polygon', polygon(p, at))))
      case 'GeometryCollection':
        if (depth > 4) throw new FormatError(at, 'holds collections within collections too deep')
        return parts(g.geometries, 'its geometries').forEach((inner) => geometry(inner, at, depth + 1, take))
      default:
        throw new FormatError(
          at,
          typeof g.type === 'string' ? `“${g.type.slice(0, 30)}” is no kind of geometry` : 'its geometry has no type',
        )
    }
  }

  /** Takes one line or ring; a bad one is left out and told of, and the others are taken. */
  function sound(at: string, takeOne: () => void): void {
    try {
      takeOne()
    } catch (error) {
      if (!(error instanceof ShapeFault)) throw error
      firstFault ??= error
      repairs.push(`${at} was left out: ${error.why}`)
    }
  }

  function place(v: unknown, at: string): Point2 {
    if (!Array.isArray(v) || v.length < 2 || typeof v[0] !== 'number' || typeof v[1] !== 'number')
      throw new FormatError(
        at,
        v === undefined ? 'a position is missing' : `${JSON.stringify(v).slice(0, 40)} is no position of two numbers`,
      )
    let [x, y] = v as [number, number]
    if (mercator) [x, y] = fromMercator(x, y)
    if (frame.units === 'degrees') {
      if (Math.abs(x) > 180 || Math.abs(y) > 90)
        throw new FormatError(at, `${x}, ${y} is no longitude and latitude; is it in metres?`)
      const rad = Math.PI / 180
      x = scale!.east * (x - frame.originLon) * rad
      y = scale!.north * (y - frame.originLat) * rad
    } else if (frame.offset) {
      x -= frame.offset[0]
      y -= frame.offset[1]
    }
    if (
      !Number.isFinite(x) ||
      !Number.isFinite(y) ||
      Math.abs(x) > FORMAT_LIMITS.coordinateM ||
      Math.abs(y) > FORMAT_LIMITS.coordinateM
    ) {
      const hint = frame.units === 'degrees' ? 'is the origin right?' : 'is it in metres, and the offset right?'
      throw new FormatError(
        at,
        `a corner lies at ${x.toPrecision(6)}, ${y.toPrecision(6)} m: more than 100 km away; ${hint}`,
      )
    }
    const flat: Point2 = [Math.round(x * 1000) / 1000, Math.round(y * 1000) / 1000]
    const z: unknown = v[2]
    if (typeof z !== 'number' || !(Math.abs(z) < FORMAT_LIMITS.coordinateM)) return flat
    return [...flat, Math.round(z * 1000) / 1000] as unknown as Point2
  }

  function line(v: unknown, at: string): Point2[] {
    if (!Array.isArray(v)) throw new FormatError(at, 'its coordinates are not a list')
    if (v.length > FORMAT_LIMITS.corners)
      throw new FormatError(
        at,
        `has ${v.length.toLocaleString('en')} corners; at most ${FORMAT_LIMITS.corners.toLocaleString('en')} are read`,
      )
    corners += v.length
    if (corners > FORMAT_LIMITS.cornersInAll)
      throw new FormatError(
        at,
        `goes beyond ${FORMAT_LIMITS.cornersInAll.toLocaleString('en')} corners, the most that are read from one file`,
      )
    const points = v.map((p) => place(p, at))
    const kept = points.filter((p, k) => k === 0 || p[0] !== points[k - 1][0] || p[1] !== points[k - 1][1])
    if (kept.length < points.length) repairs.push(`${at}: ${points.length - kept.length} repeated corners left out`)
    if (kept.length < 2) throw new ShapeFault(at, 'a line needs two different places')
    return kept
  }

  function polygon(v: unknown, at: string): Point2[] {
    if (!Array.isArray(v) || v.length === 0) throw new ShapeFault(at, 'a polygon needs a ring')
    const ring = line(v[0], at)
    const first = ring[0]
    const last = ring[ring.length - 1]
    if (ring.length > 1 && first[0] === last[0] && first[1] === last[1]) ring.pop()
    else repairs.push(`${at}: its ring was open and has been closed`)
    if (ring.length < 3) throw new ShapeFault(at, 'a ring needs three different corners')
    const crossing = ringCrossing(ring)
    if (crossing)
      throw new ShapeFault(at, `its ring crosses itself near ${crossing[0].toFixed(1)}, ${crossing[1].toFixed(1)} m`)
    if (Math.abs(ringArea(ring)) < 1e-6) throw new ShapeFault(at, 'its ring encloses nothing')
    if (v.length > 1)
      repairs.push(
        `${at}: ${v.length - 1} ${v.length === 2 ? 'hole' : 'holes'} filled, since a solid or cover has none`,
      )
    return ring
  }
}
