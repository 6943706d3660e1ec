import { blocked, signalGiven, someoneLeft, timePassed, zoneEntered } from './events'
import { hears, sees, touched } from './sees'

/** Every kind of standing sentence a brief may have. */
export const WHEN_KINDS = [sees, hears, touched, blocked, someoneLeft, zoneEntered, signalGiven, timePassed] as const
