import {
  addLinks,
  addThing,
  blankLevel,
  levelSchema,
  roadSchema,
  type Level,
  type LevelInput,
  type Road,
} from '@tidytrail/core/level'
import { laneNet, suggestJoins, suggestJunctions } from '@tidytrail/core/traffic'

type Place = [number, number, number]

/** Open ground on which nobody walks, so that no reach has to be worked out. */
const bare = (name: string): Level => ({ ...blankLevel(name, 400, 400), profiles: {} })

/** A level of free lanes, each drawn straight through its places. Waypoints are called wp_<lane><number>. */
export function withLanes(lanes: Record<string, Place[]>, more: Partial<LevelInput> = {}): Level {
  const waypoints: NonNullable<LevelInput['waypoints']> = { ...more.waypoints }
  const routes: NonNullable<LevelInput['routes']> = {}
  for (const [key, places] of Object.entries(lanes)) {
    const stops: Record<string, { waypointId: string }> = {}
    places.forEach((at, k) => {
      waypoints[`wp_${key}${k}`] = { at }
      stops[`st_${key}${k}`] = { waypointId: `wp_${key}${k}` }
    })
    routes[`rt_${key}`] = { name: key, kind: 'lane', legs: 'drawn', widthM: 3, stops, order: Object.keys(stops) }
  }
  return levelSchema.parse({ ...bare('Lanes'), ...more, waypoints, routes })
}

/** Adds roads to a level, called rd_<key>. */
export function withRoads(roads: Record<string, Partial<Road>>, level: Level = bare('Roads')): Level {
  for (const [key, road] of Object.entries(roads)) {
    const thing = roadSchema.parse({ name: key, ...road })
    level = addThing.apply(level, { in: 'roads', id: `rd_${key}`, thing }).level
  }
  return level
}

/** A level with every join that is suggested. */
export function withJoins(level: Level): Level {
  const links = suggestJoins(laneNet(level), level.settings.drivesOn).map((s, k) => ({
    id: `ln_j${k}`,
    fromId: s.fromWaypointId,
    toId: s.toWaypointId,
    twoWay: false,
  }))
  return addLinks.apply(level, { links }).level
}

/** A level with every junction that is suggested, called jn_0 and on. */
export function withJunctions(level: Level): Level {
  suggestJunctions(level, laneNet(level)).forEach(({ ring }, k) => {
    const thing = levelSchema.shape.junctions.parse({
      [`jn_${k}`]: { name: `Junction ${k + 1}`, ring: ring.map(([x, y]) => [x, y]) },
    })[`jn_${k}`]
    level = addThing.apply(level, { in: 'junctions', id: `jn_${k}`, thing }).level
  })
  return level
}

/** Four roads that meet at a place, each leading to it and ending so far before it, with all joins and the junction. */
export function crossroads(
  drivesOn: 'left' | 'right' = 'left',
  road: Partial<Road> = {},
  { at = [200, 200], endsM = 11, reachM = 120 }: { at?: [number, number]; endsM?: number; reachM?: number } = {},
): Level {
  const blank = bare('Crossroads')
  const level: Level = { ...blank, settings: { ...blank.settings, drivesOn } }
  const towards = (dx: number, dy: number): Place[] => [
    [at[0] + dx * reachM, at[1] + dy * reachM, 0],
    [at[0] + dx * endsM, at[1] + dy * endsM, 0],
  ]
  const arms = { n: towards(0, 1), e: towards(1, 0), s: towards(0, -1), w: towards(-1, 0) }
  const roads = Object.fromEntries(Object.entries(arms).map(([key, points]) => [key, { points, ...road }]))
  return withJunctions(withJoins(withRoads(roads, level)))
}
