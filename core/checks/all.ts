import type { Check } from './check'
import { briefDangling } from './list/brief-dangling'
import { groundOutsideExtent } from './list/ground-outside-extent'
import { groundSolidOverlap } from './list/ground-solid-overlap'
import { reachAreaProfile } from './list/reach-area-profile'
import { reachIslands } from './list/reach-islands'
import { reachNarrow } from './list/reach-narrow'
import { reachNone } from './list/reach-none'
import { reachPassageBeyond } from './list/reach-passage-beyond'
import { reachPassageLoose } from './list/reach-passage-loose'
import { reachPassageOneWayTrap } from './list/reach-passage-one-way-trap'
import { routeLegBlocked } from './list/route-leg-blocked'
import { routeTooFew } from './list/route-too-few'
import { routeUnassigned } from './list/route-unassigned'
import { spawnerInsideSolid } from './list/spawner-inside-solid'
import { spawnerOffReach } from './list/spawner-off-reach'
import { waypointBuried } from './list/waypoint-buried'
import { waypointFloating } from './list/waypoint-floating'
import { waypointOffReach } from './list/waypoint-off-reach'

/** Every check there is. A new one is a file in `list/` and a line here. */
export const CHECKS: readonly Check[] = [
  waypointFloating,
  waypointBuried,
  waypointOffReach,
  routeTooFew,
  routeLegBlocked,
  routeUnassigned,
  spawnerInsideSolid,
  spawnerOffReach,
  briefDangling,
  reachIslands,
  ...groundOutsideExtent,
  ...groundSolidOverlap,
  reachNone,
  reachAreaProfile,
  reachPassageLoose,
  reachPassageBeyond,
  reachPassageOneWayTrap,
  reachNarrow,
]

export type { Check } from './check'
