import { exact, mix3, type Point3 } from '@tidytrail/core/geometry'
import { passageHeight } from '@tidytrail/core/reach'
import type { Engine } from './engine'
import { makeFor, PASSAGE, setSpot } from './travel'
import { STATE } from './world'

/** Takes those who have come to a passage through it, in the time it takes. */
export function cross(engine: Engine): void {
  const { world, scenario, t } = engine
  for (let n = 0; n < world.count; n++) {
    const at = world.state[n]
    if (world.key[n] === 0 || (at !== STATE.walking && at !== STATE.crossing)) continue
    // Who has not come to the end of a piece before a passage is not at one.
    if (at === STATE.walking && world.loaded[n] === world.point[n] && (world.corner[n] & PASSAGE) === 0) continue
    if (world.passages[n] === 0) continue
    const course = world.courses[n]
    if (!course) continue
    const use = course.uses.find((u) => u.at === world.point[n] - 1)
    if (!use) continue
    if (world.state[n] === STATE.walking) {
      world.state[n] = STATE.crossing
      world.crossSince[n] = t
      world.fromX[n] = world.x[n]
      world.fromY[n] = world.y[n]
      world.fromZ[n] = world.z[n]
      world.vx[n] = world.vy[n] = world.speed[n] = 0
      engine.log(n, 'crossed', world.point[n] - 1)
    }
    if (world.state[n] !== STATE.crossing) continue
    const k = world.point[n]
    const from: Point3 = [world.fromX[n], world.fromY[n], world.fromZ[n]]
    const to: Point3 = [course.x[k], course.y[k], course.z[k]]
    // The step that follows is part of it: whoever begins now is a step on when the clock has moved.
    const share = use.takesS > 0 ? Math.min(1, (t + scenario.stepS - world.crossSince[n]) / use.takesS) : 1
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
    const spot = engine.profileOf(n).planner.map.reachedAt(...to)
    if (spot) setSpot(engine, n, spot)
    world.along[n] = course.s[k]
    world.point[n] = k + 1
    while (world.mark[n] < course.marks.length && course.marks[world.mark[n]].point <= k)
      makeFor(engine, n, world.mark[n] + 1)
    world.state[n] = STATE.walking
  }
}
