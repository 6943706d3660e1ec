import { bodyOf } from '@tidytrail/core/level'
import { degrees, distance2, exact } from '@tidytrail/core/geometry'
import { legsOf } from '@tidytrail/core/network'
import type { Check } from '../check'
import { stopPlaces } from '../stops'
import { judgedBy, travellers } from '../travellers'

/** A way this near to the steepest a profile can go is too steep to look well. */
const SHARE = 0.9
/** Slopes are measured over about so many metres, so that a single step does not count. */
const OVER_M = 2

export const routeSteep: Check = {
  id: 'route.steep',
  stage: 'routes',
  severity: 'warning',
  sentence: 'A leg leads up or down a slope that is hardly less than the steepest its agents can go.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    if (route.kind === 'network') return []
    stopPlaces(look, route)
    for (const profileId of travellers(look, id)) {
      const profile = look.level.thing('profiles', profileId)
      if (!profile || !bodyOf(profile.medium).stands) continue
      const most = exact.tan(Math.min(profile.maxSlopeRad, 1.5)) * SHARE
      const paths = look.reach.legs(profileId, id)
      for (const [n, { from, to }] of legsOf(route).entries()) {
        const path = paths?.[n]
        if (!path?.found) continue
        const line = look.reach.heightsAlong(profileId, path, OVER_M)
        for (let i = 1; i < line.length; i++) {
          const run = distance2(line[i - 1], line[i])
          const rise = Math.abs(line[i][2] - line[i - 1][2])
          // A step up is climbed, not walked; passages have no slope.
          if (run < OVER_M / 2 || rise <= profile.stepM || rise / run < most) continue
          if (path.uses.length > 0 && run > 0 && rise / run > 4) continue
          const slope = degrees(exact.atan2(rise, run))
          return [
            {
              subjects: [id, route.stops[route.order[from]].waypointId],
              at: line[i],
              message: `Leg ${from + 1} to ${to + 1} of ${route.name} leads over a slope of ${slope.toFixed(0)}°; ${profile.name} manages ${degrees(profile.maxSlopeRad).toFixed(0)}°.${judgedBy(look, id)}`,
            },
          ]
        }
      }
    }
    return []
  },
}
