import type { RouteKind } from '@tidytrail/core/level'
import { circuit } from './circuit'
import { lane } from './lane'
import { mission } from './mission'
import { network } from './network'
import { patrol } from './patrol'
import type { RouteStyle } from './style'

/** How routes of each kind are drawn. */
export const ROUTE_STYLES: Record<RouteKind, RouteStyle> = { patrol, lane, circuit, mission, network }
