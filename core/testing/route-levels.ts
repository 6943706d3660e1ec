import { levelSchema, type Level, type LevelInput } from '@tidytrail/core/level'
import { sceneLevel } from './scenes'

type Route = NonNullable<LevelInput['routes']>[string]
export type Place = [number, number, number]

/** A level with routes over places; stops may say more. Waypoints are called wp_<route><number>. */
export function withRoutes(
  routes: Record<string, Partial<Route> & { at: (Place | string)[]; say?: Record<number, object> }>,
  more: Partial<LevelInput> = {},
  solids: Parameters<typeof sceneLevel>[2] = {},
): Level {
  const waypoints: NonNullable<LevelInput['waypoints']> = { ...more.waypoints }
  const made: Record<string, Route> = {}
  for (const [key, { at, say = {}, ...route }] of Object.entries(routes)) {
    const stops: Route['stops'] = {}
    at.forEach((place, i) => {
      const waypointId = typeof place === 'string' ? place : `wp_${key}${i}`
      if (typeof place !== 'string') waypoints[waypointId] = { at: place }
      stops[`st_${key}${i}`] = { waypointId, ...say[i] }
    })
    made[`rt_${key}`] = { name: key, stops, order: Object.keys(stops), ...route } as Route
  }
  const scene = sceneLevel(100, 60, solids, { settings: { ...more.settings, cellM: 0.5 } as never })
  return levelSchema.parse({
    ...scene,
    profiles: { ...scene.profiles, ...more.profiles },
    ...(more.ground ? { ground: more.ground } : {}),
    markers: more.markers ?? {},
    links: more.links ?? {},
    briefs: more.briefs ?? {},
    spawners: more.spawners ?? {},
    waypoints,
    routes: made,
  })
}
/** A spawner of a profile that follows a route. */
export const follower = (routeId: string, profileId = 'pf_warden') => ({
  briefs: { br_a: { name: 'B', steps: { bs_a: { kind: 'follow-route' as const, routeId } }, order: ['bs_a'] } },
  spawners: { sp_a: { name: 'Gate', at: [2, 2, 0] as Place, profileId, briefId: 'br_a' } },
})
/** A level with one network: its places, and which of them are joined, both ways unless it is said otherwise. */
export const net = (
  places: Place[],
  links: [number, number, boolean?][],
  more: Partial<LevelInput> = {},
  solids = {},
) =>
  withRoutes(
    { n: { at: places, kind: 'network', name: 'Net', linkIds: links.map((_, k) => `ln_${k}`) } },
    {
      ...more,
      links: Object.fromEntries(
        links.map(([a, b, twoWay = true], k) => [`ln_${k}`, { fromId: `wp_n${a}`, toId: `wp_n${b}`, twoWay }]),
      ),
    },
    solids,
  )
