import { briefView } from './brief'
import { counterView } from './counter'
import { coverView } from './cover'
import { factionView } from './faction'
import { junctionView } from './junction'
import type { KindView } from './kind-view'
import { linkView } from './link'
import { markerView } from './marker'
import { meshView } from './mesh'
import { passageView } from './passage'
import { postView } from './post'
import { profileView } from './profile'
import { reachAreaView } from './reach-area'
import { roadView } from './road'
import { routeView } from './route'
import { signalView } from './signal'
import { sneakLineView } from './sneak-line'
import { solidView } from './solid'
import { spawnerView } from './spawner'
import { squadView } from './squad'
import { trialView } from './trial'
import { underlayView } from './underlay'
import { watchSpotView } from './watch-spot'
import { waypointView } from './waypoint'
import { zoneView } from './zone'

/** How every kind of thing is shown, in the order of the registers and of the legend. */
export const VIEWS: readonly KindView[] = [
  solidView,
  meshView,
  coverView,
  underlayView,
  profileView,
  reachAreaView,
  passageView,
  routeView,
  waypointView,
  linkView,
  roadView,
  junctionView,
  markerView,
  spawnerView,
  squadView,
  zoneView,
  postView,
  factionView,
  briefView,
  signalView,
  counterView,
  sneakLineView,
  watchSpotView,
  trialView,
]
