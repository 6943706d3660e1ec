/** Things with nothing said about them yet. */
import { toMillimetre } from '@tidytrail/core/geometry'
import type { Route, Stop } from './kinds'

export type Place = [x: number, y: number, z: number]

export const roundPlace = (at: readonly number[]): Place => [
  toMillimetre(at[0]),
  toMillimetre(at[1]),
  toMillimetre(at[2]),
]

const noStop: Omit<Stop, 'waypointId'> = {
  pause: { minS: 0, maxS: 0 },
  pauseShare: 1,
  facingRad: null,
  look: null,
  gait: null,
  arrivalRadiusM: null,
  action: '',
  note: '',
  sharp: false,
  tags: [],
}

/** A stop at a waypoint with nothing said about it yet. */
export const plainStop = (waypointId: string): Stop => ({ waypointId, ...noStop })

/** A route of a kind with no stops yet, travelled as such routes mostly are. */
export const plainRoute = (name: string, kind: Route['kind']): Route => ({
  name,
  kind,
  travel: 'one-way',
  legs: kind === 'patrol' || kind === 'mission' ? 'found' : 'drawn',
  curve: kind === 'lane' || kind === 'circuit' ? 'smooth' : 'straight',
  tension: 0,
  pick: 'drawn',
  use: 'drive',
  atCrossings: 'vehicles',
  atEnd: 'unsaid',
  widthM: kind === 'lane' ? 3 : kind === 'circuit' ? 8 : 0,
  speedLimitMps: null,
  colour: null,
  pattern: null,
  profileIds: [],
  nobody: false,
  stops: {},
  order: [],
  linkIds: [],
  noChange: [],
  halts: [],
  note: '',
  tags: [],
  locked: false,
  hidden: false,
})
