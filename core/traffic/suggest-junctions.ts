import { boxOf, distance2, exact, ringHolds, type Point3 } from '@tidytrail/core/geometry'
import Flatbush from 'flatbush'
import { knownConflicts, type Conflict } from './conflicts'
import { Groups } from './groups'
import { widestOn, type JunctionParts } from './junction'
import { placeAt, type MeasuredLine } from './measured-line'
import type { LaneNet, NetMove } from './net'

/** Ends within this are one place, metres. */
const ONE_PLACE_M = 0.05

/** Where a junction is missing: ways conflict there, and it lies in none. */
export interface JunctionSite {
  /** About all that conflicts, counterclockwise. */
  readonly ring: readonly Point3[]
  /** A place where two ways conflict. */
  readonly at: Point3
  /** The links that lead through it, and lanes that do, by id in order. */
  readonly linkIds: readonly string[]
  readonly laneIds: readonly string[]
}

/** What may conflict: a link, or a lane. */
interface Item {
  readonly id: string
  readonly isLink: boolean
  readonly line: MeasuredLine
  readonly from: string
  readonly to: string
  readonly bodyM: number
  /** The road that lays a lane. */
  readonly roadId?: string
}

/** Lanes that are as near to each other for longer than this lie beside or over each other, and do not cross, metres. */
const LONGEST_CROSSING_M = 40

/**
 * The junctions that are missing: where links conflict, where one comes into the middle of a lane, and where lanes
 * cross, outside of every junction there is.
 */
export function suggestJunctions(level: JunctionParts, net: LaneNet): JunctionSite[] {
  const isIn = outlines(level.junctions)
  const bodyOf = (laneId: string): number => widestOn(level, laneId)
  const items: Item[] = []
  for (const move of net.moves.values()) {
    const { id, linkId, line, from, to } = move
    if (linkId === undefined || liesIn(move, isIn)) continue
    items.push({ id, isLink: true, line, from, to, bodyM: Math.max(bodyOf(from), bodyOf(to)) })
  }
  const links = items.length
  for (const { id, line, roadId } of net.lanes.values())
    items.push({ id, isLink: false, line, from: id, to: id, bodyM: bodyOf(id), ...(roadId && { roadId }) })
  if (items.length < 2) return []
  const together = new Groups(links)
  const box = items.map(({ line, bodyM }) => boxOf(line.places, bodyM / 2))
  const index = new Flatbush(items.length)
  for (const { minX, minY, maxX, maxY } of box) index.add(minX, minY, maxX, maxY)
  index.finish()
  /** Conflicts by the item that comes first; lanes are long, so that they join nothing by themselves. */
  const clashes: { a: number; b: number; on: Conflict }[] = []
  for (let i = 0; i < items.length; i++) {
    const { minX, minY, maxX, maxY } = box[i]
    for (const j of index.search(minX, minY, maxX, maxY).sort((p, q) => p - q)) {
      if (j <= i) continue
      const [a, b] = [items[i], items[j]]
      if (a.isLink && b.isLink && a.from === b.from && distance2(a.line.places[0], b.line.places[0]) < ONE_PLACE_M) {
        together.put(i, j)
        continue
      }
      const on = firstConflict(a, b, isIn)
      if (!on) continue
      if (i < links && j < links) together.put(i, j)
      clashes.push({ a: i, b: j, on })
    }
  }
  // Where only lanes cross, each crossing is a site; those that touch are one.
  const sites = new Map<string, { points: Point3[]; at: Point3; links: Set<string>; lanes: Set<string> }>()
  const siteOf = (key: string, at: Point3) => {
    let site = sites.get(key)
    if (!site) sites.set(key, (site = { points: [], at, links: new Set(), lanes: new Set() }))
    return site
  }
  for (const { a, b, on } of clashes) {
    const link = a < links ? a : b < links ? b : undefined
    const site = siteOf(link === undefined ? `${items[a].id} ${items[b].id}` : `${together.of(link)}`, on.at)
    for (const [k, stretch] of [
      [a, on.a],
      [b, on.b],
    ] as const) {
      const { id, isLink, line, bodyM } = items[k]
      ;(isLink ? site.links : site.lanes).add(id)
      for (const m of [stretch.fromM, (stretch.fromM + stretch.toM) / 2, stretch.toM])
        site.points.push(...around(placeAt(line, m), bodyM / 2))
    }
  }
  items.slice(0, links).forEach(({ id, line, bodyM }, k) => {
    const site = sites.get(`${together.of(k)}`)
    if (!site) return
    site.links.add(id)
    for (const place of line.places) site.points.push(...around(place, Math.max(1, bodyM / 2)))
  })
  return [...sites.values()].map(({ points, at, links: own, lanes }) => ({
    ring: hullOf(points),
    at,
    linkIds: [...own].sort(),
    laneIds: [...lanes].sort(),
  }))
}

const outlinesKnown = new WeakMap<JunctionParts['junctions'], (p: Point3) => boolean>()

/** Tells whether a place is within the outline of a junction. */
function outlines(junctions: JunctionParts['junctions']): (p: Point3) => boolean {
  let isIn = outlinesKnown.get(junctions)
  if (isIn) return isIn
  const rings = Object.values(junctions).map((j) => j.ring)
  if (rings.length === 0) isIn = () => false
  else {
    const index = new Flatbush(rings.length)
    for (const ring of rings) {
      const { minX, minY, maxX, maxY } = boxOf(ring)
      index.add(minX, minY, maxX, maxY)
    }
    index.finish()
    isIn = ([x, y]) => index.search(x, y, x, y).some((k) => ringHolds(rings[k], x, y))
  }
  outlinesKnown.set(junctions, isIn)
  return isIn
}

const lying = new WeakMap<NetMove, { isIn: (p: Point3) => boolean; lies: boolean }>()

/** Does a link have its middle in a junction? Looked up once for both. */
function liesIn(move: NetMove, isIn: (p: Point3) => boolean): boolean {
  let known = lying.get(move)
  if (known?.isIn !== isIn) lying.set(move, (known = { isIn, lies: isIn(placeAt(move.line, move.line.lengthM / 2)) }))
  return known.lies
}

/** The first conflict of two that nothing settles; none where the one is only the way into or out of the other. */
function firstConflict(a: Item, b: Item, isIn: (p: Point3) => boolean): Conflict | undefined {
  // Both ways of a track share its narrows, where those of one wait for the others.
  if (a.roadId !== undefined && a.roadId === b.roadId) return undefined
  const all = knownConflicts(a.line, b.line, (a.bodyM + b.bodyM) / 2)
  return all.find((c) => {
    if (c.kind === 'parting' || isIn(c.at)) return false
    if (a.isLink && !b.isLink) {
      // Out of a lane one comes from behind who is on it; at the end and the beginning of one nobody else is.
      if (a.from === b.id && c.a.fromM < ONE_PLACE_M) return false
      return !(a.to === b.id && c.b.fromM < ONE_PLACE_M)
    }
    if (a.isLink) return true
    // Lanes that end side by side, or go on into one another, do not cross.
    const ends = c.a.toM > a.line.lengthM - ONE_PLACE_M || c.a.fromM < ONE_PLACE_M
    const others = c.b.toM > b.line.lengthM - ONE_PLACE_M || c.b.fromM < ONE_PLACE_M
    return !(ends && others) && c.a.toM - c.a.fromM < LONGEST_CROSSING_M
  })
}

const around = ([x, y, z]: Point3, m: number): Point3[] =>
  Array.from({ length: 8 }, (_, c): Point3 => {
    const rad = (c * Math.PI) / 4
    return [x + m * exact.cos(rad), y + m * exact.sin(rad), z]
  })

/** The convex hull of places, counterclockwise (Andrew 1979). */
function hullOf(places: readonly Point3[]): Point3[] {
  const sorted = [...places].sort((p, q) => p[0] - q[0] || p[1] - q[1])
  const half = (list: readonly Point3[]) => {
    const hull: Point3[] = []
    for (const p of list) {
      while (hull.length > 1) {
        const [a, b] = [hull[hull.length - 2], hull[hull.length - 1]]
        if ((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]) > 1e-9) break
        hull.pop()
      }
      hull.push(p)
    }
    return hull.slice(0, -1)
  }
  return [...half(sorted), ...half(sorted.reverse())]
}
