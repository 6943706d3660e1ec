import { exact, mix3 } from '@tidytrail/core/geometry'
import { passageHeight } from '@tidytrail/core/reach'
import { logEvent, type World } from './world'

/** Takes those who have come to a passage through it, in the time it takes. */
export function cross(world: World): void {
  for (let n = 0; n < world.agents.length; n++) {
    const agent = world.agents[n]
    if (agent.state === 'walking' && agent.uses.length > 0) {
      const use = agent.uses.find((u) => u.at === agent.corner - 1)
      if (!use) continue
      agent.crossing = { use, sinceS: world.t, from: [world.x[n], world.y[n], world.z[n]] }
      agent.state = 'crossing'
      logEvent(world, agent, 'crossed', `takes ${world.level.passages[use.passageId]?.name || `the ${use.kind}`}`)
    }
    if (agent.state !== 'crossing' || !agent.crossing) continue
    const { use, sinceS, from } = agent.crossing
    const to = agent.path[use.at + 1]
    // The step that follows is part of it: whoever begins now is a step on when the clock has moved.
    const share = use.takesS > 0 ? Math.min(1, (world.t + world.stepS - sinceS) / use.takesS) : 1
    const [x, y] = mix3(from, to, share)
    world.x[n] = x
    world.y[n] = y
    world.z[n] = share === 1 ? to[2] : passageHeight(use.kind, from, to, share)
    const dx = to[0] - from[0]
    const dy = to[1] - from[1]
    const length = exact.hypot(dx, dy)
    if (length > 1e-6) {
      world.headX[n] = dx / length
      world.headY[n] = dy / length
    }
    if (share < 1) continue
    agent.spot = agent.planner.map.reachedAt(to[0], to[1], to[2]) ?? agent.spot
    agent.corner = use.at + 2
    agent.crossing = undefined
    agent.state = 'walking'
  }
}
