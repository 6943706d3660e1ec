import { boxOf, exact, ringArea, type Box2, type Point2 } from '@tidytrail/core/geometry'
import type { Solid } from '@tidytrail/core/level'

/** A solid made ready for questions about where it stands and how high it is. */
export interface SolidShape {
  readonly id: string
  readonly name: string
  /** Its outline on the map, anticlockwise. */
  readonly ring: readonly Point2[]
  readonly box: Box2
  readonly baseM: number
  readonly topM: number
  readonly walkable: boolean
  /** Rise of the top to the east and north; zero but for ramps. */
  readonly riseX: number
  readonly riseY: number
  /** Height of the top plane at x = y = 0, used for ramps. */
  readonly planeM: number
}

/** The outline of a solid on the map, anticlockwise, metres. */
export function footprint(solid: Solid): Point2[] {
  if (solid.shape === 'prism') return ringArea(solid.ring) < 0 ? [...solid.ring].reverse() : [...solid.ring]
  const c = exact.cos(solid.turnRad)
  const s = exact.sin(solid.turnRad)
  const hx = solid.sizeX / 2
  const hy = solid.sizeY / 2
  const corner = (u: number, v: number): Point2 => [solid.at[0] + u * c - v * s, solid.at[1] + u * s + v * c]
  return [corner(-hx, -hy), corner(hx, -hy), corner(hx, hy), corner(-hx, hy)]
}

export function solidShape(id: string, solid: Solid): SolidShape {
  const ring = footprint(solid)
  const topM = solid.baseM + solid.heightM
  const shape = { id, name: solid.name, ring, box: boxOf(ring), baseM: solid.baseM, topM, walkable: solid.walkable }
  if (solid.shape !== 'ramp') return { ...shape, riseX: 0, riseY: 0, planeM: topM }
  const rise = solid.heightM / solid.sizeX
  const riseX = rise * exact.cos(solid.turnRad)
  const riseY = rise * exact.sin(solid.turnRad)
  const middle = solid.baseM + solid.heightM / 2
  return { ...shape, riseX, riseY, planeM: middle - riseX * solid.at[0] - riseY * solid.at[1] }
}

/** Height of a solid's top over a place, metres; only meaningful over its outline. */
export function topAt(shape: SolidShape, x: number, y: number): number {
  if (shape.riseX === 0 && shape.riseY === 0) return shape.topM
  return Math.min(shape.topM, Math.max(shape.baseM, shape.planeM + shape.riseX * x + shape.riseY * y))
}
