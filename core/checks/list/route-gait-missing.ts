import type { Check } from '../check'
import { stopPlaces } from '../stops'

export const routeGaitMissing: Check = {
  id: 'route.gait-missing',
  stage: 'routes',
  severity: 'blocker',
  sentence: 'A stop asks for a gait that the agents who follow the route do not have.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    const asked = route.order.filter((s) => route.stops[s].gait !== null)
    if (asked.length === 0) return []
    const told = new Set(look.graph.followers(id).flatMap((s) => look.level.thing('spawners', s)?.profileId ?? []))
    for (const profileId of [...told].sort()) {
      const profile = look.level.thing('profiles', profileId)
      const missing = asked.filter((s) => profile && !Object.hasOwn(profile.gaits, route.stops[s].gait!))
      if (!profile || missing.length === 0) continue
      const n = route.order.indexOf(missing[0])
      return [
        {
          subjects: [id, ...missing.map((s) => route.stops[s].waypointId)],
          at: stopPlaces(look, route)[n],
          message: `Stop ${n + 1} of ${route.name} asks for “${route.stops[missing[0]].gait}”; ${profile.name} knows ${Object.keys(profile.gaits).join(', ')}.`,
          fix: {
            label: `Let ${missing.length === 1 ? 'it' : `all ${missing.length} stops`} keep the usual gait`,
            edit: 'changeStops',
            args: { stops: { [id]: missing }, set: { gait: null } },
          },
        },
      ]
    }
    return []
  },
}
