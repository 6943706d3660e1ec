import { followRoute } from './follow-route'
import { pause } from './pause'

/** Every kind of step a brief may have. */
export const STEP_KINDS = [followRoute, pause] as const
