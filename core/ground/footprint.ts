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
  /** The flight of stairs it is a step of: steps of one flight belong together. Undefined for all else. */
  readonly flight?: { readonly riserM: number }
  /** What it was made from: what tells whether it has changed. */
  readonly source: Solid
}

/** Sides of the polygon that stands for a cylinder; its corners lie on the circle. */
const ROUND = 32

/** The outline of a solid on the map, anticlockwise, metres. */
export function footprint(solid: Solid): Point2[] {
  if (solid.shape === 'prism') return ringArea(solid.ring) < 0 ? [...solid.ring].reverse() : [...solid.ring]
  if (solid.shape === 'cylinder') {
    return Array.from({ length: ROUND }, (_, k): Point2 => {
      const a = (2 * Math.PI * k) / ROUND
      return [solid.at[0] + solid.radiusM * exact.cos(a), solid.at[1] + solid.radiusM * exact.sin(a)]
    })
  }
  return turnedBox(solid, -solid.sizeX / 2, solid.sizeX / 2)
}

interface Turned {
  at: readonly number[]
  sizeY: number
  turnRad: number
}

/** The part of a turned rectangle between two places along its own x axis. */
function turnedBox(solid: Turned, fromU: number, toU: number): Point2[] {
  const c = exact.cos(solid.turnRad)
  const s = exact.sin(solid.turnRad)
  const hy = solid.sizeY / 2
  const corner = (u: number, v: number): Point2 => [solid.at[0] + u * c - v * s, solid.at[1] + u * s + v * c]
  return [corner(fromU, -hy), corner(toU, -hy), corner(toU, hy), corner(fromU, hy)]
}

/** The shapes a solid is made of: one, but for stairs, which have one for each step. */
export function solidShapes(id: string, solid: Solid): SolidShape[] {
  if (solid.shape !== 'stairs') return [solidShape(id, solid)]
  const { steps, sizeX, heightM, baseM, name, walkable } = solid
  const flight = { riserM: heightM / steps }
  return Array.from({ length: steps }, (_, k) => {
    const ring = turnedBox(solid, sizeX * (k / steps - 0.5), sizeX * ((k + 1) / steps - 0.5))
    const topM = baseM + (heightM * (k + 1)) / steps
    const flat = { riseX: 0, riseY: 0, planeM: topM }
    return { id, name, ring, box: boxOf(ring), baseM, topM, walkable, ...flat, flight, source: solid }
  })
}

function solidShape(id: string, solid: Solid): SolidShape {
  const ring = footprint(solid)
  const topM = solid.baseM + solid.heightM
  const shape = {
    id,
    name: solid.name,
    ring,
    box: boxOf(ring),
    baseM: solid.baseM,
    topM,
    walkable: solid.walkable,
    source: solid,
  }
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
