import { boxOf, distance2, distanceToBox, mix3, type Point3 } from '@tidytrail/core/geometry'
import { topAt, type SolidShape } from '@tidytrail/core/ground'
import { bodyOf, type Profile } from '@tidytrail/core/level'
import { legsOf } from '@tidytrail/core/network'
import type { Check } from '../check'
import { stopPlaces } from '../stops'
import { judgedBy, travellers } from '../travellers'
import { metres } from '../words'

/** Room a body should have beside its own width, metres. */
const MARGIN_M = 0.4
const EVERY_M = 0.4

export const reachNarrow: Check = {
  id: 'reach.narrow',
  stage: 'reach',
  severity: 'note',
  sentence: 'A leg squeezes through a gap hardly wider than the body.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    if (route.kind === 'network') return []
    stopPlaces(look, route)
    for (const profileId of travellers(look, id)) {
      const profile = look.level.thing('profiles', profileId)!
      if (bodyOf(profile.medium).flies) continue
      const wantedM = 2 * profile.radiusM + MARGIN_M
      const paths = look.reach.legs(profileId, id)
      for (const [n, leg] of legsOf(route).entries()) {
        const path = paths?.[n]
        if (!path?.found) continue
        const lowM = Math.min(...path.line.map((p) => p[2]))
        const near = look.ground.solidsIn(boxOf(path.line, wantedM)).filter((s) => s.topM > lowM + profile.stepM)
        if (near.length < 2) continue
        const squeeze = narrowest(path.line, near, profile, wantedM)
        if (!squeeze) continue
        return [
          {
            subjects: [id, route.stops[route.order[leg.from]].waypointId],
            at: squeeze.at,
            message: `Leg ${leg.from + 1} to ${leg.to + 1} of ${route.name} squeezes ${profile.name} through ${metres(squeeze.widthM)} between ${squeeze.names}; ${metres(wantedM)} would be easy.${judgedBy(look, id)}`,
          },
        ]
      }
    }
    return []
  },
}

function narrowest(line: readonly Point3[], near: readonly SolidShape[], profile: Profile, wantedM: number) {
  let best: { at: Point3; widthM: number; names: string } | undefined
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
      best = { at, widthM, names: `${left.solid.name || 'a solid'} and ${right.solid.name || 'a solid'}` }
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
