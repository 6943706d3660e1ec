import { toMillimetre, type Point2 } from '@tidytrail/core/geometry'
import type { Street, StreetMap } from '@tidytrail/core/traffic'
import { metresPerRadian } from '../degrees'
import { FormatError } from '../error'
import { FORMAT_LIMITS } from '../limits'
import { lineOf, readXml, type XmlTag } from '../xml'

/** Ways of these kinds are driven along; how many lanes they have where nothing is said, both ways together. */
const DRIVEN: Readonly<Record<string, number>> = {
  motorway: 2,
  motorway_link: 1,
  trunk: 2,
  trunk_link: 1,
  primary: 2,
  primary_link: 1,
  secondary: 2,
  secondary_link: 1,
  tertiary: 2,
  tertiary_link: 1,
  unclassified: 2,
  residential: 2,
  living_street: 2,
  service: 2,
  road: 2,
}
/** One that is only driven one way where nothing else is said. */
const ONE_WAY = new Set(['motorway', 'motorway_link'])
const MPH = 0.44704
const KMH = 1 / 3.6
/** Where a way says only that one walks there, metres a second. */
const WALK_MPS = 2
const MOST_LANES = 6
const PAVEMENT_M = 2

interface RawWay {
  readonly tag: XmlTag
  readonly nodes: string[]
  readonly tags: Map<string, string>
}

/**
 * The streets of an OpenStreetMap XML file (API 0.6): ways one drives along, cut where they meet, with their lanes, speed
 * limits, names and pavements; roundabouts; and where signals stand. Metres about the middle of what it holds.
 * @throws FormatError with the line
 */
export function readOsm(text: string): StreetMap {
  const nodes = new Map<string, { lon: number; lat: number; signal: boolean }>()
  const ways: RawWay[] = []
  let way: RawWay | undefined
  let node: { signal: boolean } | undefined
  let root = ''
  readXml(
    text,
    (tag, depth) => {
      const { name, attributes: a } = tag
      if (depth === 1) {
        root = name
        if (name !== 'osm') throw new FormatError(lineOf(tag), `begins with <${name}>, and is no OpenStreetMap file`)
      }
      if (name === 'node') {
        const [lon, lat] = [Number(a.lon), Number(a.lat)]
        if (a.id === undefined) throw new FormatError(lineOf(tag), 'a node has no id')
        // What was deleted has no place any more.
        if (a.visible === 'false') return
        if (!(Math.abs(lon) <= 180) || !(Math.abs(lat) <= 90))
          throw new FormatError(lineOf(tag), `node ${a.id} lies at no longitude and latitude`)
        if (nodes.size >= FORMAT_LIMITS.cornersInAll)
          throw new FormatError(lineOf(tag), `has more than ${FORMAT_LIMITS.cornersInAll.toLocaleString('en')} nodes`)
        node = { lon, lat, signal: false } as never
        nodes.set(a.id, node as never)
      } else if (name === 'way') {
        if (way) throw new FormatError(lineOf(tag), 'a way lies within another')
        way = { tag, nodes: [], tags: new Map() }
      } else if (name === 'nd' && way) way.nodes.push(a.ref ?? '')
      else if (name === 'tag' && way) way.tags.set(a.k ?? '', a.v ?? '')
      else if (name === 'tag' && node && a.k === 'highway' && a.v === 'traffic_signals') node.signal = true
    },
    (name) => {
      if (name === 'node') node = undefined
      if (name !== 'way') return
      const kind = way!.tags.get('highway') ?? ''
      if (kind in DRIVEN && way!.tags.get('area') !== 'yes') ways.push(way!)
      if (ways.length > FORMAT_LIMITS.features)
        throw new FormatError(lineOf(way!.tag), `has more than ${FORMAT_LIMITS.features.toLocaleString('en')} ways`)
      way = undefined
    },
  )
  if (!root) throw new FormatError('', 'has nothing in it')
  if (ways.length === 0) throw new FormatError('', 'has no way in it that is driven along')
  return streetsOf(ways, nodes)
}

function streetsOf(
  ways: readonly RawWay[],
  nodes: ReadonlyMap<string, { lon: number; lat: number; signal: boolean }>,
): StreetMap {
  const repairs: string[] = []
  const used = new Map<string, number>()
  const kept = ways.map(({ tag, nodes: ids, tags }) => {
    const there = ids.filter((id, k) => nodes.has(id) && id !== ids[k - 1])
    const gone = ids.filter((id) => !nodes.has(id)).length
    if (gone > 0)
      repairs.push(`${lineOf(tag)}: ${gone} of its nodes are not in the file; the way is drawn without them`)
    for (const id of there) used.set(id, (used.get(id) ?? 0) + 1)
    return { tag, ids: there, tags }
  })
  const lons = [...used.keys()].map((id) => nodes.get(id)!.lon)
  const lats = [...used.keys()].map((id) => nodes.get(id)!.lat)
  const middle = (of: readonly number[]) => of.reduce((a, b) => [Math.min(a[0], b), Math.max(a[1], b)], [Infinity, -Infinity]) // prettier-ignore
  const [west, east] = middle(lons)
  const [south, north] = middle(lats)
  const at = { lon: (west + east) / 2, lat: (south + north) / 2 }
  const { east: perLon, north: perLat } = metresPerRadian(at.lat)
  const rad = Math.PI / 180
  const placeOf = (id: string): Point2 => {
    const { lon, lat } = nodes.get(id)!
    return [toMillimetre((lon - at.lon) * rad * perLon), toMillimetre((lat - at.lat) * rad * perLat)]
  }
  const streets: Street[] = []
  const rings: StreetMap['rings'][number][] = []
  for (const { tag, ids, tags } of kept) {
    if (ids.length < 2) {
      repairs.push(`${lineOf(tag)}: a way of fewer than two nodes was left out`)
      continue
    }
    const name = (tags.get('name') ?? tags.get('ref') ?? '').slice(0, 200)
    if (tags.get('junction') === 'roundabout' && ids[0] === ids[ids.length - 1]) {
      rings.push({ name, points: ids.slice(0, -1).map(placeOf), keys: ids.slice(0, -1), lanes: lanesOf(tags, true).ahead }) // prettier-ignore
      continue
    }
    const lanes = lanesOf(tags, tags.get('junction') === 'roundabout')
    const order = lanes.turned ? [...ids].reverse() : ids
    const sidewalk = tags.get('sidewalk') ?? ''
    const both = sidewalk === 'both' || tags.get('sidewalk:both') === 'yes'
    const side = (which: 'left' | 'right') =>
      both || sidewalk === which || tags.get(`sidewalk:${which}`) === 'yes' ? PAVEMENT_M : 0
    const [left, right] = lanes.turned ? [side('right'), side('left')] : [side('left'), side('right')]
    // Cut wherever another way, or the way itself, comes along.
    let from = 0
    for (let k = 1; k < order.length; k++) {
      if (k < order.length - 1 && used.get(order[k])! < 2) continue
      const part = order.slice(from, k + 1)
      from = k
      streets.push({
        name,
        points: part.map(placeOf),
        startKey: part[0],
        endKey: part[part.length - 1],
        ahead: lanes.ahead,
        back: lanes.back,
        speedLimitMps: speedOf(tags.get('maxspeed')),
        pavementLeftM: left,
        pavementRightM: right,
      })
    }
  }
  const signals = [...used.keys()].filter((id) => nodes.get(id)!.signal).map(placeOf)
  return { streets, rings, signals, repairs, wide: [(east - west) * rad * perLon, (north - south) * rad * perLat] } // prettier-ignore
}

/** How many lanes lead each way; `turned` where it is driven against the order of its nodes. */
function lanesOf(tags: ReadonlyMap<string, string>, round: boolean): { ahead: number; back: number; turned: boolean } {
  const whole = (key: string): number | undefined => {
    const n = Math.round(Number(tags.get(key)))
    return n >= 1 ? Math.min(MOST_LANES, n) : undefined
  }
  const kind = tags.get('highway') ?? ''
  const said = tags.get('oneway') ?? ''
  const turned = said === '-1' || said === 'reverse'
  const oneWay = turned || said === 'yes' || said === 'true' || said === '1' || round || (ONE_WAY.has(kind) && said !== 'no') // prettier-ignore
  const all = whole('lanes') ?? DRIVEN[kind] ?? 2
  if (oneWay) return { ahead: whole('lanes') ?? Math.max(1, Math.floor(all / 2)), back: 0, turned }
  const ahead = whole('lanes:forward') ?? Math.max(1, Math.ceil(all / 2))
  const back = whole('lanes:backward') ?? Math.max(1, all - ahead)
  return { ahead, back, turned }
}

/** A speed limit as it is written, metres a second: kilometres an hour, unless it says miles. */
function speedOf(said: string | undefined): number | null {
  if (said === undefined) return null
  if (said.trim() === 'walk') return WALK_MPS
  const found = /^\s*(\d+(?:\.\d+)?)\s*(mph|km\/h|kmh|)\s*$/.exec(said)
  if (!found || Number(found[1]) <= 0) return null
  return Math.round(Number(found[1]) * (found[2] === 'mph' ? MPH : KMH) * 100) / 100
}
