import type { Point3 } from '@tidytrail/core/geometry'
import type { Level } from '@tidytrail/core/level'
import type { LegPlanner } from '@tidytrail/core/network'
import { StraightWalker } from '@tidytrail/core/reach'
import { stream } from './chance'
import { Neighbours } from './neighbours'
import type { Agent, AgentStep, World } from './world'

/** Most agents one rehearsal holds. */
export const MAX_AGENTS = 20_000

/** Everyone the spawners will send, in a fixed order, before the clock starts. */
export function createAgents(
  level: Level,
  seed: number,
  plannerFor: (profileId: string) => LegPlanner | undefined,
): World {
  const agents: Agent[] = []
  const at: Point3[] = []
  const facing: number[] = []
  const walkers = new Map<LegPlanner, StraightWalker>()
  for (const spawnerId of Object.keys(level.spawners).sort()) {
    const spawner = level.spawners[spawnerId]
    const planner = spawner.profileId ? plannerFor(spawner.profileId) : undefined
    if (!spawner.profileId || !planner) continue
    let walker = walkers.get(planner)
    if (!walker) walkers.set(planner, (walker = new StraightWalker(planner.map)))
    const profile = level.profiles[spawner.profileId]
    const { steps, reasons } = stepsOf(level, spawnerId)
    for (let k = 0; k < spawner.count && agents.length < MAX_AGENTS; k++) {
      const id = `${spawnerId}#${k + 1}`
      agents.push({
        id,
        name: spawner.count === 1 ? spawner.name : `${spawner.name} ${k + 1}`,
        spawnerId,
        profileId: spawner.profileId,
        profile,
        planner,
        walker,
        spawnAtS: spawner.firstAfterS + k * spawner.everyS,
        pauses: stream(seed, `pause/${id}`),
        steps,
        stepIndex: -1,
        state: 'waiting',
        spot: undefined,
        path: [],
        corner: 0,
        uses: [],
        crossing: undefined,
        fromStop: -1,
        toStop: -1,
        direction: 1,
        arrivalM: 0,
        pauseUntilS: 0,
        gaitMps: profile.gaits[profile.gait] ?? Object.values(profile.gaits)[0],
        made: [],
        reasons: [...reasons],
        events: [],
      })
      at.push(spawner.at)
      facing.push(spawner.facingRad)
    }
  }
  const column = () => new Float64Array(agents.length)
  const world: World = {
    level,
    seed,
    stepS: 1 / level.settings.stepsPerSecond,
    agents,
    t: 0,
    x: column(),
    y: column(),
    z: column(),
    headX: column(),
    headY: column(),
    speed: column(),
    wantX: column(),
    wantY: column(),
    wantSpeed: column(),
    offLine: column(),
    stuckS: column(),
    longestStuckS: column(),
    legSinceS: column(),
    near: new Neighbours(),
  }
  at.forEach(([x, y, z], n) => {
    world.x[n] = x
    world.y[n] = y
    world.z[n] = z
    world.headX[n] = facing[n]
  })
  return world
}

/** The brief of a spawner made ready to be followed, and why it cannot be where it cannot. */
function stepsOf(level: Level, spawnerId: string): { steps: AgentStep[]; reasons: string[] } {
  const spawner = level.spawners[spawnerId]
  const profile = level.profiles[spawner.profileId!]
  const brief = spawner.briefId ? level.briefs[spawner.briefId] : undefined
  if (!brief) return { steps: [], reasons: ['it has no brief, so nothing to do'] }
  const steps: AgentStep[] = []
  const reasons: string[] = []
  for (const stepId of brief.order) {
    const step = brief.steps[stepId]
    if (step.kind === 'pause') {
      steps.push(step)
      continue
    }
    const route = step.routeId ? level.routes[step.routeId] : undefined
    if (!route) reasons.push('its brief says to follow a route, but none is chosen')
    else if (route.order.length < 2) reasons.push(`${route.name} has fewer than two stops`)
    else {
      steps.push({
        kind: 'follow-route',
        routeId: step.routeId!,
        route,
        stops: route.order.map((s) => level.waypoints[route.stops[s].waypointId].at),
        gaitMps:
          profile.gaits[step.gait ?? profile.gait] ?? profile.gaits[profile.gait] ?? Object.values(profile.gaits)[0],
      })
    }
  }
  return { steps, reasons }
}
