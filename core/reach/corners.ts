import { growBox, mergeBoxes, type Box2 } from '@tidytrail/core/geometry'
import type { ReachMap, Spot } from './map'
import type { StraightWalker } from './sight'
import type { Tile } from './tile'

/** Sine of the angle a bend may be off from wrapping its obstacle where outlines are known only to a column. */
const LOOSE = 0.35
/** The same where they are exact. */
const TIGHT = 0.06
/** Sine of the bend from which on an outline cut by a tile's rim counts as a corner there. */
const BEND = 0.05
/** In levels with more corners than this, corners farther apart than the reach below are not joined directly. */
const FEW = 1500
const JOINED_M = 150
/** Outlines that meet at a vertex belong together when their floors are no farther apart in height, metres. */
const SAME_FLOOR_M = 0.8

/** The corners of one tile. */
interface Block {
  readonly tile: Tile
  readonly count: number
  readonly x: Float64Array
  readonly y: Float64Array
  readonly spots: readonly Spot[]
  readonly wedge: Float32Array
  /** Corners from this one on belong to exact lines. */
  readonly exactFrom: number
  /** Which corners each one sees, where that has been worked out, and for which version of the map. */
  readonly known: (Int32Array | undefined)[]
  readonly knownAt: Int32Array
}

/** What one version of the map changed: the tiles whose corners were dealt anew, and the boxes sight may differ in. */
interface Change {
  readonly version: number
  readonly tiles: ReadonlySet<number>
  readonly boxes: readonly Box2[]
}

/** So many changes are remembered; what was worked out before them is worked out afresh. */
const MOST_CHANGES = 32

/**
 * The places shortest paths bend at, and which of them see each other. Only pairs that a taut string could join are
 * kept, as in a reduced visibility graph (Oh and Leong 2017). What a corner sees is worked out when first asked for.
 * After a change only lines of sight through the rebuilt tiles are walked again.
 */
export class CornerGraph {
  private readonly blocks: (Block | undefined)[] = []
  private version = -1
  /** Room for corners in each tile, as a power of two; an id is the tile's number shifted by it, plus a place. */
  private shift = 6
  private total = 0
  private changes: Change[] = []
  /** How far corners were joined when what is known was worked out. */
  private joinedM = 0

  constructor(
    private readonly map: ReachMap,
    private readonly walker: StraightWalker,
  ) {}

  /** Takes in what changed in the map. @returns true when ids have been dealt out anew */
  sync(): boolean {
    const { map, blocks } = this
    if (this.version === map.version) return false
    this.version = map.version
    const changed: number[] = []
    map.tiles.forEach((tile, k) => {
      if (blocks[k]?.tile !== tile) changed.push(k)
    })
    const stale = new Set<number>()
    for (const k of changed) this.eachTileAround(k, 1, (n) => stale.add(n))
    for (const k of stale) {
      const old = blocks[k]
      const block = this.makeBlock(k)
      // A neighbour of what changed often comes out as it was: then what its corners see is kept.
      if (old && old.tile === block.tile && sameCorners(old, block)) {
        stale.delete(k)
        continue
      }
      this.total += block.count - (old?.count ?? 0)
      blocks[k] = block
    }
    const most = blocks.reduce((n, b) => Math.max(n, b?.count ?? 0), 0)
    const grown = most > 1 << this.shift
    while (1 << this.shift < most) this.shift++
    const all = grown || this.reachM !== this.joinedM || changed.length * 4 > blocks.length
    this.joinedM = this.reachM
    if (all) {
      for (const block of blocks) block?.known.fill(undefined)
      this.changes = []
    } else {
      const boxes = mergeBoxes(changed.map((k) => growBox(map.tileBox(k), map.source.cellM)))
      this.changes.push({ version: map.version, tiles: stale, boxes })
      if (this.changes.length > MOST_CHANGES) this.changes.shift()
    }
    return grown
  }

  private get mask(): number {
    return (1 << this.shift) - 1
  }

  /** Greatest id plus one. */
  get size(): number {
    return this.blocks.length << this.shift
  }

  private get reachM(): number {
    return this.total <= FEW ? Infinity : JOINED_M
  }

  private eachTileAround(k: number, by: number, each: (tile: number) => void): void {
    const { tilesX, tilesY } = this.map
    const x = k % tilesX
    const y = Math.floor(k / tilesX)
    for (let j = Math.max(0, y - by); j <= Math.min(tilesY - 1, y + by); j++) {
      for (let i = Math.max(0, x - by); i <= Math.min(tilesX - 1, x + by); i++) each(j * tilesX + i)
    }
  }

  /** The corners of a tile; those cut by its rim are joined up with what its neighbours know of the same vertex. */
  private makeBlock(k: number): Block {
    const { map } = this
    const tile = map.tiles[k]
    const { corners } = tile.outline
    const spots: Spot[] = []
    const wedge: number[] = []
    for (let c = 0; c < corners.count; c++) {
      const w = Array.from(corners.wedge.subarray(c * 4, c * 4 + 4))
      const cutIn = w[0] === 0 && w[1] === 0
      const cutOut = w[2] === 0 && w[3] === 0
      if (cutIn || cutOut) {
        const other = this.acrossRim(k, c, cutIn)
        if (other) {
          if (cutIn) [w[0], w[1]] = other
          else [w[2], w[3]] = other
          // Both tiles know this vertex: one of them keeps it, and only when the outline really bends here.
          if (cutOut || w[0] * w[3] - w[1] * w[2] > -BEND) continue
        }
      }
      spots.push({ tile: k, column: corners.column[c], floor: corners.floor[c] })
      wedge.push(...w)
    }
    const exactFrom = spots.length
    const x = spots.map((s) => map.placeOn(s)[0])
    const y = spots.map((s) => map.placeOn(s)[1])
    const held = tile.held.corners
    for (let c = 0; c < held.floor.length; c++) {
      x.push(held.place[c * 2])
      y.push(held.place[c * 2 + 1])
      spots.push(map.inPart({ tile: k, column: held.column[c], floor: held.floor[c] }, x.at(-1)!, y.at(-1)!))
      wedge.push(...held.wedge.subarray(c * 4, c * 4 + 4))
    }
    return {
      tile,
      count: spots.length,
      spots,
      wedge: Float32Array.from(wedge),
      exactFrom,
      x: Float64Array.from(x),
      y: Float64Array.from(y),
      known: new Array<Int32Array | undefined>(spots.length).fill(undefined),
      knownAt: new Int32Array(spots.length),
    }
  }

  /** The direction an outline has beyond the rim of its tile, or undefined when no neighbour knows. */
  private acrossRim(k: number, c: number, wantsIn: boolean): [number, number] | undefined {
    const { map } = this
    const mine = map.tiles[k]
    const { vertex, floor } = mine.outline.corners
    let found: [number, number] | undefined
    this.eachTileAround(k, 1, (n) => {
      if (n === k || found) return
      const tile = map.tiles[n]
      const { corners } = tile.outline
      for (let o = 0; o < corners.count; o++) {
        if (corners.vertex[o * 2] !== vertex[c * 2] || corners.vertex[o * 2 + 1] !== vertex[c * 2 + 1]) continue
        if (Math.abs(tile.z[corners.floor[o]] - mine.z[floor[c]]) > SAME_FLOOR_M) continue
        const w = o * 4 + (wantsIn ? 0 : 2)
        if (corners.wedge[w] === 0 && corners.wedge[w + 1] === 0) continue
        found = [corners.wedge[w], corners.wedge[w + 1]]
        return
      }
    })
    return found
  }

  private block(n: number): Block {
    return this.blocks[n >> this.shift]!
  }

  x(n: number): number {
    return this.block(n).x[n & this.mask]
  }

  y(n: number): number {
    return this.block(n).y[n & this.mask]
  }

  spot(n: number): Spot {
    return this.block(n).spots[n & this.mask]
  }

  /** Could a taut string in direction (dx, dy) touch this corner without cutting its obstacle? */
  taut(n: number, dx: number, dy: number): boolean {
    return tautAt(this.block(n), n & this.mask, dx, dy)
  }

  /** Could a taut string that comes along (ax, ay) go on along (bx, by)? It must bend towards the obstacle. */
  bends(n: number, ax: number, ay: number, bx: number, by: number): boolean {
    const { wedge } = this.block(n)
    const w = (n & this.mask) * 4
    const ox = wedge[w + 2] - wedge[w]
    const oy = wedge[w + 3] - wedge[w + 1]
    if (ox === 0 && oy === 0) return true
    const bend = ax * by - ay * bx
    const slack = 0.02 * Math.sqrt((ax * ax + ay * ay) * (bx * bx + by * by))
    return ax * oy - ay * ox >= 0 ? bend >= -slack : bend <= slack
  }

  /** Calls `each` with every corner of an island near enough to a place to be joined to it; all of them when asked. */
  eachNear(
    x: number,
    y: number,
    island: number,
    everywhere: boolean,
    each: (n: number, x: number, y: number) => void,
  ): void {
    const { map, shift } = this
    const within = everywhere ? Infinity : this.reachM
    const side = map.source.cellM * 64
    const { minX, minY } = map.source.extent
    const from = (v: number, least: number) =>
      within === Infinity ? 0 : Math.max(0, Math.floor((v - within - least) / side))
    const to = (v: number, least: number, n: number) =>
      within === Infinity ? n - 1 : Math.min(n - 1, Math.floor((v + within - least) / side))
    const within2 = within * within
    for (let j = from(y, minY); j <= to(y, minY, map.tilesY); j++) {
      for (let i = from(x, minX); i <= to(x, minX, map.tilesX); i++) {
        const t = j * map.tilesX + i
        const block = this.blocks[t]
        if (!block || block.count === 0) continue
        for (let k = 0; k < block.count; k++) {
          const dx = block.x[k] - x
          const dy = block.y[k] - y
          if (dx * dx + dy * dy > within2) continue
          if (map.islandOf(block.spots[k]) !== island) continue
          each((t << shift) + k, block.x[k], block.y[k])
        }
      }
    }
  }

  /** The corners one sees and a taut string could go on to. */
  neighbours(n: number, island: number): Int32Array {
    const block = this.block(n)
    const k = n & this.mask
    const list = block.known[k]
    if (list && block.knownAt[k] === this.version) return list
    const since = list && this.changesSince(block.knownAt[k])
    const fresh = since ? this.lookAgain(n, list, since, island) : this.look(n, island)
    block.known[k] = fresh
    block.knownAt[k] = this.version
    return fresh
  }

  /** The changes after a version; undefined when they are no longer remembered. */
  private changesSince(version: number): readonly Change[] | undefined {
    const from = this.changes.findIndex((c) => c.version > version)
    // The oldest change remembered may have followed ones that are not.
    if (from === 0 && this.changes.length === MOST_CHANGES) return undefined
    return from < 0 ? [] : this.changes.slice(from)
  }

  private look(n: number, island: number, only?: (m: number, mx: number, my: number) => boolean): Int32Array {
    const block = this.block(n)
    const k = n & this.mask
    const found: number[] = []
    const x = block.x[k]
    const y = block.y[k]
    this.eachNear(x, y, island, false, (m, mx, my) => {
      if (m === n || (only && !only(m, mx, my))) return
      const dx = mx - x
      const dy = my - y
      if (!tautAt(block, k, dx, dy) || !this.taut(m, dx, dy)) return
      if (this.walker.walk(block.spots[k], x, y, mx, my) && this.walker.endedOn(this.spot(m))) found.push(m)
    })
    return Int32Array.from(found)
  }

  /** What a corner sees now, when it is known what it saw before some changes. */
  private lookAgain(n: number, before: Int32Array, since: readonly Change[], island: number): Int32Array {
    if (since.length === 0) return before
    const x = this.x(n)
    const y = this.y(n)
    const { shift } = this
    const touched = (m: number, mx: number, my: number) =>
      since.some((c) => c.tiles.has(m >> shift) || c.boxes.some((b) => crosses(b, x, y, mx, my)))
    const kept = before.filter((m) => {
      // The corner may be gone; its number is then another's, or nobody's.
      if (since.some((c) => c.tiles.has(m >> shift))) return false
      return !touched(m, this.x(m), this.y(m))
    })
    const again = this.look(n, island, touched)
    const all = new Int32Array(kept.length + again.length)
    all.set(kept)
    all.set(again, kept.length)
    return all
  }
}

/** Of one tile: are the corners the same, and bend they the same way? */
function sameCorners(a: Block, b: Block): boolean {
  return (
    a.count === b.count &&
    a.exactFrom === b.exactFrom &&
    a.spots.every((s, k) => s.floor === b.spots[k].floor && s.column === b.spots[k].column) &&
    a.x.every((x, k) => x === b.x[k] && a.y[k] === b.y[k]) &&
    a.wedge.every((w, k) => w === b.wedge[k])
  )
}

/** Does the segment from (ax, ay) to (bx, by) touch the box? (Liang and Barsky 1984) */
function crosses(box: Box2, ax: number, ay: number, bx: number, by: number): boolean {
  let from = 0
  let to = 1
  const dx = bx - ax
  const dy = by - ay
  for (let side = 0; side < 4; side++) {
    const p = side === 0 ? -dx : side === 1 ? dx : side === 2 ? -dy : dy
    const q = side === 0 ? ax - box.minX : side === 1 ? box.maxX - ax : side === 2 ? ay - box.minY : box.maxY - ay
    if (p === 0) {
      if (q < 0) return false
    } else if (p < 0) from = Math.max(from, q / p)
    else to = Math.min(to, q / p)
    if (from > to) return false
  }
  return true
}

function tautAt({ wedge, exactFrom }: Block, k: number, dx: number, dy: number): boolean {
  const w = k * 4
  const inX = wedge[w]
  const inY = wedge[w + 1]
  const outX = wedge[w + 2]
  const outY = wedge[w + 3]
  if ((inX === 0 && inY === 0) || (outX === 0 && outY === 0)) return true
  const slack = (k < exactFrom ? LOOSE : TIGHT) * Math.sqrt(dx * dx + dy * dy)
  const back = -(dx * inY - dy * inX)
  const on = dx * outY - dy * outX
  return (back <= slack && on <= slack) || (back >= -slack && on >= -slack)
}
