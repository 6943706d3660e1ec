import { exact } from '@tidytrail/core/geometry'
import { GROUND, heightAt, topAt } from '@tidytrail/core/ground'
import type { World } from './world'

/** Turns and moves every body on foot: limited turning, limited acceleration, never off the reach map. */
export function move(world: World): void {
  const { stepS, x, y, z, headX, headY, speed } = world
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
    const nx = x[n] + headX[n] * speed[n] * stepS
    const ny = y[n] + headY[n] * speed[n] * stepS
    const { walker } = agent
    if (!walker.walk(agent.spot!, x[n], y[n], nx, ny)) {
      // The body would leave its reach: slide along whichever axis is free.
      if (walker.walk(agent.spot!, x[n], y[n], nx, y[n])) x[n] = nx
      else if (walker.walk(agent.spot!, x[n], y[n], x[n], ny)) y[n] = ny
      else {
        speed[n] = 0
        continue
      }
    } else {
      x[n] = nx
      y[n] = ny
    }
    agent.spot = walker.here()
    z[n] = standAt(world, n)
  }
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
