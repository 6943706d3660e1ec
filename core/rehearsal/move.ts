import { exact } from '@tidytrail/core/geometry'
import { GROUND, heightAt, topAt } from '@tidytrail/core/ground'
import { withoutTouching } from './avoid'
import type { World } from './world'

/** Turns and moves every body on foot: limited turning, limited acceleration, never off the reach map. */
export function move(world: World): void {
  const { stepS, z, headX, headY, speed } = world
  for (let n = 0; n < world.agents.length; n++) {
    const agent = world.agents[n]
    if (agent.state !== 'walking' && agent.state !== 'pausing') {
      speed[n] = 0
      continue
    }
    if (world.wantX[n] !== 0 || world.wantY[n] !== 0) turn(world, n, agent.profile.turnRateRadps * stepS)
    if (agent.state === 'pausing') {
      speed[n] = 0
      continue
    }
    // Somebody not yet facing the way they want to go turns first.
    const aligned = Math.max(0, headX[n] * world.wantX[n] + headY[n] * world.wantY[n])
    const wanted = world.wantSpeed[n] * aligned * aligned
    const change = agent.profile.accelMps2 * stepS
    const floor = wanted < speed[n] ? Math.max(wanted, speed[n] - 2 * change) : Math.min(wanted, speed[n] + change)
    speed[n] = floor
    if (speed[n] === 0) continue
    const [dx, dy] = withoutTouching(world, n, headX[n] * speed[n] * stepS, headY[n] * speed[n] * stepS)
    const free = exact.hypot(dx, dy) / stepS
    if (free < speed[n]) speed[n] = free
    if (!advance(world, n, dx, dy)) {
      speed[n] = 0
      continue
    }
    agent.spot = agent.walker.here()
    z[n] = standAt(world, n)
  }
}

/** Tries to slide along what is met: past the end of one line into the next, and no more. */
const SLIDES = 2
/** Moves shorter than this are none, metres. */
const LEAST_M = 1e-6

/**
 * Moves a body by as much as it can of (dx, dy). Where it would leave its reach it goes as far as it may and slides on
 * along what it met. @returns false when it cannot move at all
 */
function advance(world: World, n: number, dx: number, dy: number): boolean {
  const { x, y } = world
  const agent = world.agents[n]
  const { walker } = agent
  let moved = false
  let from = agent.spot!
  for (let slide = 0; slide <= SLIDES; slide++) {
    if (dx * dx + dy * dy < LEAST_M * LEAST_M) break
    const whole = walker.walk(from, x[n], y[n], x[n] + dx, y[n] + dy)
    const share = whole ? 1 : walker.share
    if (share > 0 && (whole || walker.atLine)) {
      x[n] += dx * share
      y[n] += dy * share
      moved ||= share > 1e-3
      from = walker.here()
    }
    if (whole) return true
    if (!walker.atLine) {
      // The edge of ground known by columns: along whichever axis is free.
      if (walker.walk(from, x[n], y[n], x[n] + dx, y[n])) x[n] += dx
      else if (walker.walk(from, x[n], y[n], x[n], y[n] + dy)) y[n] += dy
      else break
      return true
    }
    // What is left of the move, without the part that leads nearer to the line.
    const [ax, ay, bx, by] = walker.line
    const length2 = (bx - ax) * (bx - ax) + (by - ay) * (by - ay)
    const t = length2 > 0 ? Math.min(1, Math.max(0, ((x[n] - ax) * (bx - ax) + (y[n] - ay) * (by - ay)) / length2)) : 0
    const px = x[n] - ax - t * (bx - ax)
    const py = y[n] - ay - t * (by - ay)
    const far = Math.sqrt(px * px + py * py)
    if (far < LEAST_M) break
    const left = 1 - share
    const into = Math.min(0, (dx * px + dy * py) / far) * left
    dx = dx * left - (into * px) / far
    dy = dy * left - (into * py) / far
    // A hair away from it, so that arithmetic does not count as leading nearer.
    dx += (px / far) * LEAST_M
    dy += (py / far) * LEAST_M
  }
  walker.walk(from, x[n], y[n], x[n], y[n])
  return moved
}

/** Height of the body's underside: on ramps and slopes as they run, elsewhere the floor's. */
function standAt(world: World, n: number): number {
  const { planner, spot } = world.agents[n]
  const { terrain, body } = planner.map.source
  const surface = planner.map.tiles[spot!.tile].surface[spot!.floor]
  if (!body.stands || body.floats) return planner.map.zOf(spot!)
  if (surface === GROUND) return heightAt(terrain.field, world.x[n], world.y[n])
  return surface > GROUND ? topAt(terrain.solids[surface], world.x[n], world.y[n]) : planner.map.zOf(spot!)
}

function turn(world: World, n: number, mostRad: number): void {
  const { headX, headY, wantX, wantY } = world
  const cross = headX[n] * wantY[n] - headY[n] * wantX[n]
  const dot = headX[n] * wantX[n] + headY[n] * wantY[n]
  if (exact.atan2(Math.abs(cross), dot) <= mostRad) {
    headX[n] = wantX[n]
    headY[n] = wantY[n]
    return
  }
  const c = exact.cos(mostRad)
  const s = cross >= 0 ? exact.sin(mostRad) : -exact.sin(mostRad)
  const hx = headX[n] * c - headY[n] * s
  headY[n] = headX[n] * s + headY[n] * c
  headX[n] = hx
}
