import type { Profile } from './schema'

const common = { note: '', tags: [], locked: false, hidden: false }

/** A person of the watch on foot. */
export const WARDEN: Profile = {
  name: 'Warden',
  medium: 'foot',
  radiusM: 0.35,
  heightM: 1.9,
  stepM: 0.4,
  maxSlopeRad: 0.663,
  maxWaterDepthM: 0.3,
  gaits: { walk: 1.4, hurry: 2.2, run: 3.6 },
  gait: 'walk',
  accelMps2: 2.5,
  turnRateRadps: 4,
  ...common,
}
