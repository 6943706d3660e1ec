import { boxOf } from '@tidytrail/core/geometry'
import { bodyOf } from '@tidytrail/core/level'
import { legsOf } from '@tidytrail/core/network'
import type { Check } from '../check'
import { stopPlaces } from '../stops'
import { judgedBy, travellers } from '../travellers'
import { narrowest } from '../ways/squeeze'
import { metres } from '../words'

/** Room a body should have beside its own width, metres. */
const MARGIN_M = 0.4

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
            message: `Leg ${leg.from + 1} to ${leg.to + 1} of ${route.name} squeezes ${profile.name} through ${metres(squeeze.widthM)} between ${squeeze.between}; ${metres(wantedM)} would be easy.${judgedBy(look, id)}`,
          },
        ]
      }
    }
    return []
  },
}
