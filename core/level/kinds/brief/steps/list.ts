import { followRoute } from './follow-route'
import { goTo } from './go-to'
import { pause } from './pause'

/** Every kind of step a brief may have. */
export const STEP_KINDS = [followRoute, pause, goTo] as const
