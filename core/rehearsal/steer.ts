import { exact } from '@tidytrail/core/geometry'
import { speedFactorAt } from '@tidytrail/core/ground'
import type { World } from './world'

/** How near a corner of the way counts as passed, metres. */
const CORNER_M = 0.12

/** Sets the direction and speed each walker wants: towards the next corner, slower where it has to turn or stop. */
export function steer(world: World): void {
  for (let n = 0; n < world.agents.length; n++) {
    const agent = world.agents[n]
    world.wantSpeed[n] = 0
    if (agent.state === 'pausing') {
      face(world, n)
      continue
    }
    if (agent.state !== 'walking') continue
    const last = agent.path.length - 1
    let dx = 0
    let dy = 0
    let distance = 0
    while (agent.corner <= last) {
      dx = agent.path[agent.corner][0] - world.x[n]
      dy = agent.path[agent.corner][1] - world.y[n]
      distance = exact.hypot(dx, dy)
      const reached = agent.corner === last ? agent.arrivalM : CORNER_M
      const crowded = agent.corner === last && distance < agent.arrivalM + AT_STOP_M ? crowdM(world, n) : 0
      if (distance > reached + crowded && !passes(world, n, distance)) break
      agent.corner++
      // Where a passage begins, walking ends: the next step is through it.
      if (agent.uses.some((u) => u.at === agent.corner - 1)) break
    }
    if (agent.corner > last) continue
    world.wantX[n] = dx / distance
    world.wantY[n] = dy / distance
    // Walk no faster than lets one stop at the corner, or turn there: v² = 2 a s.
    const ease = agent.corner === last ? 0 : sharpness(agent.path, agent.corner)
    const slow = Math.sqrt(2 * agent.profile.accelMps2 * distance) + agent.gaitMps * ease
    const factor = speedFactorAt(world.level.covers, world.x[n], world.y[n])
    world.wantSpeed[n] = Math.min(agent.gaitMps * factor, Math.max(0.2, slow))
  }
}

/** How far from a corner it may be passed beside it, metres. */
const BESIDE_M = 2

/** Is a corner of the way behind somebody who was pushed aside, and the next one straight ahead? */
function passes(world: World, n: number, distance: number): boolean {
  const agent = world.agents[n]
  const { path, corner, uses } = agent
  if (distance > BESIDE_M || corner >= path.length - 1 || !agent.spot) return false
  // A passage begins and ends where it does.
  if (uses.some((u) => u.at === corner || u.at === corner - 1)) return false
  const [cx, cy] = path[corner]
  const [nx, ny] = path[corner + 1]
  if ((world.x[n] - cx) * (nx - cx) + (world.y[n] - cy) * (ny - cy) < 0) return false
  return agent.walker.walk(agent.spot, world.x[n], world.y[n], nx, ny)
}

/** Bodies standing within this of a stop stand at it, metres. */
const AT_STOP_M = 2.5

/** How much farther from a stop one has arrived because others stand at it: they take up so much room. */
function crowdM(world: World, n: number): number {
  const agent = world.agents[n]
  const [sx, sy] = agent.path[agent.path.length - 1]
  let standing = 0
  const count = world.near.about(sx, sy, AT_STOP_M)
  for (let k = 0; k < count; k++) {
    const m = world.near.found[k]
    const { state } = world.agents[m]
    if (m === n || state === 'walking' || state === 'crossing' || state === 'waiting') continue
    if (exact.hypot(world.x[m] - sx, world.y[m] - sy) < AT_STOP_M) standing++
  }
  return standing === 0 ? 0 : 2.1 * agent.profile.radiusM * Math.sqrt(standing)
}

/** Share of its speed a walker keeps through a corner: all of it straight on, none when it has to turn back. */
function sharpness(path: readonly (readonly number[])[], corner: number): number {
  const [ax, ay] = path[corner - 1]
  const [bx, by] = path[corner]
  const [cx, cy] = path[corner + 1]
  const product = exact.hypot(bx - ax, by - ay) * exact.hypot(cx - bx, cy - by)
  if (product === 0) return 0
  return Math.max(0, ((bx - ax) * (cx - bx) + (by - ay) * (cy - by)) / product)
}

/** Turns somebody who pauses to the way the stop says. */
function face(world: World, n: number): void {
  const agent = world.agents[n]
  const step = agent.steps[agent.stepIndex]
  if (step?.kind !== 'follow-route' || agent.toStop < 0) return
  const facing = step.route.stops[step.route.order[agent.toStop]].facingRad
  if (facing === null) return
  world.wantX[n] = exact.cos(facing)
  world.wantY[n] = exact.sin(facing)
}
