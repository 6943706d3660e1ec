import type { Profile } from '@tidytrail/core/level'
import { BODY_MODELS } from './bodies/list'

/** Somebody who has to can go as slowly as this round a bend, metres a second. */
const CRAWL_MPS = 0.4

/**
 * Radius of the smallest circle a body can go round, slowing down as far as it can, metres; 0 for one that turns where it
 * stands.
 */
export function smallestCircleM(profile: Profile): number {
  const body = BODY_MODELS.find((b) => b.medium === profile.medium)!
  if (!body.pursues) return 0
  const { turnM, turnRadps, sideMps2, slowestMps } = body.powers(profile)
  const mps = Math.max(slowestMps, CRAWL_MPS)
  return Math.max(turnM, mps / turnRadps, (mps * mps) / sideMps2)
}

/** What drives, floats or flies past a stop nearer than this has been there, metres. */
export const PASSES_M = 1.5
