import { boxesMeet, type Box2 } from '@tidytrail/core/geometry'
import type { SolidShape } from './footprint'
import type { HeightField } from './heights'
import type { MeshShape } from './mesh'
import { EPS, groundBlocks, highest, liesBeside, meshBlocks, solidBlocks } from './sight'
import type { Terrain } from './terrain'

/** Squares of ground whose greatest height is known together, to a side. */
const BLOCK = 8

interface Greatest {
  readonly columns: number
  readonly rows: number
  readonly z: Float64Array
}

const greatest = new WeakMap<HeightField, Greatest>()
const tops = new WeakMap<SolidShape, number>()

/** The greatest height of each block of a field, its edges among those of its neighbours. */
function greatestOf(field: HeightField): Greatest {
  let known = greatest.get(field)
  if (known) return known
  const columns = Math.max(1, Math.ceil((field.columns - 1) / BLOCK))
  const rows = Math.max(1, Math.ceil((field.rows - 1) / BLOCK))
  const z = new Float64Array(columns * rows).fill(-Infinity)
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++)
      for (let q = j * BLOCK; q <= Math.min(field.rows - 1, (j + 1) * BLOCK); q++)
        for (let p = i * BLOCK; p <= Math.min(field.columns - 1, (i + 1) * BLOCK); p++)
          z[j * columns + i] = Math.max(z[j * columns + i], field.z[q * field.columns + p])
  greatest.set(field, (known = { columns, rows, z }))
  return known
}

const within = (k: number, most: number): number => Math.max(0, Math.min(most - 1, Math.floor(k)))

/** The greatest height of the ground within a box; never less than it is. */
function highestIn(field: HeightField, box: Box2): number {
  const { columns, rows, z } = greatestOf(field)
  const size = BLOCK * field.spacingM
  const i0 = within((box.minX - field.originX) / size, columns)
  const i1 = within((box.maxX - field.originX) / size, columns)
  const j0 = within((box.minY - field.originY) / size, rows)
  const j1 = within((box.maxY - field.originY) / size, rows)
  let high = -Infinity
  for (let j = j0; j <= j1; j++) for (let i = i0; i <= i1; i++) high = Math.max(high, z[j * columns + i])
  return high
}

/**
 * An eye many places are looked at from: the same answers as `canSee`, with what could be in the way looked up once.
 * Metres.
 */
export class Viewpoint {
  private readonly solids: { readonly shape: SolidShape; readonly topM: number }[] = []
  private readonly meshes: readonly MeshShape[]
  private readonly box = { minX: 0, minY: 0, maxX: 0, maxY: 0 }

  /** @param farM no place farther off than this is asked about */
  constructor(
    private readonly terrain: Terrain,
    readonly x: number,
    readonly y: number,
    readonly z: number,
    farM: number,
  ) {
    const around = { minX: x - farM, minY: y - farM, maxX: x + farM, maxY: y + farM }
    for (const k of terrain.near(around)) {
      const shape = terrain.solids[k]
      if (!shape.source.blocksSight) continue
      let topM = tops.get(shape)
      if (topM === undefined) tops.set(shape, (topM = highest(shape)))
      this.solids.push({ shape, topM })
    }
    this.meshes = terrain.meshes.filter((mesh) => mesh.source.blocksSight && boxesMeet(mesh.box, around))
  }

  sees(bx: number, by: number, bz: number): boolean {
    const { x, y, z, box, terrain } = this
    box.minX = Math.min(x, bx)
    box.minY = Math.min(y, by)
    box.maxX = Math.max(x, bx)
    box.maxY = Math.max(y, by)
    const low = Math.min(z, bz)
    const high = Math.max(z, bz)
    for (const { shape, topM } of this.solids) {
      if (high <= shape.baseM || low >= topM || !boxesMeet(shape.box, box)) continue
      if (liesBeside(shape.box, x, y, bx - x, by - y)) continue
      if (solidBlocks(shape, x, y, z, bx - x, by - y, bz - z)) return false
    }
    for (const mesh of this.meshes)
      if (boxesMeet(mesh.box, box) && meshBlocks(mesh, box, x, y, z, bx, by, bz)) return false
    if (highestIn(terrain.field, box) < low - EPS) return true
    return !groundBlocks(terrain, x, y, z, bx, by, bz)
  }
}
