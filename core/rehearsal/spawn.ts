import { exact } from '@tidytrail/core/geometry'
import { whyNotHere } from '@tidytrail/core/reach'
import { isThere, meetsInHeight } from './avoid'
import { logEvent, type World } from './world'

/** Lets those appear whose time has come; where somebody stands, one waits until there is room. */
export function spawn(world: World): void {
  let full: string | undefined
  for (let n = 0; n < world.agents.length; n++) {
    const agent = world.agents[n]
    if (agent.state !== 'waiting' || world.t + 1e-9 < agent.spawnAtS) continue
    // Those behind somebody who waits at the same spawner wait too.
    if (agent.spawnerId === full) continue
    if (isTaken(world, n)) {
      full = agent.spawnerId
      continue
    }
    agent.spawnAtS = world.t
    const facing = world.headX[n]
    world.headX[n] = exact.cos(facing)
    world.headY[n] = exact.sin(facing)
    const { map } = agent.planner
    const place = [world.x[n], world.y[n], world.z[n]] as const
    agent.spot = map.reachedAt(...place)
    agent.state = 'idle'
    logEvent(world, agent, 'appeared', `appeared at ${world.level.spawners[agent.spawnerId].name}`)
    if (!agent.spot) {
      agent.state = 'blocked'
      agent.reasons.push(`it appears where it cannot stand: ${whyNotHere(map, place) ?? 'no floor'}`)
      continue
    }
    world.z[n] = map.zOf(agent.spot)
    const here = map.floorAt(place[0], place[1], world.z[n])
    if (!here || !map.isFree(here, place[0], place[1])) [world.x[n], world.y[n]] = map.placeOn(agent.spot)
  }
}

/** Does somebody stand where an agent is to appear? */
function isTaken(world: World, n: number): boolean {
  const { x, y, agents } = world
  for (let m = 0; m < agents.length; m++) {
    if (m === n || !isThere(world, m)) continue
    const apartM = agents[n].profile.radiusM + agents[m].profile.radiusM
    const dx = x[m] - x[n]
    const dy = y[m] - y[n]
    if (dx * dx + dy * dy < apartM * apartM && meetsInHeight(world, n, m)) return true
  }
  return false
}
