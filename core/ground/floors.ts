import { ringHolds } from '@tidytrail/core/geometry'
import { topAt } from './footprint'
import { heightAt } from './heights'
import { meshSpansAt } from './mesh'
import type { Terrain } from './terrain'

/** Code of the ground among surfaces; solids have their index, meshes −2 less theirs. */
export const GROUND = -1
export const meshSurface = (mesh: number) => -2 - mesh
/** Is a surface's code that of a mesh? */
export const isMeshSurface = (surface: number) => surface < GROUND
export const meshOfSurface = (surface: number) => -2 - surface

/** A surface at one place with free air above it. */
export interface Floor {
  /** Height, metres. */
  z: number
  /** Height of what hangs above it, metres; Infinity under open sky. */
  ceilingM: number
  /** What it is the top of: an index into the terrain's solids, GROUND, or the code of a mesh. */
  surface: number
}

/** What a surface is called, and the id of what it belongs to; undefined for the ground. */
export function surfaceThing(terrain: Terrain, surface: number): { id: string; name: string } | undefined {
  const thing = surface >= 0 ? terrain.solids[surface] : terrain.meshes[meshOfSurface(surface)]
  return thing && { id: thing.id, name: thing.name || (surface >= 0 ? 'a solid' : 'a mesh') }
}

/** May anyone stand on a surface? */
export function surfaceWalkable(terrain: Terrain, surface: number): boolean {
  if (surface === GROUND) return true
  return surface >= 0 ? terrain.solids[surface].walkable : terrain.meshes[meshOfSurface(surface)].walkable
}

/** Every floor at a place, lowest first. */
export function floorsAt(terrain: Terrain, x: number, y: number): Floor[] {
  const here = { minX: x, minY: y, maxX: x, maxY: y }
  const spans = terrain
    .near(here)
    .filter((k) => ringHolds(terrain.solids[k].ring, x, y))
    .map((k) => ({ baseM: terrain.solids[k].baseM, topM: topAt(terrain.solids[k], x, y), surface: k }))
  terrain.meshes.forEach((mesh, k) => {
    if (x < mesh.box.minX || x > mesh.box.maxX || y < mesh.box.minY || y > mesh.box.maxY) return
    meshSpansAt(mesh, x, y, (baseM, topM) => spans.push({ baseM, topM, surface: meshSurface(k) }))
  })
  spans.sort((a, b) => a.baseM - b.baseM || a.surface - b.surface)
  // Of two tops at one height the one that may be walked on counts; the ground always may.
  const isShut = (surface: number) => !surfaceWalkable(terrain, surface)
  const floors: Floor[] = []
  let top = { z: heightAt(terrain.field, x, y), surface: GROUND }
  for (const span of spans) {
    if (span.baseM > top.z) {
      floors.push({ ...top, ceilingM: span.baseM })
      top = { z: span.topM, surface: span.surface }
    } else if (span.topM > top.z || (span.topM === top.z && isShut(top.surface) && !isShut(span.surface))) {
      top = { z: span.topM, surface: span.surface }
    }
  }
  floors.push({ ...top, ceilingM: Infinity })
  return floors
}

/**
 * The floor a thing at height z belongs to: the highest one not above it by more than a hand's width, or the lowest
 * floor of all when it is below every one.
 */
export function floorUnder(floors: readonly Floor[], z: number, toleranceM = 0.25): Floor {
  let best = floors[0]
  for (const floor of floors) if (floor.z <= z + toleranceM) best = floor
  return best
}
