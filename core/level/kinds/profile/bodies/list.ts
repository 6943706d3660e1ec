import { amphibian } from './amphibian'
import { boat } from './boat'
import { flyer } from './flyer'
import { vehicle } from './vehicle'
import { walker } from './walker'

/** Every kind of body a profile may have. */
export const BODIES = [walker, vehicle, boat, flyer, amphibian] as const
