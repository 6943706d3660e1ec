import type { Profile } from '@tidytrail/core/level'
import type { Powers } from '../course'
import type { Engine } from '../engine'

/** How a kind of body moves. Steering says what it wants; this gives its next state within what it can do. */
export interface BodyModel {
  readonly medium: Profile['medium']
  powers(profile: Profile): Powers
  /** Does it steer along its course by pure pursuit, at a speed and a curvature, rather than walk where it wants? */
  readonly pursues: boolean
  /** Does it back up where others step aside? */
  readonly backsUp?: boolean
  /** Is it carried along its lane where it can follow that exactly? */
  readonly keepsLane?: boolean
  /** One step of agent n. */
  move(engine: Engine, n: number): void
}

/** What most bodies can do, as their profile says. */
export const powersOf = (p: Profile): Powers => ({
  accelMps2: p.accelMps2,
  brakeMps2: p.brakeMps2 ?? p.accelMps2,
  sideMps2: p.gripMps2 ?? p.accelMps2,
  turnRadps: p.turnRateRadps,
  turnM: p.turnM,
  slowestMps: p.slowestMps,
  lagS: 0,
})
