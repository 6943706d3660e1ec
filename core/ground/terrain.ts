import { growBox, type Box2 } from '@tidytrail/core/geometry'
import type { Level, Mesh, Solid } from '@tidytrail/core/level'
import Flatbush from 'flatbush'
import { assetsVersion, hasAsset, meshAsset } from './assets'
import { solidShapes, type SolidShape } from './footprint'
import { heightChanges, heightField, type HeightField } from './heights'
import { placeMesh, type MeshShape } from './mesh'

/** Ground, solids and meshes together: what a level is made of before anyone walks on it. */
export interface Terrain {
  readonly field: HeightField
  readonly solids: readonly SolidShape[]
  readonly meshes: readonly MeshShape[]
  /** Hashes of assets that have not come yet. */
  readonly missing: readonly string[]
  /** Indexes into `solids` of those whose outline may meet the box, ascending. */
  near(box: Box2): number[]
}

type Source = Pick<Level, 'ground' | 'solids' | 'meshes'>

const shapes = new WeakMap<Solid, readonly SolidShape[]>()
const placed = new WeakMap<Mesh, MeshShape>()
const fields = new WeakMap<Level['ground'], { field: HeightField; whole: boolean }>()
const terrains = new WeakMap<Level['ground'], WeakMap<Level['solids'], WeakMap<Level['meshes'], Terrain>>>()
/** The version of the library of assets a terrain with missing ones was made with. */
const madeAt = new WeakMap<Terrain, number>()

function shapesOf(id: string, solid: Solid): readonly SolidShape[] {
  let list = shapes.get(solid)
  if (!list || list[0].id !== id) shapes.set(solid, (list = solidShapes(id, solid)))
  return list
}

function meshShape(id: string, mesh: Mesh): MeshShape | undefined {
  let shape = placed.get(mesh)
  if (shape?.id === id) return shape
  const asset = meshAsset(mesh.assetId)
  if (asset) placed.set(mesh, (shape = placeMesh(id, mesh, asset.data, asset.lookup)))
  return asset ? shape : undefined
}

/** Hashes of all assets the ground of a level is made of. */
export function assetsOf(level: Source): string[] {
  const hashes = new Set(Object.values(level.meshes).map((m) => m.assetId))
  if (level.ground.heights?.assetId) hashes.add(level.ground.heights.assetId)
  return [...hashes].sort()
}

function weak<K extends object, V extends object>(map: WeakMap<K, V>, key: K, make: () => V): V {
  let value = map.get(key)
  if (!value) map.set(key, (value = make()))
  return value
}

/** The terrain of a level, cached for as long as what it is made of stays the same and no missing asset has come. */
export function terrainOf(level: Source): Terrain {
  const bySolids = weak(terrains, level.ground, () => new WeakMap())
  const byMeshes = weak(bySolids, level.solids, () => new WeakMap())
  const known = byMeshes.get(level.meshes) as Terrain | undefined
  if (known && (known.missing.length === 0 || madeAt.get(known) === assetsVersion())) return known
  const missing = assetsOf(level).filter((hash) => !hasAsset(hash))
  let kept = fields.get(level.ground)
  if (!kept?.whole) {
    const { heights } = level.ground
    kept = { field: heightField(level.ground), whole: !heights?.assetId || hasAsset(heights.assetId) }
    fields.set(level.ground, kept)
  }
  const solids = Object.keys(level.solids)
    .sort()
    .flatMap((id) => shapesOf(id, level.solids[id]))
  const meshes = Object.keys(level.meshes)
    .sort()
    .flatMap((id) => meshShape(id, level.meshes[id]) ?? [])
  const terrain = makeTerrain(kept.field, solids, meshes, missing)
  madeAt.set(terrain, assetsVersion())
  byMeshes.set(level.meshes, terrain)
  return terrain
}

function makeTerrain(field: HeightField, solids: SolidShape[], meshes: MeshShape[], missing: string[]): Terrain {
  if (solids.length === 0) return { field, solids, meshes, missing, near: () => [] }
  const index = new Flatbush(solids.length)
  for (const { box } of solids) index.add(box.minX, box.minY, box.maxX, box.maxY)
  index.finish()
  const near = (b: Box2) => index.search(b.minX, b.minY, b.maxX, b.maxY).sort((p, q) => p - q)
  return { field, solids, meshes, missing, near }
}

/** The boxes within which two terrains differ, or 'everywhere' when the grid of heights is another. */
export function terrainChanges(before: Terrain, after: Terrain): Box2[] | 'everywhere' {
  const ground = heightChanges(before.field, after.field)
  if (ground === 'everywhere') return 'everywhere'
  const boxes: Box2[] = ground ? [growBox(ground, 0.01)] : []
  const compare = (old: readonly (SolidShape | MeshShape)[], now: readonly (SolidShape | MeshShape)[]) => {
    if (old === now) return
    const same = new Set<unknown>(old)
    const kept = new Set<unknown>()
    for (const shape of now) {
      if (same.has(shape)) kept.add(shape)
      else boxes.push(growBox(shape.box, 0.01))
    }
    for (const shape of old) if (!kept.has(shape)) boxes.push(growBox(shape.box, 0.01))
  }
  compare(before.solids, after.solids)
  compare(before.meshes, after.meshes)
  return boxes
}
