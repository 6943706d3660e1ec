import type { Check } from './check'
import { briefDangling } from './list/brief-dangling'
import { briefEmpty } from './list/brief-empty'
import { briefNoWayOut } from './list/brief-no-way-out'
import { briefNoLanes } from './list/brief-no-lanes'
import { briefUnreachableStep } from './list/brief-unreachable-step'
import { spawnerUnderGround } from './list/spawner-under-ground'
import { spawnerBoundNowhere } from './list/spawner-bound-nowhere'
import { spawnerFacing } from './list/spawner-facing'
import { spawnerTooClose } from './list/spawner-too-close'
import { spawnerMoreThanPlaces } from './list/spawner-more-than-places'
import { spawnerNever } from './list/spawner-never'
import { spawnerFloods } from './list/spawner-floods'
import { factionDefault } from './list/faction-default'
import { factionFriendlyFire } from './list/faction-friendly-fire'
import { zoneNoPosts } from './list/zone-no-posts'
import { zoneCrowded } from './list/zone-crowded'
import { zoneKeptOut } from './list/zone-kept-out'
import { zoneNoFloor } from './list/zone-no-floor'
import { postNoZone } from './list/post-no-zone'
import { balanceStarts } from './list/balance-starts'
import { groundOutsideExtent } from './list/ground-outside-extent'
import { groundSolidOverlap } from './list/ground-solid-overlap'
import { profileImpossible } from './list/profile-impossible'
import { reachAreaProfile } from './list/reach-area-profile'
import { reachIslands } from './list/reach-islands'
import { reachNarrow } from './list/reach-narrow'
import { reachNone } from './list/reach-none'
import { reachPassageBeyond } from './list/reach-passage-beyond'
import { reachPassageLoose } from './list/reach-passage-loose'
import { reachPassageOneWayTrap } from './list/reach-passage-one-way-trap'
import { reachRestrictionEmpty } from './list/reach-restriction-empty'
import { routeLegBlocked } from './list/route-leg-blocked'
import { routeTooFew } from './list/route-too-few'
import { routeUnassigned } from './list/route-unassigned'
import { spawnerFloating } from './list/spawner-floating'
import { spawnerInsideSolid } from './list/spawner-inside-solid'
import { spawnerOffReach } from './list/spawner-off-reach'
import { waypointBuried } from './list/waypoint-buried'
import { waypointFloating } from './list/waypoint-floating'
import { waypointOffReach } from './list/waypoint-off-reach'
import { sneakLineBlocked } from './list/sneak-line-blocked'
import { linkBlocked } from './list/link-blocked'
import { linkMissingReturn } from './list/link-missing-return'
import { linkOneWayDeadEnd } from './list/link-one-way-dead-end'
import { networkArticulation } from './list/network-articulation'
import { networkRedundantNode } from './list/network-redundant-node'
import { networkSplit } from './list/network-split'
import { networkUnseenPlace } from './list/network-unseen-place'
import { routeArrivalOrbit } from './list/route-arrival-orbit'
import { routeBacktrack } from './list/route-backtrack'
import { routeCrossesItself } from './list/route-crosses-itself'
import { routeGaitMissing } from './list/route-gait-missing'
import { routeLegDetour } from './list/route-leg-detour'
import { routeNameClash } from './list/route-name-clash'
import { routeNotClosed } from './list/route-not-closed'
import { routeNumberOrder } from './list/route-number-order'
import { routeSteep } from './list/route-steep'
import { routeStopsTooClose } from './list/route-stops-too-close'
import { routeWrongMedium } from './list/route-wrong-medium'
import { waypointDuplicatePlace } from './list/waypoint-duplicate-place'
import { waypointOrphan } from './list/waypoint-orphan'
import { waypointSharedMedia } from './list/waypoint-shared-media'
import { laneBackwards } from './list/lane-backwards'
import { laneGap } from './list/lane-gap'
import { laneHeadingJump } from './list/lane-heading-jump'
import { laneDeadEnd } from './list/lane-dead-end'
import { lanePassingShort } from './list/lane-passing-short'
import { laneOffRoad } from './list/lane-off-road'
import { laneHaltNoRoom } from './list/lane-halt-no-room'
import { laneTooTight } from './list/lane-too-tight'
import { laneUnfed } from './list/lane-unfed'
import { laneOverlap } from './list/lane-overlap'
import { junctionMissing } from './list/junction-missing'
import { junctionConflictUncontrolled } from './list/junction-conflict-uncontrolled'
import { junctionGreenConflict } from './list/junction-green-conflict'
import { junctionWalkShort } from './list/junction-walk-short'
import { junctionPhaseStarved } from './list/junction-phase-starved'
import { junctionWatchShort } from './list/junction-watch-short'
import { junctionGridlockRisk } from './list/junction-gridlock-risk'

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
  spawnerFloating,
  briefDangling,
  briefEmpty,
  briefNoWayOut,
  briefUnreachableStep,
  briefNoLanes,
  spawnerUnderGround,
  spawnerFacing,
  spawnerTooClose,
  spawnerMoreThanPlaces,
  spawnerBoundNowhere,
  spawnerNever,
  spawnerFloods,
  factionDefault,
  factionFriendlyFire,
  zoneNoPosts,
  zoneCrowded,
  zoneKeptOut,
  zoneNoFloor,
  postNoZone,
  balanceStarts,
  reachIslands,
  ...groundOutsideExtent,
  ...groundSolidOverlap,
  reachNone,
  profileImpossible,
  reachAreaProfile,
  reachPassageLoose,
  reachPassageBeyond,
  reachPassageOneWayTrap,
  reachNarrow,
  ...reachRestrictionEmpty,
  linkBlocked,
  sneakLineBlocked,
  linkMissingReturn,
  linkOneWayDeadEnd,
  networkArticulation,
  networkRedundantNode,
  networkSplit,
  networkUnseenPlace,
  routeArrivalOrbit,
  routeBacktrack,
  routeCrossesItself,
  ...routeGaitMissing,
  routeLegDetour,
  routeNameClash,
  routeNotClosed,
  routeNumberOrder,
  routeSteep,
  routeStopsTooClose,
  routeWrongMedium,
  waypointDuplicatePlace,
  waypointOrphan,
  waypointSharedMedia,
  laneBackwards,
  laneGap,
  laneHeadingJump,
  laneDeadEnd,
  laneTooTight,
  laneHaltNoRoom,
  lanePassingShort,
  laneOffRoad,
  laneUnfed,
  laneOverlap,
  junctionMissing,
  junctionConflictUncontrolled,
  junctionGreenConflict,
  junctionPhaseStarved,
  junctionWalkShort,
  junctionWatchShort,
  junctionGridlockRisk,
]

export type { Check } from './check'
