import { plainLeg } from './plain'
import type { RouteStyle } from './style'

export const network: RouteStyle = { ink: 'pine', pattern: 'unbroken', leg: (leg) => plainLeg(leg, 'unbroken') }
