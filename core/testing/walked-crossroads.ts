import { addAndSet, addLinks, changeThings, levelSchema, WARDEN, type Level, type Route } from '@tidytrail/core/level'
import { crossingOver, laneNet, suggestWalkJoins, usualPhases, walkNet } from '@tidytrail/core/traffic'
import { crossroads } from './lanes-level'
import { settled, WAGON, WALK_ABOUT, withStreams } from './traffic'

/** The arms of the crossroads, by the keys of their roads; a crossing is called rt_x<key>. */
export const ARMS = ['n', 'e', 's', 'w'] as const

/**
 * A crossroads at the middle of 400 m with pavements, a crossing over each arm so far before its end, and signals of the
 * usual stages, in which those who walk have green too.
 */
export function walkedCrossroads(
  drivesOn: 'left' | 'right' = 'left',
  { beforeM = 4, reachM = 90, atCrossings = 'vehicles' as Route['atCrossings'] } = {},
): Level {
  const endsM = 11
  let level = crossroads(drivesOn, { pavementLeftM: 2.4, pavementRightM: 2.4, laneM: 3 }, { endsM, reachM })
  for (const key of ARMS) {
    const laneId = `rt_x${key}`
    const add = crossingOver(level, `rd_${key}`, reachM - endsM - beforeM, { laneId, fromId: `wp_x${key}a`, toId: `wp_x${key}b` }) // prettier-ignore
    level = addAndSet.apply(level, { add, set: [{ in: 'routes', id: laneId, set: { atCrossings } }], label: 'Lay' }).level // prettier-ignore
  }
  const corners = suggestWalkJoins(walkNet(level), laneNet(level)).map((s, k) => ({
    id: `ln_w${k}`,
    fromId: s.fromWaypointId,
    toId: s.toWaypointId,
    twoWay: true,
  }))
  level = addLinks.apply(level, { links: corners }).level
  const set = (values: object) =>
    (level = changeThings.apply(level, { in: 'junctions', changes: { jn_0: values } }).level)
  set({ control: 'signals' })
  set({ phases: usualPhases(level, laneNet(level), level.junctions.jn_0) })
  return settled(level)
}

/** The same with streams onto all arms, and people who walk about from pavement to pavement. */
export function busyCrossroads(level: Level, perH: number, walkers: number): Level {
  const routes = Object.fromEntries(
    Object.entries(level.routes).map(([id, route]) => {
      if (route.use === 'drive') return [id, { ...route, atEnd: 'leave' as const }]
      return [id, id.startsWith('rt_x') ? route : { ...route, tags: ['pavement'] }]
    }),
  )
  const streams = withStreams({ ...level, routes }, { perH, warm: false }, { ...WAGON, gaits: { drive: 10 } })
  const pavements = Object.entries(routes).filter(([, r]) => r.use === 'walk' && r.tags.includes('pavement'))
  const on = pavements.map(([id, { stops, order }]) => [`sp_${id.slice(3)}`, stops[order[0]].waypointId] as const)
  return levelSchema.parse({
    ...streams,
    profiles: { ...streams.profiles, pf_on: { ...WARDEN, name: 'Walker' } },
    briefs: WALK_ABOUT,
    spawners: {
      ...streams.spawners,
      ...Object.fromEntries(
        on.map(([id, waypointId]) => [
          id,
          {
            name: 'Walkers',
            at: level.waypoints[waypointId].at,
            profileId: 'pf_on',
            briefId: 'br_about',
            count: walkers,
            alive: 'keep',
            everyS: 4,
          },
        ]),
      ),
    },
  })
}
