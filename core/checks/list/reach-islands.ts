import { mix3, type Point3 } from '@tidytrail/core/geometry'
import { filledStep, placeNamed, type BriefStep } from '@tidytrail/core/level'
import type { Check, Look } from '../check'
import { nearestMiss } from '../ways/miss'
import { moveToReach, MOST_MOVED_M } from '../moving'
import { briefOfSpawner } from '../told-by'

export const reachIslands: Check = {
  id: 'reach.islands',
  stage: 'reach',
  severity: 'blocker',
  sentence: 'A spawner and what its agents are told to go to lie on islands nothing joins.',
  each: 'spawners',
  run(look, id) {
    const spawner = look.level.thing('spawners', id)!
    const briefId = briefOfSpawner(look, spawner)
    const brief = briefId ? look.level.thing('briefs', briefId) : undefined
    // Where it appears somewhere in a zone or along a route, it is not its spot that counts.
    if (!brief || !spawner.profileId || (spawner.where !== 'spot' && spawner.where !== 'ranks')) return []
    const here = look.reach.island(spawner.profileId, spawner.at)
    if (here === undefined) return []
    let profileId = spawner.profileId
    let from: Point3 = spawner.at
    for (const stepId of brief.order) {
      const step = filledStep(brief.steps[stepId], spawner.fills)
      if (step.whenId !== null) continue
      if (step.kind === 'board') {
        const vehicle = step.spawnerId ? look.level.thing('spawners', step.spawnerId) : undefined
        const wanted = vehicle && boarding(look, profileId, vehicle.at, vehicle.profileId)
        if (wanted && apart(look, profileId, from, wanted))
          return [
            {
              subjects: [id, step.spawnerId!],
              at: spawner.at,
              message: `${spawner.name} cannot get to ${vehicle.name}, which it is to board: nothing joins the islands they are on.`,
              ...moveToReach(
                look.reach.map(profileId, spawner.at, MOST_MOVED_M)!,
                id,
                'the spawner',
                spawner.at,
                look.reach.island(profileId, wanted),
              ),
            },
          ]
        if (!vehicle?.profileId) return []
        profileId = vehicle.profileId
        from = vehicle.at
        continue
      }
      // Where it is after driving about is not known.
      if (step.kind === 'get-out') return []
      const goal = goalOf(look, step)
      if (!goal) continue
      const [there, island] = [goal.at, look.reach.island(profileId, goal.at)]
      const own = look.reach.island(profileId, from)
      if (island === undefined || own === undefined || !apart(look, profileId, from, there)) continue
      const map = look.reach.map(profileId, spawner.at, MOST_MOVED_M)!
      const miss = nearestMiss(look, {
        profileId,
        from,
        to: there,
        spawnerIds: [id],
        things: [
          { in: 'spawners', id, at: spawner.at },
          { in: goal.in, id: goal.id, at: there },
        ],
        key: [id, goal.subject],
        near: mix3(from, there, 0.5),
      })
      const area = (n: number) => `${Math.round(map.islands.list[n].areaM2)} m²`
      return [
        {
          subjects: [id, goal.subject],
          at: spawner.at,
          message: `${spawner.name} is on an island of ${area(own)}, and ${goal.what} on another of ${area(island)}; ${miss.words}.`,
          ways: miss.ways,
          ...(profileId === spawner.profileId ? moveToReach(map, id, 'the spawner', spawner.at, island) : {}),
        },
      ]
    }
    return []
  },
}

/** Are two places on islands no passage joins? */
function apart(look: Look, profileId: string, from: Point3, to: Point3): boolean {
  const [a, b] = [look.reach.island(profileId, from), look.reach.island(profileId, to)]
  if (a === undefined || b === undefined || a === b) return false
  const path = look.reach.path(profileId, from, to, 'found')
  return path !== undefined && !path.found
}

/** Where somebody would stand who boards something. */
function boarding(look: Look, profileId: string, at: Point3, vehicleId: string | null): Point3 | undefined {
  const radiusM = (vehicleId ? look.level.thing('profiles', vehicleId)?.radiusM : undefined) ?? 1
  return look.reach.map(profileId, at, radiusM + 3)?.nearestReached(...at, radiusM + 2.5)?.at
}

/** Where a step leads first: the start of a route, a marker, a post. */
function goalOf(look: Look, step: BriefStep) {
  if (step.kind === 'follow-route') {
    const route = step.routeId ? look.level.thing('routes', step.routeId) : undefined
    if (!route || route.order.length < 2) return undefined
    const waypointId = route.stops[route.order[0]].waypointId
    const { at } = look.level.thing('waypoints', waypointId)!
    return { in: 'waypoints' as const, id: waypointId, at, subject: step.routeId!, what: `${route.name} begins` }
  }
  if (!('markerId' in step)) return undefined
  const { key, id } = placeNamed(step)
  if (!id || key === 'zoneId') return undefined
  const collection = key === 'postId' ? ('posts' as const) : ('markers' as const)
  const place = look.level.thing(collection, id)
  return place && { in: collection, id, at: place.at, subject: id, what: `${place.name} is` }
}
