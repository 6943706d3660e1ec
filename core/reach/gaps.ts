import type { Point3 } from '@tidytrail/core/geometry'
import Flatbush from 'flatbush'
import type { ReachMap } from './map'
import { DIR_X, DIR_Y, NONE, TILE } from './tile'

/** The floors along the edge of the reach: where an island ends. */
export interface Rim {
  readonly x: Float64Array
  readonly y: Float64Array
  readonly z: Float64Array
  readonly island: Int32Array
  readonly index: Flatbush | undefined
}

const rims = new WeakMap<ReachMap, { version: number; rim: Rim }>()

/** The rim of every island, worked out once for each state of the map. */
export function rimOf(map: ReachMap): Rim {
  const known = rims.get(map)
  if (known?.version === map.version) return known.rim
  const x: number[] = []
  const y: number[] = []
  const z: number[] = []
  const island: number[] = []
  map.tiles.forEach((tile, k) => {
    const base = map.islands.partBase[k]
    for (let column = 0; column < TILE * TILE; column++) {
      const i = column % TILE
      const j = (column - i) / TILE
      for (let f = tile.start[column]; f < tile.start[column + 1]; f++) {
        if (!tile.reach[f]) continue
        let edge = false
        for (let d = 0; d < 4 && !edge; d++) {
          const link = tile.links[f * 4 + d]
          if (link === NONE) edge = true
          else {
            const ni = i + DIR_X[d]
            const nj = j + DIR_Y[d]
            // Beyond the tile's rim the outline's own seams tell; there the islands are the same on both sides.
            if (ni < 0 || nj < 0 || ni >= TILE || nj >= TILE) continue
            edge = tile.reach[tile.start[nj * TILE + ni] + link] === 0
          }
        }
        if (!edge) continue
        const at = map.placeOn({ tile: k, column, floor: f })
        x.push(at[0])
        y.push(at[1])
        z.push(at[2])
        island.push(map.islands.ofPart[base + tile.part[f]])
      }
    }
  })
  let index: Flatbush | undefined
  if (x.length > 0) {
    index = new Flatbush(x.length)
    for (let n = 0; n < x.length; n++) index.add(x[n], y[n], x[n], y[n])
    index.finish()
  }
  const rim = {
    x: Float64Array.from(x),
    y: Float64Array.from(y),
    z: Float64Array.from(z),
    island: Int32Array.from(island),
    index,
  }
  rims.set(map, { version: map.version, rim })
  return rim
}

/** Where two islands come nearest to each other. */
export interface IslandGap {
  readonly from: number
  readonly to: number
  readonly fromAt: Point3
  readonly toAt: Point3
  /** Distance over the map, and height gained from the first to the second, metres. */
  readonly widthM: number
  readonly riseM: number
}

/** Nearer neighbours looked at for each place: the nearest on the map need not be the nearest in height. */
const LOOKED_AT = 6

/** Of gaps about equally narrow the one nearest to a place is taken: a metre off weighs as much as so many metres of gap. */
const OFF_WEIGHS = 0.02

/**
 * The narrowest gap between one island and another, or any other; undefined when there is no other.
 * @param near where of several about as narrow it is wanted
 */
export function nearestGap(map: ReachMap, from: number, to = -1, near?: Point3): IslandGap | undefined {
  // Searched from the smaller of the two: it has less of a rim.
  if (to >= 0 && from < to) {
    const back = searchGap(map, to, from, near)
    return back && { ...back, from, to, fromAt: back.toAt, toAt: back.fromAt, riseM: -back.riseM }
  }
  return searchGap(map, from, to, near)
}

function searchGap(map: ReachMap, from: number, to: number, near?: Point3): IslandGap | undefined {
  const rim = rimOf(map)
  if (!rim.index) return undefined
  let best: IslandGap | undefined
  let bestM = Infinity
  const wanted = (n: number) => (to >= 0 ? rim.island[n] === to : rim.island[n] !== from)
  for (let n = 0; n < rim.x.length; n++) {
    if (rim.island[n] !== from) continue
    for (const m of rim.index.neighbors(rim.x[n], rim.y[n], LOOKED_AT, bestM, wanted)) {
      const dx = rim.x[m] - rim.x[n]
      const dy = rim.y[m] - rim.y[n]
      const dz = rim.z[m] - rim.z[n]
      const off = near ? Math.sqrt((rim.x[n] - near[0]) ** 2 + (rim.y[n] - near[1]) ** 2) : 0
      const far = Math.sqrt(dx * dx + dy * dy + dz * dz) + OFF_WEIGHS * off
      if (far >= bestM) continue
      bestM = far
      best = {
        from,
        to: rim.island[m],
        fromAt: [rim.x[n], rim.y[n], rim.z[n]],
        toAt: [rim.x[m], rim.y[m], rim.z[m]],
        widthM: Math.sqrt(dx * dx + dy * dy),
        riseM: dz,
      }
    }
  }
  return best
}
