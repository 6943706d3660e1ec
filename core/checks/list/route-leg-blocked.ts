import { mix3, type Point3 } from '@tidytrail/core/geometry'
import { legsOf } from '@tidytrail/core/network'
import { whyNotHere } from '@tidytrail/core/reach'
import { metres } from '../words'
import type { Check, Look } from '../check'
import type { Finding } from '../finding'
import { moveToReach } from '../moving'
import { judgedBy, travellers } from '../travellers'

export const routeLegBlocked: Check = {
  id: 'route.leg-blocked',
  stage: 'routes',
  severity: 'blocker',
  sentence: 'There is no way for the route’s agents from one stop to the next.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    if (route.kind === 'network') return []
    const found: Omit<Finding, 'check' | 'stage' | 'severity'>[] = []
    const profiles = travellers(look, id)
    const places = route.order.map((s) => look.level.thing('waypoints', route.stops[s].waypointId)!)
    const legs = legsOf(route)
    const paths = new Map(profiles.map((p) => [p, look.reach.legs(p, id)]))
    for (const [n, leg] of legs.entries()) {
      const fromId = route.stops[route.order[leg.from]].waypointId
      const toId = route.stops[route.order[leg.to]].waypointId
      const from = places[leg.from]
      const to = places[leg.to]
      for (const profileId of profiles) {
        const path = paths.get(profileId)?.[n]
        // Ends out of reach are findings of their own.
        if (!path || path.found || path.why !== 'apart') continue
        const map = look.reach.map(profileId, to.at, 0)!
        const name = look.level.thing('profiles', profileId)!.name
        const stopsAt = path.stopsAt ?? mix3(from.at, to.at, 0.5)
        const label = `leg ${leg.from + 1} to ${leg.to + 1} of ${route.name}`
        const a = look.reach.island(profileId, from.at)
        const b = look.reach.island(profileId, to.at)
        if (route.legs === 'drawn' && a === b) {
          found.push({
            subjects: [id, fromId, toId],
            at: stopsAt,
            message: `${name} cannot walk ${label} as drawn: ${inTheWay(look, profileId, stopsAt, to.at)}.${judgedBy(look, id)}`,
            fix: {
              label: 'Find a way round',
              edit: 'changeThings',
              args: { in: 'routes', changes: { [id]: { legs: 'found' } } },
            },
          })
        } else {
          const stranded =
            (b ?? 0) > (a ?? 0) ? { id: toId, at: to.at, n: leg.to } : { id: fromId, at: from.at, n: leg.from }
          found.push({
            subjects: [id, fromId, toId],
            at: stopsAt,
            message: `${name} cannot walk ${label}: ${whatParts(look, profileId, a, b)}.${judgedBy(look, id)}`,
            ...moveToReach(map, stranded.id, `stop ${stranded.n + 1}`, stranded.at, Math.min(a ?? 0, b ?? 0)),
          })
        }
        break
      }
    }
    return found
  },
}

/** How far beyond where a walk stops it is asked what is there, metres. */
const BEYOND_M = [0.02, 0.1, 0.3, 0.6]

/** What stops a straight walk, asked of the places just beyond where it ends. */
function inTheWay(look: Look, profileId: string, at: Point3, to: Point3): string {
  const map = look.reach.map(profileId, at, 1)
  const length = Math.sqrt((to[0] - at[0]) ** 2 + (to[1] - at[1]) ** 2)
  for (const m of BEYOND_M) {
    if (!map || m > length) break
    const why = whyNotHere(map, [at[0] + ((to[0] - at[0]) * m) / length, at[1] + ((to[1] - at[1]) * m) / length, at[2]])
    if (why) return `it gets to where it is ${why}`
  }
  return 'the floor ends, or is another one there'
}

/** By how much two islands miss each other where they come nearest. */
function whatParts(look: Look, profileId: string, a: number | undefined, b: number | undefined): string {
  const nothing = 'nothing joins the two sides'
  if (a === undefined || b === undefined || a === b) return nothing
  const gap = look.reach.gap(profileId, a, b)
  const profile = look.level.thing('profiles', profileId)
  if (!gap || !profile) return nothing
  const rise = Math.abs(gap.riseM)
  const apart = `${nothing}; where they come nearest they are ${metres(gap.widthM)} apart`
  return rise < 0.05
    ? apart
    : `${apart} and ${metres(rise)} in height, and ${profile.name} steps ${metres(profile.stepM)}`
}
