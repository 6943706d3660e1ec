import { boxesMeet, boxOf } from '@tidytrail/core/geometry'
import { fineMarginM, isFine } from './fine'
import { gapToWall, type WallTriangle } from './mesh-columns'
import { traceOutline } from './outline'
import { findParts } from './parts'
import { DIR_X, DIR_Y, NONE, STANDS, TILE, type Tile } from './tile'
import { TileHeld } from './tile-held'
import { EPS } from './tile-window'

/**
 * Builds one tile at a time in arrays it keeps. A tile is worked out over a window a little larger than itself, so it
 * needs nothing of its neighbours and comes out the same whichever order tiles are built in.
 */
export class TileBuilder extends TileHeld {
  /** The tile whose first column is (i0, j0). */
  build(i0: number, j0: number): Tile {
    const solids = this.gatherSpans(i0, j0)
    if (solids.length > 0 || !this.isEven(i0, j0)) return this.buildWhole(solids, i0, j0)
    // What is known of it is known of every other such tile.
    this.even ??= this.buildWhole(solids, i0, j0)
    const whole = { ...this.even, i0, j0 }
    return { ...whole, outline: traceOutline(whole, this.evenOnward, this.source) }
  }

  /** Does a tile share its arrays with others, so that they cannot be given away? */
  isShared(tile: Tile): boolean {
    return tile.start === this.even?.start
  }

  /** A tile about which there is nothing but even ground: its arrays are shared by all such tiles. */
  private even: Tile | undefined
  private readonly evenOnward = new Uint8Array(TILE * TILE * 4).fill(1)

  /** Is there nothing in and about a tile but even ground of the level? */
  private isEven(i0: number, j0: number): boolean {
    const { apron, side, source } = this
    const { field, meshes } = source.terrain
    if (i0 < apron || j0 < apron || i0 - apron + side > this.columns || j0 - apron + side > this.rows) return false
    if (this.spans > 0 || this.walls.length > 0 || source.areas.length > 0) return false
    const [first] = field.z
    if (field.columns !== 2 || field.rows !== 2 || field.z.some((z) => z !== first)) return false
    const reachM = source.radiusM + source.cellM
    const about = {
      minX: this.x(i0, 0) - reachM,
      minY: this.y(j0, 0) - reachM,
      maxX: this.x(i0, side - 1) + reachM,
      maxY: this.y(j0, side - 1) + reachM,
    }
    if (meshes.some((m) => boxesMeet(m.box, about))) return false
    if (source.fine.areas.some((a) => boxesMeet(a.box, about))) return false
    return !source.offLimits.some((ring) => boxesMeet(boxOf(ring), about))
  }

  private buildWhole(solids: readonly number[], i0: number, j0: number): Tile {
    this.findFloors(i0, j0)
    this.findThin(
      solids.map((k) => this.source.terrain.solids[k]),
      i0,
      j0,
    )
    this.findThinMeshes(i0, j0)
    this.linkFloors()
    this.findFine(i0, j0)
    this.keepAway(i0, j0)
    this.holdOff(solids, i0, j0)
    return this.cut(i0, j0)
  }

  /** For each column of the window: 1 where sides of fine columns hold bodies off, 2 where nothing else known by columns does. */
  private readonly fine = new Uint8Array(this.side * this.side)

  /** Notes which columns are fine. */
  private findFine(i0: number, j0: number): void {
    const { source, side, fine } = this
    if (source.fine.areas.length === 0) return
    const marginM = fineMarginM(source)
    for (let j = 0; j < side; j++) {
      for (let i = 0; i < side; i++) {
        const x = this.x(i0, i)
        const y = this.y(j0, j)
        fine[j * side + i] = isFine(source, x, y) ? 2 : Number(isFine(source, x, y, marginM))
      }
    }
  }

  /** How far every floor is from what is known by columns and triangles only: steep and deep ground, meshes. */
  private keepAway(i0: number, j0: number): void {
    const { side, start, z, stand, links, clearMm, fine } = this
    const { radiusM, stepM, heightM, cellM, maxRise, body, bandM } = this.source
    const farMm = Math.min(65535, Math.ceil(radiusM * 1000) + 1)
    clearMm.fill(farMm, 0, this.floors)
    for (const wall of this.walls) if (!wall.upright) this.keepFromWall(wall, i0, j0)

    const reachCells = Math.ceil(radiusM / cellM)
    const band = body.flies ? bandM[1] : 2 * stepM + radiusM * Math.min(maxRise, 2)
    for (let j = 0; j < side; j++) {
      for (let i = 0; i < side; i++) {
        const column = j * side + i
        for (let f = start[column]; f < start[column + 1]; f++) {
          if (stand[f] !== STANDS) {
            clearMm[f] = 0
            continue
          }
          if (fine[column] > 0) continue
          for (let d = 0; d < 4; d++) {
            if (links[f * 4 + d] !== NONE) continue
            const ni = i + DIR_X[d]
            const nj = j + DIR_Y[d]
            if (ni < 0 || nj < 0 || ni >= side || nj >= side) continue
            if (this.endsAtOutline(f, nj * side + ni, heightM)) continue
            const face = (d < 2 ? column : nj * side + ni) * 2 + (d % 2)
            if (this.wallBetween(face, this.overM(f), z[f] + heightM)) continue
            // The face between the two columns, as seen from this column's middle, in columns.
            const fx = DIR_X[d] / 2
            const fy = DIR_Y[d] / 2
            for (let dj = -reachCells; dj <= reachCells; dj++) {
              const gj = j + dj
              if (gj < 0 || gj >= side) continue
              for (let di = -reachCells; di <= reachCells; di++) {
                const gi = i + di
                if (gi < 0 || gi >= side) continue
                const px = fx !== 0 ? Math.abs(di - fx) : Math.max(0, Math.abs(di) - 0.5)
                const py = fy !== 0 ? Math.abs(dj - fy) : Math.max(0, Math.abs(dj) - 0.5)
                const mm = Math.sqrt(px * px + py * py) * cellM * 1000
                if (mm >= farMm) continue
                const at = gj * side + gi
                for (let g = start[at]; g < start[at + 1]; g++) {
                  if (mm < clearMm[g] && Math.abs(z[g] - z[f]) <= band) clearMm[g] = mm
                }
              }
            }
          }
        }
      }
    }
  }

  private keepFromWall(wall: WallTriangle, i0: number, j0: number): void {
    const { side, start, z, stand, clearMm, fine } = this
    const { radiusM, heightM } = this.source
    const { xyz } = wall
    const i1 = Math.max(0, this.columnFrom(i0, Math.min(xyz[0], xyz[3], xyz[6]) - radiusM))
    const i2 = Math.min(side - 1, this.columnFrom(i0, Math.max(xyz[0], xyz[3], xyz[6]) + radiusM))
    const j1 = Math.max(0, this.rowFrom(j0, Math.min(xyz[1], xyz[4], xyz[7]) - radiusM))
    const j2 = Math.min(side - 1, this.rowFrom(j0, Math.max(xyz[1], xyz[4], xyz[7]) + radiusM))
    for (let j = j1; j <= j2; j++) {
      for (let i = i1; i <= i2; i++) {
        const at = j * side + i
        if (fine[at] === 2) continue
        for (let f = start[at]; f < start[at + 1]; f++) {
          if (stand[f] !== STANDS || clearMm[f] === 0) continue
          const overM = this.overM(f) + EPS
          const underM = z[f] + heightM - EPS
          if (wall.highM <= overM || wall.lowM >= underM) continue
          const mm = gapToWall(wall, this.x(i0, i), this.y(j0, j), overM, underM) * 1000
          if (mm < clearMm[f]) clearMm[f] = mm
        }
      }
    }
  }

  /** For each floor and side on the tile's rim: 1 where the reach goes on beyond it. */
  private goesOnward(start: Uint16Array): Uint8Array {
    const { side, apron, links, reach } = this
    const onward = new Uint8Array(start[TILE * TILE] * 4)
    for (let d = 0; d < 4; d++) {
      for (let k = 0; k < TILE; k++) {
        const i = d === 0 ? TILE - 1 : d === 2 ? 0 : k
        const j = d === 1 ? TILE - 1 : d === 3 ? 0 : k
        const column = (j + apron) * side + i + apron
        const first = this.start[column]
        for (let f = first; f < this.start[column + 1]; f++) {
          const link = links[f * 4 + d]
          if (link === NONE || reach[this.start[column + DIR_X[d] + DIR_Y[d] * side] + link] === 0) continue
          onward[(start[j * TILE + i] + f - first) * 4 + d] = 1
        }
      }
    }
    return onward
  }

  /** The middle of the window as a tile of its own arrays. */
  private cut(i0: number, j0: number): Tile {
    const { side, apron } = this
    const start = new Uint16Array(TILE * TILE + 1)
    let n = 0
    for (let j = 0; j < TILE; j++) {
      for (let i = 0; i < TILE; i++) {
        start[j * TILE + i] = n
        const column = (j + apron) * side + i + apron
        n += this.start[column + 1] - this.start[column]
      }
    }
    start[TILE * TILE] = n
    const tile = {
      i0,
      j0,
      start,
      z: new Float32Array(n),
      surface: new Int32Array(n),
      stand: new Uint8Array(n),
      clearMm: new Uint16Array(n),
      links: new Uint8Array(n * 4),
      reach: new Uint8Array(n),
    }
    // The floors of one row of columns lie one after the other in the window as in the tile.
    for (let j = 0; j < TILE; j++) {
      const to = start[j * TILE]
      const from = this.start[(j + apron) * side + apron]
      const end = from + start[(j + 1) * TILE] - to
      tile.z.set(this.z.subarray(from, end), to)
      tile.surface.set(this.surface.subarray(from, end), to)
      tile.stand.set(this.stand.subarray(from, end), to)
      tile.clearMm.set(this.clearMm.subarray(from, end), to)
      tile.reach.set(this.reach.subarray(from, end), to)
      tile.links.set(this.links.subarray(from * 4, end * 4), to * 4)
    }
    const { held, free } = this.cutHeld(start, i0, j0)
    const { part, partSize } = findParts({ ...tile, held }, free)
    const whole = { ...tile, held, part, partSize }
    return { ...whole, outline: traceOutline(whole, this.goesOnward(start), this.source) }
  }
}
