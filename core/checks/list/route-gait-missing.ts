import type { Check } from '../check'
import { stopPlaces } from '../stops'
import { briefOfSpawner } from '../told-by'

const about = {
  id: 'route.gait-missing',
  stage: 'routes',
  severity: 'blocker',
  sentence: 'A stop or a brief asks for a gait that the agents who are told so do not have.',
} as const

const gaitOfBrief: Check = {
  ...about,
  each: 'spawners',
  run(look, id) {
    const spawner = look.level.thing('spawners', id)!
    const profile = spawner.profileId ? look.level.thing('profiles', spawner.profileId) : undefined
    const briefId = briefOfSpawner(look, spawner)
    const brief = briefId ? look.level.thing('briefs', briefId) : undefined
    if (!profile || !brief) return []
    let aboard = false
    for (const [n, stepId] of brief.order.entries()) {
      const step = brief.steps[stepId]
      // What is boarded has gaits of its own.
      if (step.kind === 'board' || step.kind === 'get-out') aboard = step.kind === 'board'
      if (aboard || !('gait' in step) || step.gait === null || Object.hasOwn(profile.gaits, step.gait)) continue
      return [
        {
          subjects: [id, briefId!],
          at: spawner.at,
          message: `Step ${n + 1} of ${brief.name} asks for “${step.gait}”; ${profile.name} of ${spawner.name} knows ${Object.keys(profile.gaits).join(', ')}.`,
          fix: {
            label: 'Let it keep the usual gait',
            edit: 'changeThings',
            args: {
              in: 'briefs',
              changes: { [briefId!]: { steps: { ...brief.steps, [stepId]: { ...step, gait: null } } } },
            },
          },
        },
      ]
    }
    return []
  },
}

const gaitOfStop: Check = {
  ...about,
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    const asked = route.order.filter((s) => route.stops[s].gait !== null)
    if (asked.length === 0) return []
    for (const profileId of look.graph.bodies(id)) {
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

export const routeGaitMissing: readonly Check[] = [gaitOfStop, gaitOfBrief]
