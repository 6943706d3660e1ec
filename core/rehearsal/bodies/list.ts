import { amphibian } from './amphibian'
import { boat } from './boat'
import type { BodyModel } from './body'
import { flyer } from './flyer'
import { vehicle } from './vehicle'
import { walker } from './walker'

/** How every kind of body moves. */
export const BODY_MODELS: readonly BodyModel[] = [walker, vehicle, boat, flyer, amphibian]
