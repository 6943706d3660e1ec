import type { Point3 } from '@tidytrail/core/geometry'
import { placeKey, thingOf, type Collection, type Level } from '@tidytrail/core/level'
import { floorsAt, floorUnder, type Floor } from './floors'
import { footprint } from './footprint'
import { heightAt } from './heights'
import { terrainOf, type Terrain } from './terrain'

/** Which floor something settles on where there are several. */
export const SETTLE_ON = ['below', 'nearest', 'lowest', 'highest'] as const
export type SettleOn = (typeof SETTLE_ON)[number]

/** What settling would do to one thing. */
export interface SettleMove {
  readonly id: string
  /** Where it is and would be; of a solid or mesh the middle of its underside. */
  readonly from: Point3
  readonly to: Point3
  /** How many floors there are at its place. */
  readonly floors: number
}

function choose(floors: readonly Floor[], z: number, on: SettleOn): Floor {
  if (on === 'lowest') return floors[0]
  if (on === 'highest') return floors[floors.length - 1]
  if (on === 'nearest') return floors.reduce((a, b) => (Math.abs(b.z - z) < Math.abs(a.z - z) ? b : a))
  return floorUnder(floors, z)
}

/** The floors a thing may settle on: all at its place, and the water's surface too for what floats. */
function floorsFor(terrain: Terrain, level: Level, x: number, y: number): Floor[] {
  const floors = floorsAt(terrain, x, y)
  const waterM = level.settings.waterLevelM
  if (waterM === null) return floors
  const bed = floors.findIndex((f) => f.z < waterM - 0.5 && f.ceilingM > waterM)
  return bed < 0
    ? floors
    : [
        ...floors.slice(0, bed + 1),
        { z: waterM, ceilingM: floors[bed].ceilingM, surface: -1 },
        ...floors.slice(bed + 1),
      ]
}

/** Where things rest that do not simply stand on the floor below their place: what height they have and would have. */
const RESTS: {
  readonly [C in Collection]?: (level: Level, id: string) => { from: Point3; z: number } | undefined
} = {
  solids(level, id) {
    const solid = level.solids[id]
    const ring = footprint(solid)
    const { field } = terrainOf(level)
    const middle = [0, 1].map((k) => ring.reduce((sum, p) => sum + p[k], 0) / ring.length)
    return {
      from: [middle[0], middle[1], solid.baseM],
      z: Math.min(...ring.map(([x, y]) => heightAt(field, x, y))),
    }
  },
  meshes(level, id) {
    const mesh = level.meshes[id]
    const terrain = terrainOf(level)
    const shape = terrain.meshes.find((m) => m.id === id)
    if (!shape) return undefined
    const x = (shape.box.minX + shape.box.maxX) / 2
    const y = (shape.box.minY + shape.box.maxY) / 2
    return { from: mesh.at, z: heightAt(terrain.field, x, y) - (shape.lowM - mesh.at[2]) }
  },
}

/** Do things of a collection stand on the floor below the one place they have? */
export const standsOnFloor = (collection: Collection): boolean =>
  placeKey(collection) !== undefined && RESTS[collection] === undefined

/** Can things of a collection be settled? */
export const settles = (collection: Collection): boolean =>
  placeKey(collection) !== undefined || RESTS[collection] !== undefined

/**
 * Where things would come to rest; those already there are left out. Waypoints keep their height above the floor; locked
 * things stay.
 */
export function settlePlan(level: Level, ids: readonly string[], on: SettleOn = 'below'): SettleMove[] {
  const terrain = terrainOf(level)
  const moves: SettleMove[] = []
  for (const id of ids) {
    const found = thingOf(level, id)
    if (!found || found.thing.locked || !settles(found.in)) continue
    const special = RESTS[found.in]
    if (special) {
      const rest = special(level, id)
      if (rest) push(id, rest.from, rest.z, 1)
      continue
    }
    const thing = found.thing as { liftM?: number } & Record<string, unknown>
    const at = thing[placeKey(found.in)!] as Point3
    const lift = thing.liftM ?? 0
    const [x, y, z] = at
    const floors = floorsFor(terrain, level, x, y)
    push(id, at, choose(floors, z - lift, on).z + lift, floors.length)
  }
  return moves

  function push(id: string, from: Point3, z: number, floors: number): void {
    const to = Math.round(z * 1000) / 1000
    if (Math.abs(to - from[2]) < 0.0005) return
    moves.push({ id, from, to: [from[0], from[1], to], floors })
  }
}
