import { footprint } from '@tidytrail/core/ground'
import type { Solid } from '@tidytrail/core/level'
import { toMillimetre, type Point2 } from '@tidytrail/core/geometry'

/** How far beyond the side the turning handle stands, metres. */
const TURN_HANDLE_M = 3
/** Which handle turns a box, ramp or flight of stairs: the one after its corners. */
export const TURN_HANDLE = 4

/** Can a solid be turned? Round ones and those of free outline cannot. */
export const turns = (solid: Solid): solid is Extract<Solid, { turnRad: number }> => 'turnRad' in solid

/** Where a solid can be taken hold of: its corners, and a handle to turn it by (the last); a cylinder by its rim. */
export function handlesOf(solid: Solid): Point2[] {
  if (solid.shape === 'cylinder') return [[solid.at[0] + solid.radiusM, solid.at[1]]]
  const ring = footprint(solid)
  if (!turns(solid)) return ring
  const reach = solid.sizeX / 2 + TURN_HANDLE_M
  return [...ring, [solid.at[0] + Math.cos(solid.turnRad) * reach, solid.at[1] + Math.sin(solid.turnRad) * reach]]
}

/** What changes when a handle is dragged to a place. */
export function dragHandle(solid: Solid, handle: number, [x, y]: Point2, keepRound: boolean): Partial<Solid> {
  if (solid.shape === 'cylinder') {
    const radiusM = Math.max(0.1, Math.hypot(x - solid.at[0], y - solid.at[1]))
    return { radiusM: toMillimetre(radiusM) } as Partial<Solid>
  }
  if (!turns(solid)) {
    const ring = footprint(solid).map(([px, py]): [number, number] => [px, py])
    ring[handle] = [toMillimetre(x), toMillimetre(y)]
    return { ring } as Partial<Solid>
  }
  if (handle === TURN_HANDLE) {
    let turnRad = Math.atan2(y - solid.at[1], x - solid.at[0])
    if (keepRound) turnRad = (Math.round(turnRad / (Math.PI / 12)) * Math.PI) / 12
    return { turnRad: Math.round(turnRad * 10_000) / 10_000 } as Partial<Solid>
  }
  // The opposite corner stays; sizes are measured along the solid's own axes.
  const fixed = footprint(solid)[(handle + 2) % 4]
  const c = Math.cos(solid.turnRad)
  const s = Math.sin(solid.turnRad)
  const u = (x - fixed[0]) * c + (y - fixed[1]) * s
  const v = -(x - fixed[0]) * s + (y - fixed[1]) * c
  const sizeX = Math.max(0.1, Math.abs(u))
  const sizeY = Math.max(0.1, Math.abs(v))
  const du = Math.sign(u || 1) * sizeX
  const dv = Math.sign(v || 1) * sizeY
  return {
    sizeX: toMillimetre(sizeX),
    sizeY: toMillimetre(sizeY),
    at: [toMillimetre(fixed[0] + (du * c - dv * s) / 2), toMillimetre(fixed[1] + (du * s + dv * c) / 2)],
  } as Partial<Solid>
}

/** What changes when a solid is moved by so much. */
export function movedBy(solid: Solid, dx: number, dy: number): Partial<Solid> {
  const shift = (p: readonly number[]): [number, number] => [toMillimetre(p[0] + dx), toMillimetre(p[1] + dy)]
  return (solid.shape === 'prism' ? { ring: solid.ring.map(shift) } : { at: shift(solid.at) }) as Partial<Solid>
}
