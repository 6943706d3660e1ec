import { exact } from '@tidytrail/core/geometry'
import { bodyOf } from '@tidytrail/core/level'
import type { Check } from '../check'
import { stopPlaces } from '../stops'
import { briefOfSpawner } from '../told-by'

/** Farther than this from the way it is to go it faces against it, radians. */
const AGAINST_RAD = (100 * Math.PI) / 180

export const spawnerFacing: Check = {
  id: 'spawner.facing',
  stage: 'cast',
  severity: 'warning',
  sentence: 'What cannot turn where it stands appears facing against the way it is to go.',
  each: 'spawners',
  run(look, id) {
    const spawner = look.level.thing('spawners', id)!
    const profile = spawner.profileId ? look.level.thing('profiles', spawner.profileId) : undefined
    if (!profile || bodyOf(profile.medium).turnsOnTheSpot || !FACED.has(spawner.where)) return []
    const briefId = briefOfSpawner(look, spawner)
    const brief = briefId ? look.level.thing('briefs', briefId) : undefined
    const step = brief && brief.steps[brief.order.find((s) => brief.steps[s].whenId === null) ?? '']
    if (step?.kind !== 'follow-route' || !step.routeId) return []
    const route = look.level.thing('routes', step.routeId)
    if (!route || route.order.length < 2) return []
    const [first, second] = stopPlaces(look, route)
    const near = (spawner.at[0] - first[0]) ** 2 + (spawner.at[1] - first[1]) ** 2 < 1
    const [from, to] = near ? [first, second] : [spawner.at, first]
    const wantedRad = exact.atan2(to[1] - from[1], to[0] - from[0])
    const offRad = Math.abs(
      exact.atan2(exact.sin(wantedRad - spawner.facingRad), exact.cos(wantedRad - spawner.facingRad)),
    )
    if (offRad <= AGAINST_RAD) return []
    return [
      {
        subjects: [id, step.routeId],
        at: spawner.at,
        message: `${spawner.name} sends ${profile.name} facing ${Math.round((offRad * 180) / Math.PI)}° off the way it is to go, and it cannot turn where it stands.`,
        fix: {
          label: 'Turn it along its route',
          edit: 'changeThings',
          args: { in: 'spawners', changes: { [id]: { facingRad: Math.round(wantedRad * 1000) / 1000 } } },
        },
      },
    ]
  },
}
const FACED: ReadonlySet<string> = new Set(['spot', 'spots', 'ranks'])
