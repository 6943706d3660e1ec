import { boxOf, exact, ringHolds, type Point3 } from '@tidytrail/core/geometry'
import Flatbush from 'flatbush'
import { conflictsOf } from './conflicts'
import { widestOn, type JunctionParts } from './junction'
import { placeAt } from './measured-line'
import type { LaneNet } from './net'

/** Bodies of ways nearer than this may touch, metres. */
const NEAR_M = 2

/** Outlines of the junctions there could be: where ways conflict that lie in none yet, grown to where each conflict begins. */
export function suggestJunctions(level: JunctionParts, net: LaneNet): Point3[][] {
  const rings = Object.values(level.junctions).map((j) => j.ring)
  const isIn = (p: Point3) => rings.some((ring) => ringHolds(ring, p[0], p[1]))
  const moves = [...net.moves.values()].filter(
    (m) => m.linkId !== undefined && !isIn(placeAt(m.line, m.line.lengthM / 2)),
  )
  const parent = moves.map((_, k) => k)
  const root = (k: number): number => (parent[k] === k ? k : (parent[k] = root(parent[k])))
  const box = moves.map(({ line }) => boxOf(line.places, NEAR_M))
  const clashes = new Set<number>()
  if (moves.length === 0) return []
  const index = new Flatbush(moves.length)
  for (const { minX, minY, maxX, maxY } of box) index.add(minX, minY, maxX, maxY)
  index.finish()
  for (let i = 0; i < moves.length; i++)
    for (const j of index.search(box[i].minX, box[i].minY, box[i].maxX, box[i].maxY).sort((p, q) => p - q)) {
      if (j <= i) continue
      if (moves[i].from === moves[j].from && moves[i].fromM === moves[j].fromM) {
        parent[root(j)] = root(i)
        continue
      }
      const apartM = (widestOn(level, moves[i].from) + widestOn(level, moves[j].from)) / 2
      if (!conflictsOf(moves[i].line, moves[j].line, apartM).some((c) => c.kind !== 'parting')) continue
      parent[root(j)] = root(i)
      clashes.add(i)
      clashes.add(j)
    }
  const clusters = new Map<number, Point3[]>()
  const clashing = new Set<number>([...clashes].map(root))
  moves.forEach(({ line, widthM }, k) => {
    if (!clashing.has(root(k))) return
    const list = clusters.get(root(k)) ?? []
    for (const [x, y, z] of line.places)
      for (let c = 0; c < 8; c++) {
        const rad = (c * Math.PI) / 4
        const m = Math.max(1, widthM / 2)
        list.push([x + m * exact.cos(rad), y + m * exact.sin(rad), z])
      }
    clusters.set(root(k), list)
  })
  return [...clusters.values()].map(hullOf)
}

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
