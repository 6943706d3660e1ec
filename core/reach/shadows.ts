import type { Box2 } from '@tidytrail/core/geometry'
import { freeRadius, linesApart2 } from './free'
import type { ReachMap } from './map'
import type { StraightWalker } from './sight'
import { STANDS, type Tile } from './tile'

/** So many of the lines that last stopped a walk are remembered. */
const REMEMBERED = 12

/**
 * Many straight walks from one place, most of which end at the same few obstacles near it: those that would are told
 * without walking. Only lines in tiles where all that is stood on lies at one height are remembered, since there
 * whoever comes by has to do with them; so every answer is that of the walk.
 */
export class Shadows {
  private readonly line = new Float64Array(REMEMBERED * 4)
  private readonly box: (Box2 | undefined)[] = []
  private next = 0
  private x = 0
  private y = 0
  private rho2 = 0

  constructor(
    private readonly map: ReachMap,
    private readonly walker: StraightWalker,
  ) {}

  /** From now on walks begin here. */
  standAt(x: number, y: number): void {
    this.x = x
    this.y = y
    this.box.length = 0
    this.next = 0
    this.rho2 = freeRadius(this.map.source.radiusM) ** 2
  }

  /** Is a straight walk to a place certain to be stopped? */
  hides(x: number, y: number): boolean {
    for (let k = 0; k < this.box.length; k++) if (this.stops(k, x, y)) return true
    return false
  }

  private stops(k: number, x: number, y: number): boolean {
    const { line, x: ax, y: ay } = this
    const { minX, minY, maxX, maxY } = this.box[k]!
    const dx = x - ax
    const dy = y - ay
    // The piece of the walk inside the tile (Liang and Barsky 1984).
    let from = 0
    let to = 1
    if (dx === 0 ? ax < minX || ax > maxX : false) return false
    if (dy === 0 ? ay < minY || ay > maxY : false) return false
    if (dx !== 0) {
      const p = (minX - ax) / dx
      const q = (maxX - ax) / dx
      from = Math.max(from, Math.min(p, q))
      to = Math.min(to, Math.max(p, q))
    }
    if (dy !== 0) {
      const p = (minY - ay) / dy
      const q = (maxY - ay) / dy
      from = Math.max(from, Math.min(p, q))
      to = Math.min(to, Math.max(p, q))
    }
    if (from >= to) return false
    const n = k * 4
    const [px, py, qx, qy] = [ax + dx * from, ay + dy * from, ax + dx * to, ay + dy * to]
    return linesApart2(px, py, qx, qy, line[n], line[n + 1], line[n + 2], line[n + 3]) < this.rho2
  }

  /** Remembers what stopped the walk just walked. */
  remember(): void {
    const { walker, map } = this
    if (!walker.atLine || !isLevel(map.tiles[walker.tile])) return
    this.line.set(walker.line, this.next * 4)
    this.box[this.next] = map.tileBox(walker.tile)
    this.next = (this.next + 1) % REMEMBERED
  }
}

const levelTiles = new WeakMap<Tile, boolean>()

/** Do all floors of a tile that can be stood on lie at one height? */
function isLevel(tile: Tile): boolean {
  let known = levelTiles.get(tile)
  if (known === undefined) {
    const { stand, z } = tile
    const first = stand.indexOf(STANDS)
    known = true
    for (let f = first; known && f >= 0 && f < stand.length; f++) known = stand[f] !== STANDS || z[f] === z[first]
    levelTiles.set(tile, known)
  }
  return known
}
