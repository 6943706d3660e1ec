import { simplifyLine } from '@tidytrail/core/geometry'
import { away, awayFromLines, heldLines } from './free'
import type { ReachSource } from './source'
import { DIR_X, DIR_Y, NONE, STANDS, TILE, TILE_SHIFT, type Tile, type TileOutline } from './tile'

/** The same where the edge is exact, metres, and how often a place is set to the radius from the line nearest to it. */
const EXACT_M = 0.01
const SETTINGS = 4

/** How far a drawn edge may lie from the columns' true edge, in columns: about what a slanted line needs. */
const SMOOTHING = 0.6

type Cut = Omit<Tile, 'outline'>

/** One closed walk along the edge of a part, with the reach on the left. */
interface Walk {
  /** Flat x, y of the far end of each side, in columns from the tile's corner. */
  xy: number[]
  /** 1 where the side lies on the tile's rim and the reach goes on beyond it. */
  seam: number[]
  /** The floor each side belongs to, and its column. */
  floor: number[]
  column: number[]
}

/**
 * The edge of the reach in a tile: rings to fill, lines to ink, and the corners a shortest path may bend at.
 * @param onward for each floor and direction on the rim: 1 when the reach goes on into the next tile
 */
export function traceOutline(tile: Cut, onward: Uint8Array, source: ReachSource): TileOutline {
  const { start, links, reach } = tile
  const { cellM, extent } = source
  const leastMm = source.radiusM * 1000 - 0.5
  const seen = new Uint8Array(reach.length * 4)
  const rings: TileOutline['rings'][number][] = []
  const edges: Float32Array[] = []
  const corners = { floor: [] as number[], column: [] as number[], wedge: [] as number[], vertex: [] as number[] }
  const toX = (x: number) => extent.minX + (tile.i0 + x) * cellM
  const toY = (y: number) => extent.minY + (tile.j0 + y) * cellM

  /** The reached floor next door inside the tile, or −1. */
  const next = (f: number, column: number, d: number): number => {
    const link = links[f * 4 + d]
    if (link === NONE) return -1
    const i = (column % TILE) + DIR_X[d]
    const j = Math.floor(column / TILE) + DIR_Y[d]
    if (i < 0 || j < 0 || i >= TILE || j >= TILE) return -1
    const g = start[j * TILE + i] + link
    return reach[g] ? g : -1
  }
  const step = (column: number, d: number) => column + DIR_X[d] + DIR_Y[d] * TILE

  const walkFrom = (f0: number, c0: number, d0: number): Walk => {
    const walk: Walk = { xy: [], seam: [], floor: [], column: [] }
    let f = f0
    let c = c0
    let d = d0
    do {
      seen[f * 4 + d] = 1
      const walkFloor = f
      const walkColumn = c
      let bends = -1
      const i = c % TILE
      const j = (c - i) / TILE
      // The far end of side d when going round the column anticlockwise.
      walk.xy.push(i + (d === 0 || d === 3 ? 1 : 0), j + (d === 0 || d === 1 ? 1 : 0))
      walk.seam.push(onward[f * 4 + d])
      // Round the vertex at the side's far end, from column to column, until one has no way on: that is the next side.
      // One turn is a left bend, two straight on, three right round an obstacle, four back along a wall's other face.
      let ahead = (d + 1) % 4
      let elbow = f
      let elbowColumn = c
      for (let turns = 0; ; turns++) {
        const g = next(f, c, ahead)
        if (g < 0) break
        f = g
        c = step(c, ahead)
        if (turns === 0) {
          elbow = f
          elbowColumn = c
        }
        ahead = (ahead + 3) % 4
        bends = turns
      }
      const right = bends > 0
      walk.floor.push(right ? elbow : walkFloor)
      walk.column.push(right ? elbowColumn : walkColumn)
      d = ahead
    } while (!(f === f0 && d === d0))
    return walk
  }

  for (let column = 0; column < TILE * TILE; column++) {
    for (let f = start[column]; f < start[column + 1]; f++) {
      if (!reach[f]) continue
      for (let d = 0; d < 4; d++) {
        if (seen[f * 4 + d]) continue
        // The same as next(f, column, d) >= 0, without the call: most sides are inner ones.
        const link = links[f * 4 + d]
        if (link !== NONE) {
          const i = (column & (TILE - 1)) + DIR_X[d]
          const j = (column >> TILE_SHIFT) + DIR_Y[d]
          if (((i | j) & ~(TILE - 1)) === 0 && reach[start[(j << TILE_SHIFT) + i] + link]) continue
        }
        const walk = walkFrom(f, column, d)
        takeWalk(walk, { part: tile.part[f], z: tile.z[f] })
      }
    }
  }

  function takeWalk(walk: Walk, of: { part: number; z: number }): void {
    const n = walk.seam.length
    // Begin at a change between rim and real edge, so that no run of either wraps round the end of the list.
    let first = 0
    while (first < n && walk.seam[first] === walk.seam[(first + n - 1) % n]) first++
    const closed = first === n
    if (closed) first = 0
    const ring: number[] = []
    const run: number[] = []
    const at = (k: number) => (first + k) % n
    for (let k = 0; k <= n; k++) {
      const changes = k === n || (k > 0 && walk.seam[at(k)] !== walk.seam[at(k - 1)])
      if (changes) {
        // A run of sides starts at the far end of the side before it.
        takeRun(walk, run, closed, ring)
        run.length = 0
      }
      if (k < n) run.push(at(k))
    }
    if (ring.length >= 6) {
      const xy = new Float32Array(ring.length)
      for (let k = 0; k < ring.length; k += 2) {
        xy[k] = toX(ring[k])
        xy[k + 1] = toY(ring[k + 1])
      }
      rings.push({ part: of.part, z: of.z, xy })
    }
  }

  /** Where the far end of a side belongs when what ends the reach there is exact, in columns; undefined otherwise. */
  function settled(walk: Walk, side: number): [number, number] | undefined {
    const n = heldLines(source, tile, walk.floor[side])
    if (n === 0) return undefined
    const x0 = toX(walk.xy[2 * side])
    const y0 = toY(walk.xy[2 * side + 1])
    let x = x0
    let y = y0
    for (let k = 0; k < SETTINGS; k++) {
      const m = awayFromLines(n, x, y)
      // What lies farther off does not end the reach here; what is too near does, whichever it was at first.
      if (k === 0 ? Math.abs(m - source.radiusM) > 1.5 * cellM : m >= source.radiusM - 1e-4) break
      if (m < 1e-9) return undefined
      x = away[0] + ((x - away[0]) / m) * source.radiusM
      y = away[1] + ((y - away[1]) / m) * source.radiusM
    }
    if (x === x0 && y === y0) return undefined
    return [(x - extent.minX) / cellM - tile.i0, (y - extent.minY) / cellM - tile.j0]
  }

  /** Thins a line, more where it is known by columns than where it is exact. @returns the places kept */
  function thinned(xy: readonly number[], exact: readonly boolean[], closed: boolean): number[] {
    const last = exact.length - 1
    const kept: number[] = [0]
    let from = 0
    for (let k = 1; k <= last; k++) {
      if (k < last && exact[k] === exact[k + 1]) continue
      const part = xy.slice(2 * from, 2 * k + 2)
      const tolerance = exact[k] ? EXACT_M / cellM : SMOOTHING
      const list = closed && from === 0 && k === last ? simplifyClosed(part, tolerance) : simplifyLine(part, tolerance)
      for (let q = 1; q < list.length; q++) kept.push(from + list[q])
      from = k
    }
    return kept
  }

  function takeRun(walk: Walk, run: readonly number[], closed: boolean, ring: number[]): void {
    const n = walk.seam.length
    const before = (run[0] + n - 1) % n
    const sides = [before, ...run]
    const exact: boolean[] = []
    const xy = sides.flatMap((k) => {
      const place = tile.held.index.length > 0 ? settled(walk, k) : undefined
      exact.push(place !== undefined)
      return place ?? [walk.xy[2 * k], walk.xy[2 * k + 1]]
    })
    const kept = thinned(xy, exact, closed)
    for (let q = 1; q < kept.length; q++) ring.push(xy[2 * kept[q]], xy[2 * kept[q] + 1])
    if (walk.seam[run[0]]) return
    const line = new Float32Array(kept.length * 2)
    for (let q = 0; q < kept.length; q++) {
      line[2 * q] = toX(xy[2 * kept[q]])
      line[2 * q + 1] = toY(xy[2 * kept[q] + 1])
    }
    edges.push(line)
    const direction = (q: number, r: number): [number, number] => {
      const x = xy[2 * kept[r]] - xy[2 * kept[q]]
      const y = xy[2 * kept[r] + 1] - xy[2 * kept[q] + 1]
      const length = Math.sqrt(x * x + y * y) || 1
      return [x / length, y / length]
    }
    const last = kept.length - 1
    for (let q = closed ? 1 : 0; q <= last; q++) {
      const side = sides[kept[q]]
      if (!closed && (q === 0 || q === last)) {
        addCorner(walk, side, q === 0 ? [0, 0] : direction(q - 1, q), q === 0 ? direction(0, 1) : [0, 0])
        continue
      }
      const into = direction(q - 1, q)
      const out = q === last ? direction(0, 1) : direction(q, q + 1)
      if (into[0] * out[1] - into[1] * out[0] < 0) addCorner(walk, side, into, out)
    }
  }

  /** Does the reach end here because of what is known by columns only? What is exact has corners of its own. */
  function endsByColumns(column: number): boolean {
    const i = column % TILE
    const j = (column - i) / TILE
    for (let nj = Math.max(0, j - 1); nj <= Math.min(TILE - 1, j + 1); nj++) {
      for (let ni = Math.max(0, i - 1); ni <= Math.min(TILE - 1, i + 1); ni++) {
        for (let f = start[nj * TILE + ni]; f < start[nj * TILE + ni + 1]; f++) {
          if (tile.stand[f] === STANDS && tile.clearMm[f] < leastMm) return true
        }
      }
    }
    return false
  }

  function addCorner(walk: Walk, side: number, into: [number, number], out: [number, number]): void {
    if (!endsByColumns(walk.column[side])) return
    corners.floor.push(walk.floor[side])
    corners.column.push(walk.column[side])
    corners.wedge.push(...into, ...out)
    corners.vertex.push(tile.i0 + walk.xy[2 * side], tile.j0 + walk.xy[2 * side + 1])
  }

  return {
    rings,
    edges,
    corners: {
      count: corners.floor.length,
      floor: Uint16Array.from(corners.floor),
      column: Uint16Array.from(corners.column),
      wedge: Float32Array.from(corners.wedge),
      vertex: Int32Array.from(corners.vertex),
    },
  }
}

/** Thins a closed line whose last point equals its first: split at the point farthest from the start. */
function simplifyClosed(xy: readonly number[], tolerance: number): number[] {
  const last = xy.length / 2 - 1
  let far = 0
  let best = -1
  for (let k = 1; k < last; k++) {
    const d = (xy[2 * k] - xy[0]) ** 2 + (xy[2 * k + 1] - xy[1]) ** 2
    if (d > best) {
      best = d
      far = k
    }
  }
  const head = simplifyLine(xy.slice(0, 2 * far + 2), tolerance)
  const tail = simplifyLine(xy.slice(2 * far), tolerance)
  return [...head, ...tail.slice(1).map((k) => k + far)]
}
