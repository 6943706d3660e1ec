import type { Level, Route } from '@tidytrail/core/level'
import { laneNet, trafficPlan, walkNet, type TrafficPlan } from '@tidytrail/core/traffic'
import type { CourseLeg } from '../course'
import type { Registers, Scenario } from '../scenario'

/** Is the end of a route where what travels it leaves, if it is told nothing more? So it is with lanes that lead one way. */
export const isOpenEnd = (route: Route | undefined): boolean => route?.kind === 'lane' && route.travel === 'one-way'

type Parts = Pick<Level, 'profiles' | 'routes' | 'junctions' | 'settings'>
const known = new WeakMap<Registers, { parts: Parts; net: TrafficPlan['net']; plan: TrafficPlan }>()

/** The lanes and junctions of a level for those who drive along them; the same as before where nothing about them changed. */
export function planFor(level: Level, registers: Registers): TrafficPlan {
  const net = laneNet(level)
  const { profiles, routes, junctions, settings } = level
  const before = known.get(registers)
  if (
    before?.net === net &&
    before.parts.junctions === junctions &&
    before.parts.profiles === profiles &&
    before.parts.settings === settings
  )
    return before.plan
  const plan = trafficPlan(level, net, walkNet(level), registers.pieces)
  known.set(registers, { parts: { profiles, routes, junctions, settings }, net, plan })
  return plan
}

/** The stretch of a lane between two of its stops that follow each other; undefined for what is no lane one drives along. */
export function stretchOf(
  { traffic: { net } }: Scenario,
  { pieces }: Registers,
  routeId: string,
  from: number,
  to: number,
): CourseLeg['on'] {
  const lane = net.lanes.get(routeId)
  if (!lane) return undefined
  const end = to > from ? lane.stopM[to] : lane.closed && to === 0 ? lane.line.lengthM : undefined
  return end === undefined ? undefined : { piece: pieces.of(routeId), fromM: lane.stopM[from], toM: end }
}
