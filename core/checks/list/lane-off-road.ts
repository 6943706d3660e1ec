import { mix3, type Point3 } from '@tidytrail/core/geometry'
import { admits } from '@tidytrail/core/level'
import { legsOf } from '@tidytrail/core/network'
import { nearestOnLine, placeAt } from '@tidytrail/core/traffic'
import type { Check } from '../check'
import { wayName } from '../lanes'
import { travellers } from '../travellers'
import { inTheWay } from '../ways/in-the-way'

/** So far beyond where it stops it is asked why, metres. */
const ON_M = 1

export const laneOffRoad: Check = {
  id: 'lane.off-road',
  stage: 'routes',
  severity: 'warning',
  sentence:
    'A lane, or the way from one into another, leads over ground on which somebody who may come along it cannot drive.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    const lane = route.kind === 'lane' ? look.lanes.lane(id) : undefined
    if (!lane) return []
    const comers = look.lanes.comers(id)
    if (comers.length === 0) return []
    const tell = (profileId: string, subjects: string[], what: string, at: Point3, to: Point3) => ({
      subjects,
      at,
      message: `${look.level.thing('profiles', profileId)!.name} may come along ${what} and cannot drive there: ${inTheWay(look, profileId, at, to)}.`,
    })
    // Those who are told to follow it are told of leg by leg.
    const told = new Set(travellers(look, id))
    const places = route.order.map((s) => look.level.thing('waypoints', route.stops[s].waypointId)!.at)
    const legs = legsOf(route)
    const onIt = () => {
      for (const profileId of comers) {
        if (told.has(profileId)) continue
        const paths = look.reach.legs(profileId, id) ?? []
        for (const [k, path] of paths.entries()) {
          if (path.found) continue
          const [from, to] = [places[legs[k].from], places[legs[k].to]]
          return [tell(profileId, [id], route.name, path.stopsAt ?? mix3(from, to, 0.5), to)]
        }
      }
      return []
    }
    const ways = look.lanes.out(id).flatMap(({ linkId, line, to }) => {
      const into = look.level.thing('routes', to)
      if (linkId === undefined || !into) return []
      for (const profileId of comers) {
        const path = admits(into, profileId) ? look.reach.alongWay(profileId, linkId) : undefined
        if (!path || path.found) continue
        const at = path.stopsAt ?? line.places[0]
        const on = placeAt(line, nearestOnLine(line, at).m + ON_M)
        return [tell(profileId, [linkId, id, to], wayName(look, linkId), at, on)]
      }
      return []
    })
    return [...onIt(), ...ways]
  },
}
