import { growBox, type Box2 } from '@tidytrail/core/geometry'
import type { Level, Solid } from '@tidytrail/core/level'
import Flatbush from 'flatbush'
import { solidShape, type SolidShape } from './footprint'
import { heightField, type HeightField } from './heights'

/** Ground and solids together: what a level is made of before anyone walks on it. */
export interface Terrain {
  readonly field: HeightField
  readonly solids: readonly SolidShape[]
  /** Indexes into `solids` of those whose outline may meet the box, ascending. */
  near(box: Box2): number[]
}

const shapes = new WeakMap<Solid, SolidShape>()
const fields = new WeakMap<Level['ground'], HeightField>()
const terrains = new WeakMap<Level['ground'], WeakMap<Level['solids'], Terrain>>()

function shapeOf(id: string, solid: Solid): SolidShape {
  let shape = shapes.get(solid)
  if (!shape || shape.id !== id) shapes.set(solid, (shape = solidShape(id, solid)))
  return shape
}

/** The terrain of a level, cached for as long as its ground and solids stay the same objects. */
export function terrainOf(level: Pick<Level, 'ground' | 'solids'>): Terrain {
  let bySolids = terrains.get(level.ground)
  if (!bySolids) terrains.set(level.ground, (bySolids = new WeakMap()))
  let terrain = bySolids.get(level.solids)
  if (!terrain) {
    let field = fields.get(level.ground)
    if (!field) fields.set(level.ground, (field = heightField(level.ground)))
    const ids = Object.keys(level.solids).sort()
    bySolids.set(
      level.solids,
      (terrain = makeTerrain(
        field,
        ids.map((id) => shapeOf(id, level.solids[id])),
      )),
    )
  }
  return terrain
}

function makeTerrain(field: HeightField, solids: SolidShape[]): Terrain {
  if (solids.length === 0) return { field, solids, near: () => [] }
  const index = new Flatbush(solids.length)
  for (const { box } of solids) index.add(box.minX, box.minY, box.maxX, box.maxY)
  index.finish()
  const near = (b: Box2) => index.search(b.minX, b.minY, b.maxX, b.maxY).sort((p, q) => p - q)
  return { field, solids, near }
}

/** The boxes within which two terrains differ, or 'everywhere' when the heights changed. */
export function terrainChanges(before: Terrain, after: Terrain): Box2[] | 'everywhere' {
  if (before.field !== after.field) return 'everywhere'
  const old = new Map(before.solids.map((s) => [s.id, s]))
  const boxes: Box2[] = []
  for (const shape of after.solids) {
    const was = old.get(shape.id)
    old.delete(shape.id)
    if (was === shape) continue
    boxes.push(growBox(shape.box, 0.01))
    if (was) boxes.push(growBox(was.box, 0.01))
  }
  for (const gone of old.values()) boxes.push(growBox(gone.box, 0.01))
  return boxes
}
