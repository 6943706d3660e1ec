import { growBox, type Box2 } from '@tidytrail/core/geometry'
import { surfaceThing, type Floor, type SolidShape } from '@tidytrail/core/ground'
import type { Notes } from './notes'

/** Places nearer than this are the same, metres. */
const SAME_PLACE_M = 0.05
/** Code of the water's surface among surfaces. */
export const WATER = -1_000_000_000

/** What is read of the ground and what stands on it. */
export class LookAtGround {
  constructor(private readonly notes: Notes) {}

  /** What something can rest on at a place, lowest first: floors, and the water's surface where there is water. */
  floors(x: number, y: number): Floor[] {
    this.notes.noteBox(growBox({ minX: x, minY: y, maxX: x, maxY: y }, SAME_PLACE_M))
    const floors = this.notes.view.floorsAt(x, y)
    const waterM = this.notes.note('settings', (v) => v.level.settings.waterLevelM)
    if (waterM === null) return floors
    const bed = floors.findIndex((f) => f.z < waterM && f.ceilingM > waterM)
    if (bed < 0) return floors
    const { ceilingM } = floors[bed]
    return [
      ...floors.slice(0, bed),
      { ...floors[bed], ceilingM: waterM },
      { z: waterM, ceilingM, surface: WATER },
      ...floors.slice(bed + 1),
    ]
  }

  /** The solids whose outline may meet a box. */
  solidsIn(box: Box2): readonly SolidShape[] {
    this.notes.noteBox(box)
    const { terrain } = this.notes.view
    return terrain.near(box).map((k) => terrain.solids[k])
  }

  /** What a surface is called, with the id of what it belongs to; undefined for the ground. */
  surface(surface: number): { id: string; name: string } | undefined {
    return surface === WATER ? { id: '', name: 'the water' } : surfaceThing(this.notes.view.terrain, surface)
  }
}
