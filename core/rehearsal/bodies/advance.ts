import { GROUND, heightAt, topAt } from '@tidytrail/core/ground'
import { runsInto, withoutTouching } from '../avoid'
import type { Engine } from '../engine'
import { LIMIT } from '../events'
import { setSpot, spotOf } from '../travel'

/** Tries to slide along what is met: past the end of one line into the next, and no more. */
const SLIDES = 2
/** Moves shorter than this are none, metres. */
const LEAST_M = 1e-6

/**
 * Moves an agent by its velocity for one step: without touching anybody, without leaving its reach. What it could not
 * do of it is taken off its velocity.
 */
export function advance(engine: Engine, n: number): void {
  const { world, scenario } = engine
  const { x, y, vx, vy, speed } = world
  // Who appeared where its body cannot be stays there, though it be one that never stands still.
  if (world.spotTile[n] < 0) {
    vx[n] = vy[n] = speed[n] = 0
    return
  }
  const dt = scenario.stepS
  const left = withoutTouching(engine, n, vx[n] * dt, vy[n] * dt)
  const dx = left[0]
  const dy = left[1]
  const touched = dx !== vx[n] * dt || dy !== vy[n] * dt
  const fromX = x[n]
  const fromY = y[n]
  const slid = dx !== 0 || dy !== 0 ? slide(engine, n, dx, dy) : false
  // What is slid along may lead into somebody: then one stays where one was.
  if (slid && runsInto(engine, n, fromX, fromY)) {
    x[n] = fromX
    y[n] = fromY
    const back = engine.profileOf(n).planner.map.reachedAt(fromX, fromY, world.z[n])
    if (back) setSpot(engine, n, back)
  }
  if (touched || slid) {
    vx[n] = (x[n] - fromX) / dt
    vy[n] = (y[n] - fromY) / dt
    if (touched && world.limit[n] === LIMIT.nothing) world.limit[n] = LIMIT.neighbour
  }
  speed[n] = Math.sqrt(vx[n] * vx[n] + vy[n] * vy[n])
  if (speed[n] > 0 || slid) world.z[n] = standAt(engine, n)
}

/** Moves as far as the reach allows, along what is met. @returns was anything met? */
function slide(engine: Engine, n: number, toX: number, toY: number): boolean {
  const { world } = engine
  const { x, y } = world
  const { walker, planner } = engine.profileOf(n)
  if (planner.map.isOpen(world.spotTile[n], world.spotColumn[n], world.spotFloor[n], x[n] + toX, y[n] + toY)) {
    x[n] += toX
    y[n] += toY
    return false
  }
  let from = spotOf(engine, n)
  if (!from) return true
  let dx = toX
  let dy = toY
  for (let slides = 0; slides <= SLIDES; slides++) {
    if (dx * dx + dy * dy < LEAST_M * LEAST_M) break
    const whole = walker.walk(from, x[n], y[n], x[n] + dx, y[n] + dy)
    const share = whole ? 1 : walker.share
    if (share > 0 && (whole || walker.atLine)) {
      x[n] += dx * share
      y[n] += dy * share
      from = walker.here()
    }
    if (whole) {
      setSpot(engine, n, from)
      return slides > 0
    }
    if (!walker.atLine) {
      // The edge of ground known by columns: along whichever axis is free.
      if (walker.walk(from, x[n], y[n], x[n] + dx, y[n])) x[n] += dx
      else if (walker.walk(from, x[n], y[n], x[n], y[n] + dy)) y[n] += dy
      else break
      setSpot(engine, n, walker.here())
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
  setSpot(engine, n, from)
  return true
}

/** Height of the body's underside: on ramps and slopes as they run, elsewhere the floor's. */
export function standAt(engine: Engine, n: number): number {
  const { world } = engine
  const { planner } = engine.profileOf(n)
  const { map } = planner
  const { terrain, body } = map.source
  const tile = map.tiles[world.spotTile[n]]
  const floor = world.spotFloor[n]
  const z = tile.z[floor]
  if (!body.stands || body.floats) return z
  const surface = tile.surface[floor]
  if (surface === GROUND) return heightAt(terrain.field, world.x[n], world.y[n])
  return surface > GROUND ? topAt(terrain.solids[surface], world.x[n], world.y[n]) : z
}
