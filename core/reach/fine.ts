import { boxesMeet, ringHolds, type Box2 } from '@tidytrail/core/geometry'
import { isMeshSurface, meshOfSurface } from '@tidytrail/core/ground'
import { FINE, type BarList } from './bars'
import type { ReachSource } from './source'
import { DIR_X, DIR_Y, NONE, STANDS } from './tile'
import { TileLinks } from './tile-links'

/** Columns along the side of a block that is worked out finely at a time. */
export const BLOCK = 16

/** Is what is known by columns only told finely at a place, or so near that it matters there (`withinM` more)? */
export function isFine({ fine }: ReachSource, x: number, y: number, withinM = 0): boolean {
  for (const { ring, box } of fine.areas) {
    if (x < box.minX - withinM || x > box.maxX + withinM || y < box.minY - withinM || y > box.maxY + withinM) continue
    if (withinM > 0 || ringHolds(ring, x, y)) return true
  }
  return false
}

/** How far about a fine area its fine columns are needed: what is nearer than this to a body in it holds that off. */
export const fineMarginM = ({ radiusM, cellM }: ReachSource): number => radiusM + 2 * cellM

/**
 * A block of columns, each parted into many: where bodies stand on these and where what they stand on ends. Where
 * steep triangles, ground and shores end a floor, the sides of the fine columns become lines that hold bodies off.
 */
export class FineBlock extends TileLinks {
  private readonly coarse: ReachSource

  constructor(source: ReachSource) {
    const { split } = source.fine
    super({ ...source, cellM: source.cellM / split }, BLOCK * split, 2)
    this.coarse = source
    // The last columns of the level may reach beyond it, and their parts do as well.
    this.columns = Math.ceil((source.extent.maxX - source.extent.minX) / source.cellM - 1e-6) * split
    this.rows = Math.ceil((source.extent.maxY - source.extent.minY) / source.cellM - 1e-6) * split
  }

  /** Works out the block whose first column is (i0, j0), counted in whole columns. */
  work(i0: number, j0: number): void {
    const { split } = this.source.fine
    const solids = this.gatherSpans(i0 * split, j0 * split)
    this.findFloors(i0 * split, j0 * split)
    this.findThin(
      solids.map((k) => this.source.terrain.solids[k]),
      i0 * split,
      j0 * split,
    )
    this.findThinMeshes(i0 * split, j0 * split)
    this.linkFloors()
    this.i0 = i0
    this.j0 = j0
  }

  private i0 = 0
  private j0 = 0

  /** Adds the sides at which floors end, as far as they may matter in a fine area. */
  linesInto(into: BarList, box: Box2): void {
    for (let nth = 0; this.nthLinesInto(nth, into, box); nth++);
  }

  /** Adds those of the so manieth such floor of each column. @returns was there any? */
  private nthLinesInto(nth: number, into: BarList, box: Box2): boolean {
    let any = false
    const { split } = this.source.fine
    const { side, apron, coarse } = this
    const { body, stepM, radiusM, maxRise, bandM } = this.source
    const aboutM = body.flies ? bandM[1] : 2 * stepM + radiusM * Math.min(maxRise, 2)
    const fine = new Uint8Array(BLOCK * BLOCK)
    const marginM = fineMarginM(coarse)
    for (let k = 0; k < fine.length; k++) {
      const x = coarse.extent.minX + (this.i0 + (k % BLOCK) + 0.5) * coarse.cellM
      const y = coarse.extent.minY + (this.j0 + Math.floor(k / BLOCK) + 0.5) * coarse.cellM
      fine[k] = Number(isFine(coarse, x, y, marginM))
    }
    for (let d = 0; d < 4; d++) {
      const upright = d % 2 === 0
      for (let row = 0; row < BLOCK * split; row++) {
        let run: Run | undefined
        for (let k = 0; k < BLOCK * split; k++) {
          // Along y for east and west sides, along x for north and south ones, so that sides in a row run together.
          const i = upright ? row : k
          const j = upright ? k : row
          const of = fine[Math.floor(j / split) * BLOCK + Math.floor(i / split)]
          const ended = of === 1 ? this.endOf((j + apron) * side + i + apron, d, nth) : -1
          if (ended < 0) {
            this.finish(run, into, box)
            run = undefined
            continue
          }
          any = true
          const z = this.z[ended]
          const mesh = this.meshBeyond(ended, d, (j + apron) * side + i + apron)
          if (run && run.mesh === mesh && z >= run.highM - stepM && z <= run.lowM + stepM) {
            run.lowM = Math.min(run.lowM, z)
            run.highM = Math.max(run.highM, z)
            run.to = k + 1
          } else {
            this.finish(run, into, box)
            run = { upright, at: row + (d < 2 ? 1 : 0), from: k, to: k + 1, lowM: z, highM: z, aboutM, mesh }
          }
        }
        this.finish(run, into, box)
      }
    }
    return any
  }

  private finish(run: Run | undefined, into: BarList, box: Box2): void {
    if (!run) return
    const { extent, cellM } = this.source
    const x0 = extent.minX + this.i0 * this.coarse.cellM
    const y0 = extent.minY + this.j0 * this.coarse.cellM
    const at = run.at * cellM
    const [from, to] = [run.from * cellM, run.to * cellM]
    const holds = [run.lowM - run.aboutM, run.highM + run.aboutM, run.lowM - run.aboutM, run.highM + run.aboutM]
    const [ax, ay, bx, by] = run.upright
      ? [x0 + at, y0 + from, x0 + at, y0 + to]
      : [x0 + from, y0 + at, x0 + to, y0 + at]
    if (boxesMeet({ minX: ax, minY: ay, maxX: bx, maxY: by }, box)) into.add(ax, ay, bx, by, holds, FINE, run.mesh)
  }

  /** The nth floor bodies stand on in a fine column that ends towards a neighbour at nothing known exactly; −1 without. */
  private endOf(column: number, d: number, nth: number): number {
    const { start, stand, links, side, source, z } = this
    const other = column + DIR_X[d] + DIR_Y[d] * side
    for (let f = start[column]; f < start[column + 1]; f++) {
      if (stand[f] !== STANDS || links[f * 4 + d] !== NONE) continue
      if (this.endsAtOutline(f, other, source.heightM)) continue
      const face = (d < 2 ? column : other) * 2 + (d % 2)
      const walled = this.wallBetween(face, this.overM(f), z[f] + source.heightM)
      if (walled && (this.thinBy.has(face) || this.thinUpright.has(face))) continue
      if (nth-- === 0) return f
    }
    return -1
  }

  /** The mesh a floor ends at, or is of, as its number; −1 for ground and water. */
  private meshBeyond(f: number, d: number, column: number): number {
    const { start, surface, side } = this
    if (isMeshSurface(surface[f])) return meshOfSurface(surface[f])
    const other = column + DIR_X[d] + DIR_Y[d] * side
    for (let g = start[other]; g < start[other + 1]; g++) {
      if (isMeshSurface(surface[g])) return meshOfSurface(surface[g])
    }
    const { meshes } = this.source.terrain
    const face = (d < 2 ? column : other) * 2 + (d % 2)
    return this.thinMesh.has(face) && meshes.length === 1 ? 0 : -1
  }
}

/** Sides of fine columns in a row at which floors of about one height end. */
interface Run {
  readonly upright: boolean
  readonly at: number
  readonly from: number
  to: number
  lowM: number
  highM: number
  readonly aboutM: number
  readonly mesh: number
}

/** So many blocks are kept at most: neighbouring tiles need the same. */
const MOST_KEPT = 48

/** The fine blocks that a window of columns needs, worked out when first asked for. */
export class FineBlocks {
  private readonly blocks = new Map<number, FineBlock | undefined>()

  constructor(private readonly source: ReachSource) {}

  /** The block column (i, j) of the level lies in; undefined when no fine area is near. */
  of(i: number, j: number): FineBlock | undefined {
    const bi = Math.floor(i / BLOCK)
    const bj = Math.floor(j / BLOCK)
    const key = bj * 65536 + bi
    if (this.blocks.has(key)) return this.blocks.get(key)
    const box = this.boxOf(bi, bj)
    if (this.blocks.size >= MOST_KEPT) this.blocks.clear()
    const near = this.source.fine.areas.some((a) => boxesMeet(a.box, box))
    const block = near ? new FineBlock(this.source) : undefined
    block?.work(bi * BLOCK, bj * BLOCK)
    this.blocks.set(key, block)
    return block
  }

  /** Calls with every block about the window of `count` columns a side whose first column is (i0, j0). */
  each(i0: number, j0: number, count: number, call: (block: FineBlock) => void): void {
    if (this.source.fine.areas.length === 0) return
    const first = (at: number) => Math.max(0, Math.floor(at / BLOCK) * BLOCK)
    for (let j = first(j0); j < j0 + count; j += BLOCK) {
      for (let i = first(i0); i < i0 + count; i += BLOCK) {
        const block = this.of(i, j)
        if (block) call(block)
      }
    }
  }

  private boxOf(bi: number, bj: number): Box2 {
    const { extent, cellM } = this.source
    const m = fineMarginM(this.source)
    const minX = extent.minX + bi * BLOCK * cellM
    const minY = extent.minY + bj * BLOCK * cellM
    return { minX: minX - m, minY: minY - m, maxX: minX + BLOCK * cellM + m, maxY: minY + BLOCK * cellM + m }
  }
}
