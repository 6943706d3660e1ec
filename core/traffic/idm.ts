/** How somebody drives behind others. Metres, seconds. */
export interface Driver {
  /** What it would drive with nobody ahead. */
  readonly wishMps: number
  readonly accelMps2: number
  /** What it brakes by when it has the choice. */
  readonly brakeMps2: number
  /** What it keeps in front when it stands, and time it keeps to whoever is ahead. */
  readonly gapM: number
  readonly headwayS: number
}

/** How carefully one drives where nothing else is said. */
export const USUAL_DRIVER: Driver = { wishMps: 14, accelMps2: 1.7, brakeMps2: 2, gapM: 2, headwayS: 1.1 }

/** How strongly the wish for speed is felt near it. */
const POWER = 4
/** Nobody is asked to brake harder than this, metres a second squared. */
const HARDEST_MPS2 = 9

/** What a driver does on a free road, metres a second squared. */
export function freeAccel({ wishMps, accelMps2 }: Driver, mps: number): number {
  if (wishMps <= 0) return -accelMps2
  const share = mps / wishMps
  // Faster than it wishes it eases off, and does not brake as hard as the fourth power would have it.
  if (share > 1) return Math.max(-accelMps2, accelMps2 * (1 - share ** POWER))
  return accelMps2 * (1 - share ** POWER)
}

/** The gap a driver would like at its speed, to one that is approached, metres. */
export function wantedGapM({ accelMps2, brakeMps2, gapM, headwayS }: Driver, mps: number, closingMps: number): number {
  return gapM + Math.max(0, mps * headwayS + (mps * closingMps) / (2 * Math.sqrt(accelMps2 * brakeMps2)))
}

/**
 * What a driver does behind another: the intelligent driver model (Treiber, Hennecke and Helbing 2000),
 * a (1 − (v/v₀)⁴ − (w/s)²) for a gap s where w is wanted, metres a second squared, and never harder than a hard stop.
 * @param aheadM free road between both; Infinity with nobody ahead
 * @param closingMps by how much it is faster than who is ahead
 */
export function followAccel(driver: Driver, mps: number, aheadM: number, closingMps: number): number {
  const free = freeAccel(driver, mps)
  if (aheadM === Infinity) return free
  const ratio = wantedGapM(driver, mps, closingMps) / Math.max(0.1, aheadM)
  return Math.max(-HARDEST_MPS2, free - driver.accelMps2 * ratio * ratio)
}

/** The gap at which a driver keeps its speed behind one as fast: (s₀ + vT)/√(1 − (v/v₀)⁴), metres. */
export const steadyGapM = ({ wishMps, gapM, headwayS }: Driver, mps: number): number =>
  (gapM + mps * headwayS) / Math.sqrt(1 - (mps / wishMps) ** POWER)

/** Vehicles an hour that pass one place when all drive at a speed, each so long and at its steady gap. */
export const steadyFlowPerH = (driver: Driver, mps: number, lengthM: number): number =>
  (3600 * mps) / (steadyGapM(driver, mps) + lengthM)

/** Speed and density of a lane on which all drive at their steady gap: the model's own fundamental diagram, slowest first. */
export function fundamentalDiagram(
  driver: Driver,
  lengthM: number,
  points = 40,
): { mps: number; perKm: number; perH: number }[] {
  return Array.from({ length: points }, (_, k) => {
    const mps = (driver.wishMps * k) / points
    return { mps, perKm: 1000 / (steadyGapM(driver, mps) + lengthM), perH: steadyFlowPerH(driver, mps, lengthM) }
  })
}

/** Can a driver still stop before a line without braking harder than a limit? */
export const canStop = (mps: number, aheadM: number, hardestMps2: number): boolean =>
  aheadM > 0 && mps * mps <= 2 * hardestMps2 * aheadM
