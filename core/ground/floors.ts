import { ringHolds } from '@tidytrail/core/geometry'
import { topAt } from './footprint'
import { heightAt } from './heights'
import type { Terrain } from './terrain'

/** A surface at one place with free air above it. */
export interface Floor {
  /** Height, metres. */
  z: number
  /** Height of what hangs above it, metres; Infinity under open sky. */
  ceilingM: number
  /** The solid it is the top of, as an index into the terrain's solids, or −1 for the ground. */
  solid: number
}

/** Every floor at a place, lowest first. */
export function floorsAt(terrain: Terrain, x: number, y: number): Floor[] {
  const spans = terrain
    .near({ minX: x, minY: y, maxX: x, maxY: y })
    .filter((k) => ringHolds(terrain.solids[k].ring, x, y))
    .map((k) => ({ baseM: terrain.solids[k].baseM, topM: topAt(terrain.solids[k], x, y), solid: k }))
    .sort((a, b) => a.baseM - b.baseM || a.solid - b.solid)
  // Of two tops at one height the one that may be walked on counts; the ground always may.
  const isShut = (solid: number) => solid >= 0 && !terrain.solids[solid].walkable
  const floors: Floor[] = []
  let top = { z: heightAt(terrain.field, x, y), solid: -1 }
  for (const span of spans) {
    if (span.baseM > top.z) {
      floors.push({ ...top, ceilingM: span.baseM })
      top = { z: span.topM, solid: span.solid }
    } else if (span.topM > top.z || (span.topM === top.z && isShut(top.solid) && !isShut(span.solid))) {
      top = { z: span.topM, solid: span.solid }
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
