import { lengthOf, type Point3 } from '@tidytrail/core/geometry'
import { legPath, nextStop, timeOverCovers } from '@tidytrail/core/network'
import { whyNotHere } from '@tidytrail/core/reach'
import { logEvent, type Agent, type AgentStep, type World } from './world'

/** Arrival radius of a stop that names none, metres. */
export const DEFAULT_ARRIVAL_M = 0.3

type FollowStep = Extract<AgentStep, { kind: 'follow-route' }>

/** Lets each agent choose what to do next: the next step of its brief, the next stop, or to go on after a pause. */
export function decide(world: World): void {
  for (let n = 0; n < world.agents.length; n++) {
    const agent = world.agents[n]
    if (agent.state === 'idle') beginStep(world, agent, n)
    else if (agent.state === 'pausing' && world.t + 1e-9 >= agent.pauseUntilS) goOn(world, agent, n)
    else if (agent.state === 'walking' && agent.corner >= agent.path.length) arrive(world, agent, n)
  }
}

function beginStep(world: World, agent: Agent, n: number): void {
  agent.stepIndex++
  const step = agent.steps[agent.stepIndex]
  if (!step) {
    agent.state = 'done'
    if (agent.steps.length > 0) logEvent(world, agent, 'finished', 'finished its brief')
    return
  }
  if (step.kind === 'pause') {
    agent.state = 'pausing'
    agent.pauseUntilS = world.t + step.forS
    agent.toStop = -1
    return
  }
  agent.gaitMps = step.gaitMps
  agent.direction = 1
  agent.fromStop = -1
  setOut(world, agent, n, step, 0)
}

function goOn(world: World, agent: Agent, n: number): void {
  const step = agent.steps[agent.stepIndex]
  if (step.kind === 'pause') {
    agent.state = 'idle'
    return
  }
  const next = nextStop(step.route, agent.toStop, agent.direction)
  if (!next) {
    agent.state = 'idle'
    return
  }
  agent.fromStop = agent.toStop
  agent.direction = next.direction
  setOut(world, agent, n, step, next.to)
}

function setOut(world: World, agent: Agent, n: number, step: FollowStep, to: number): void {
  const { planner } = agent
  const here: Point3 = [world.x[n], world.y[n], world.z[n]]
  const from = agent.fromStop < 0 ? here : step.stops[agent.fromStop]
  const path =
    agent.fromStop < 0
      ? planner.path(from, step.stops[to])
      : legPath(planner, step.route, world.level.waypoints, agent.fromStop, to)
  const stop = step.route.stops[step.route.order[to]]
  agent.toStop = to
  world.legSinceS[n] = world.t
  if (!path.found) {
    agent.state = 'blocked'
    const label =
      agent.fromStop < 0
        ? `the way to stop 1 of ${step.route.name}`
        : `leg ${agent.fromStop + 1} to ${to + 1} of ${step.route.name}`
    const place = whyNotHere(planner.map, step.stops[to])
    const why = place ? `stop ${to + 1} is ${place}` : 'nothing joins the two sides'
    agent.reasons.push(`${label} cannot be walked: ${why}`)
    logEvent(world, agent, 'blocked', `cannot go on: ${why}`)
    return
  }
  agent.path = path.line
  agent.uses = path.uses
  agent.corner = 1
  agent.arrivalM = stop.arrivalRadiusM ?? DEFAULT_ARRIVAL_M
  const gaits = agent.profile.gaits
  const asked = (stop.gait !== null ? gaits[stop.gait] : undefined) ?? step.gaitMps
  agent.gaitMps = Math.min(asked, step.route.speedLimitMps ?? Infinity)
  agent.state = 'walking'
}

function arrive(world: World, agent: Agent, n: number): void {
  const step = agent.steps[agent.stepIndex] as FollowStep
  const stop = step.route.stops[step.route.order[agent.toStop]]
  agent.made.push({
    stop: agent.toStop,
    t: world.t,
    expectedS: timeOverCovers(
      { found: true, line: agent.path, lengthM: lengthOf(agent.path), uses: agent.uses },
      world.level.covers,
      agent.gaitMps,
    ),
    tookS: world.t - world.legSinceS[n],
  })
  const { minS, maxS } = stop.pause
  // A draw is made only where something hangs on it, so that other pauses keep their luck.
  const pauses = maxS > 0 && (stop.pauseShare >= 1 || agent.pauses() < stop.pauseShare)
  const pauseS = !pauses ? 0 : maxS > minS ? minS + agent.pauses() * (maxS - minS) : minS
  const name = world.level.waypoints[stop.waypointId].name
  logEvent(
    world,
    agent,
    'reached',
    `reached stop ${agent.toStop + 1}${name ? `, ${name}` : ''}${pauseS > 0 ? `, pauses ${pauseS.toFixed(1)} s` : ''}`,
  )
  agent.state = 'pausing'
  agent.pauseUntilS = world.t + pauseS
  if (pauseS === 0) goOn(world, agent, n)
}
