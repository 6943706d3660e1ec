import { again } from './again'
import { followRoute } from './follow-route'
import { goTo } from './go-to'
import { leave } from './leave'
import { pause } from './pause'
import { wander } from './wander'

/** Every kind of step a brief may have. */
export const STEP_KINDS = [followRoute, pause, goTo, wander, again, leave] as const
