import type { Settings } from '@tidytrail/core/level'
import { legPath, nextStop, timeOverCovers } from '@tidytrail/core/network'
import type { Measures } from './measure'
import type { Agent, World } from './world'

export const VERDICTS = ['follows', 'follows-with-remarks', 'does-not-follow', 'not-tried'] as const
export type VerdictWord = (typeof VERDICTS)[number]

/** For one agent: did it follow? Metres and seconds. */
export interface Verdict {
  readonly agent: string
  readonly name: string
  readonly spawnerId: string
  readonly route: string | null
  readonly routeName: string | null
  readonly verdict: VerdictWord
  readonly crossTrack: { readonly rms: number; readonly p95: number; readonly max: number }
  /** Stops made in order, and how many a traveller without any delay would have made by now. */
  readonly stops: { readonly made: number; readonly due: number }
  /** Time on the way from stop to stop: as it was, and as expected at gait speed. */
  readonly legs: { readonly tookS: number; readonly expectedS: number }
  readonly longestStuckS: number
  readonly reasons: readonly string[]
}

/** The verdict on every agent as things stand, by the limits of the level. */
export function judge(world: World, measures: Measures): Verdict[] {
  return world.agents.map((agent, n) => judgeOne(world, agent, n, measures))
}

function judgeOne(world: World, agent: Agent, n: number, measures: Measures): Verdict {
  const { limits } = world.level.settings
  const follow = agent.steps.find((s) => s.kind === 'follow-route')
  const crossTrack = measures.crossTrack(n)
  const legs = { tookS: sum(agent.made, 'tookS'), expectedS: sum(agent.made, 'expectedS') }
  const stuck = world.longestStuckS[n]
  const base = {
    agent: agent.id,
    name: agent.name,
    spawnerId: agent.spawnerId,
    route: follow?.routeId ?? null,
    routeName: follow?.route.name ?? null,
    crossTrack,
    stops: { made: agent.made.length, due: follow ? stopsDue(world, agent) : 0 },
    legs,
    longestStuckS: stuck,
  }
  if (!follow)
    return {
      ...base,
      verdict: 'not-tried',
      reasons: agent.reasons.length > 0 ? agent.reasons : ['it has no route to follow'],
    }
  if (agent.state === 'waiting') {
    return { ...base, verdict: 'not-tried', reasons: [`it appears only after ${agent.spawnAtS.toFixed(1)} s`] }
  }
  const { fails, remarks } = weigh(limits, crossTrack.p95, stuck, legs)
  fails.unshift(...agent.reasons)
  const behind = base.stops.due - base.stops.made
  if (behind > 1) fails.push(`${behind} stops behind`)
  const verdict = fails.length > 0 ? 'does-not-follow' : remarks.length > 0 ? 'follows-with-remarks' : 'follows'
  return { ...base, verdict, reasons: [...fails, ...remarks] }
}

function weigh(
  limits: Settings['limits'],
  p95M: number,
  stuckS: number,
  legs: Verdict['legs'],
): { fails: string[]; remarks: string[] } {
  const fails: string[] = []
  const remarks: string[] = []
  const hold = (value: number, limit: { remark: number; fail: number }, text: string) => {
    if (value > limit.fail) fails.push(text)
    else if (value > limit.remark) remarks.push(text)
  }
  hold(p95M, limits.crossTrackM, `strays ${p95M.toFixed(2)} m from its line (95th percentile)`)
  hold(stuckS, limits.stuckS, `stuck for ${stuckS.toFixed(1)} s`)
  const late = legs.expectedS > 0 ? legs.tookS / legs.expectedS - 1 : 0
  // Setting out, turning and stopping cost every walker a moment; on short ways only more than that counts.
  if (legs.tookS - legs.expectedS > 2)
    hold(late, limits.lateShare, `takes ${Math.round(late * 100)} % longer than expected at its gait`)
  return { fails, remarks }
}

/** Stops a traveller at gait speed would have made by now, allowing for the remark limit on lateness. */
function stopsDue(world: World, agent: Agent): number {
  const step = agent.steps.find((s) => s.kind === 'follow-route')
  if (step?.kind !== 'follow-route') return 0
  const { route, stops, gaitMps } = step
  const { planner } = agent
  const slack = 1 + world.level.settings.limits.lateShare.remark
  const spawner = world.level.spawners[agent.spawnerId]
  const first = planner.path(spawner.at, stops[0])
  // Without a way there, all of them are due and none can be made.
  if (!first.found) return stops.length
  let left = world.t - agent.spawnAtS - timeOverCovers(first, world.level.covers, gaitMps) * slack - 1
  let due = 0
  let at = 0
  let direction: 1 | -1 = 1
  while (left >= 0 && due < 100_000) {
    due++
    const next = nextStop(route, at, direction)
    if (!next) break
    const path = legPath(planner, route, world.level.waypoints, at, next.to)
    const speedMps = Math.min(gaitMps, route.speedLimitMps ?? Infinity)
    const travelS = path.found ? timeOverCovers(path, world.level.covers, speedMps) : 0
    left -= route.stops[route.order[at]].pause.maxS + travelS * slack + 1
    at = next.to
    direction = next.direction
  }
  return due
}

const sum = <K extends string>(list: readonly Record<K, number>[], key: K) => list.reduce((s, v) => s + v[key], 0)
