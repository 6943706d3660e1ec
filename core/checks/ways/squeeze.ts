import { distance2, distanceToBox, mix3, type Point3 } from '@tidytrail/core/geometry'
import { topAt, type SolidShape } from '@tidytrail/core/ground'
import type { Profile } from '@tidytrail/core/level'

export interface Squeeze {
  readonly at: Point3
  readonly widthM: number
  /** What it is between, in words. */
  readonly between: string
  readonly sides: readonly [SolidShape, SolidShape]
}

const EVERY_M = 0.4
const named = (solid: SolidShape) => solid.name || 'a solid'

/**
 * The narrowest place on a line between solids that stand in a body's way on both sides, measured straight across.
 * @param wantedM solids farther apart than this are passed over, metres
 */
export function narrowest(line: readonly Point3[], near: readonly SolidShape[], profile: Profile, wantedM: number) {
  let best: Squeeze | undefined
  for (let i = 1; i < line.length; i++) {
    const length = distance2(line[i - 1], line[i])
    const pieces = Math.max(1, Math.round(length / EVERY_M))
    if (length === 0) continue
    const nx = -(line[i][1] - line[i - 1][1]) / length
    const ny = (line[i][0] - line[i - 1][0]) / length
    for (let k = 0; k <= pieces; k++) {
      const at = mix3(line[i - 1], line[i], k / pieces)
      const left = wallOnSide(at, nx, ny, near, profile, wantedM)
      if (!left) continue
      const right = wallOnSide(at, -nx, -ny, near, profile, wantedM)
      if (!right || left.solid === right.solid) continue
      const widthM = left.m + right.m
      if (widthM >= wantedM || (best && widthM >= best.widthM)) continue
      best = { at, widthM, between: `${named(left.solid)} and ${named(right.solid)}`, sides: [left.solid, right.solid] }
    }
  }
  return best
}

/** The nearest wall straight to one side, within a distance. */
function wallOnSide(
  [x, y, z]: Point3,
  nx: number,
  ny: number,
  near: readonly SolidShape[],
  profile: Profile,
  withinM: number,
): { solid: SolidShape; m: number } | undefined {
  let best: { solid: SolidShape; m: number } | undefined
  for (const solid of near) {
    if (solid.baseM >= z + profile.heightM || solid.topM <= z + profile.stepM) continue
    if (distanceToBox(solid.box, x, y) > withinM) continue
    const { ring } = solid
    for (let a = ring.length - 1, b = 0; b < ring.length; a = b++) {
      const ex = ring[b][0] - ring[a][0]
      const ey = ring[b][1] - ring[a][1]
      const cross = nx * ey - ny * ex
      if (cross === 0) continue
      const ax = ring[a][0] - x
      const ay = ring[a][1] - y
      const m = (ax * ey - ay * ex) / cross
      const share = (ax * ny - ay * nx) / cross
      if (m < 0 || m > withinM || share < 0 || share > 1 || (best && m >= best.m)) continue
      if (topAt(solid, x + nx * m, y + ny * m) <= z + profile.stepM) continue
      best = { solid, m }
    }
  }
  return best
}
