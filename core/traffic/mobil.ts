import { followAccel, type Driver } from './idm'

/** Who drives ahead or behind in a lane, as somebody would have to do with it there. Metres, metres a second. */
export interface Neighbour {
  readonly gapM: number
  readonly mps: number
}

/** How somebody changes lane. */
export interface Changer {
  /** How much others count: 0 not at all, 1 as much as oneself. */
  readonly politeness: number
  /** What has to be won to change at all, metres a second squared. */
  readonly threshold: number
  /** Nobody behind may be made to brake harder than this. */
  readonly safeBrakeMps2: number
  /** How much more one lane is liked than the other, as it is for the kerb or for a turn ahead. */
  readonly bias: number
}

export const USUAL_CHANGER: Changer = { politeness: 0.25, threshold: 0.15, safeBrakeMps2: 3, bias: 0 }

/**
 * What would be won by changing into another lane, metres a second squared, over what has to be; negative for staying.
 * MOBIL (Kesting, Treiber and Helbing 2007): one's own gain, that of the two behind weighed by politeness, and no
 * change that would make the new one behind brake harder than is safe.
 * @param now who is ahead and behind in the lane one is in; @param then in the other
 */
export function changeGain(
  driver: Driver,
  changer: Changer,
  mps: number,
  lengthM: number,
  now: { ahead?: Neighbour; behind?: Neighbour },
  then: { ahead?: Neighbour; behind?: Neighbour },
): number {
  const own = (ahead: Neighbour | undefined) =>
    followAccel(driver, mps, ahead?.gapM ?? Infinity, mps - (ahead?.mps ?? mps))
  if (then.ahead && then.ahead.gapM <= 0) return -Infinity
  if (then.behind && then.behind.gapM <= 0) return -Infinity
  const gain = own(then.ahead) - own(now.ahead)
  // Whoever is behind there would have this one ahead; whoever is behind here would have who is ahead now.
  let others = 0
  if (then.behind) {
    const { gapM, mps: v } = then.behind
    const after = followAccel(driver, v, gapM, v - mps)
    if (after < -changer.safeBrakeMps2) return -Infinity
    const before = then.ahead
      ? followAccel(driver, v, gapM + lengthM + then.ahead.gapM, v - then.ahead.mps)
      : followAccel(driver, v, Infinity, 0)
    others += after - before
  }
  if (now.behind) {
    const { gapM, mps: v } = now.behind
    const after = now.ahead
      ? followAccel(driver, v, gapM + lengthM + now.ahead.gapM, v - now.ahead.mps)
      : followAccel(driver, v, Infinity, 0)
    others += after - followAccel(driver, v, gapM, v - mps)
  }
  return gain + changer.politeness * others + changer.bias - changer.threshold
}
