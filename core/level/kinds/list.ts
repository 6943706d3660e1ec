import { brief } from './brief'
import { counter } from './counter'
import { cover } from './cover'
import { faction } from './faction'
import { junction } from './junction'
import { link } from './link'
import { marker } from './marker'
import { mesh } from './mesh'
import { passage } from './passage'
import { post } from './post'
import { profile } from './profile'
import { reachArea } from './reach-area'
import { road } from './road'
import { route } from './route'
import { signal } from './signal'
import { solid } from './solid'
import { sneakLine } from './sneak-line'
import { spawner } from './spawner'
import { squad } from './squad'
import { trial } from './trial'
import { underlay } from './underlay'
import { waiver } from './waiver'
import { watchSpot } from './watch-spot'
import { waypoint } from './waypoint'
import { zone } from './zone'

/** Every kind of thing there is, in the order of a level file. */
export const KINDS = [
  solid,
  mesh,
  underlay,
  cover,
  reachArea,
  profile,
  passage,
  waypoint,
  link,
  route,
  road,
  junction,
  marker,
  zone,
  post,
  faction,
  signal,
  brief,
  squad,
  spawner,
  counter,
  watchSpot,
  sneakLine,
  trial,
  waiver,
] as const
