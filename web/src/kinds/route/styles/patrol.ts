import { plainLeg } from './plain'
import type { RouteStyle } from './style'

export const patrol: RouteStyle = { ink: 'rust', pattern: 'dashes', leg: (leg) => plainLeg(leg, 'dashes') }
