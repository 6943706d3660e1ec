import { comesInto } from '../avoid'
import { powersOf, type BodyModel } from './body'
import { drive } from './vehicle'
import { mostCurve } from '../steer'

/** In the air: turns and speeds within its limits, climbs and sinks no faster than it can, and stays within its band of heights. */
export const flyer: BodyModel = {
  medium: 'air',
  powers: powersOf,
  pursues: true,
  move(engine, n) {
    const { world, scenario } = engine
    const { profile, powers, planner } = engine.profileOf(n)
    const dt = scenario.stepS
    const most = mostCurve(engine, n)
    const z = world.z[n]
    drive(engine, n, powers.accelMps2, powers.brakeMps2, Math.max(-most, Math.min(most, world.wantCurve[n])))
    // The band over what lies below here: its lowest height is the floor's of its reach.
    const low = world.spotTile[n] < 0 ? z : planner.map.tiles[world.spotTile[n]].z[world.spotFloor[n]]
    const high = low + profile.maxAltitudeM - profile.minAltitudeM
    const wanted = Math.min(high, Math.max(low, world.wantZ[n]))
    const rate = Math.max(-profile.climbMps, Math.min(profile.climbMps, (wanted - z) / dt))
    const change = powers.accelMps2 * dt
    world.vz[n] = Math.max(world.vz[n] - change, Math.min(world.vz[n] + change, rate))
    // What rises below it lifts it.
    const next = Math.min(high, Math.max(low, z + world.vz[n] * dt))
    // Not down onto somebody, nor up into them.
    world.z[n] = Math.min(high, Math.max(low, z))
    if (comesInto(engine, n, next)) world.vz[n] = 0
    else world.z[n] = next
  },
}
