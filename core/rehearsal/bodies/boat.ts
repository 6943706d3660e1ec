import { powersOf, type BodyModel } from './body'
import { drive, keepInside } from './vehicle'
import { mostCurve } from '../steer'

/**
 * Afloat: the turning rate answers the helm as a first-order lag (Nomoto 1957), and way is lost slowly, by what the
 * water does: its braking is little.
 */
export const boat: BodyModel = {
  medium: 'water',
  powers: (p) => ({ ...powersOf(p), lagS: p.yawS }),
  pursues: true,
  move(engine, n) {
    const { world, scenario } = engine
    const { profile, powers } = engine.profileOf(n)
    keepInside(engine, n, powers.brakeMps2)
    const v = world.speed[n]
    const most = mostCurve(engine, n)
    const helm = v * Math.max(-most, Math.min(most, world.wantCurve[n]))
    // yaw is the turning rate: r' = (helm − r) / T, solved over the step.
    world.yaw[n] += (helm - world.yaw[n]) * Math.min(1, scenario.stepS / profile.yawS)
    drive(engine, n, powers.accelMps2, powers.brakeMps2, v > 0.02 ? world.yaw[n] / v : 0)
  },
}
