import type { Point3 } from '@tidytrail/core/geometry'
import type { Level, Route } from '@tidytrail/core/level'
import type { LegPlanner } from '@tidytrail/core/network'
import { whyNotHere } from '@tidytrail/core/reach'
import { CAUSES, CHANGE, LIMITS, type AgentEvent, type Cause, type Limit } from './events'
import type { StepRow } from './steps/list'

/** Why a leg cannot be travelled, or a step of a brief came to nothing. */
export function causeWords(
  cause: Cause,
  planner: LegPlanner,
  row: StepRow | undefined,
  from: number,
  to: number,
  at: Point3,
): string {
  const route = row?.route
  switch (cause) {
    case 'no-route':
      return 'its brief says to follow a route, but none is chosen'
    case 'few-stops':
      return `${route?.name ?? 'its route'} has fewer than two stops`
    case 'no-place':
      return 'its brief says to go to a place, but none is chosen'
    case 'no-zone':
      return 'its brief says to wander in a zone, but none is chosen'
    case 'no-floor':
      return 'nowhere in the zone it is to wander in can it get to'
    case 'no-posts':
      return 'the zone it is to hold has no posts'
    case 'no-vehicle':
      return 'there is nothing free that it could board'
    case 'nobody':
      return 'it has nobody in mind whom that could be about'
    case 'target-gone':
      return 'whom it was to keep to has left'
    case 'no-signal':
      return 'the signal it was to wait for was not given'
    case 'no-passage':
      return 'there is no passage it could use, or it is locked'
    case 'no-lanes':
      return 'there is no lane for walking that it may use and get to'
    case 'taken':
      return 'others used what it was to use, for longer than it was to wait'
    case 'gone':
      return `the stop it was making for is gone from ${route?.name ?? 'its route'}`
    case 'stuck':
      return `it was stuck on the way to stop ${to + 1} of ${route?.name ?? 'its route'}, and gave up`
    default:
  }
  if (!row || (!route && !row.place))
    return `it appears where it cannot stand: ${whyNotHere(planner.map, at) ?? 'no floor'}`
  const label = !route
    ? 'the way to the place it was told to go to'
    : from < 0
      ? `the way to stop ${Math.max(0, to) + 1} of ${route.name}`
      : `leg ${from + 1} to ${to + 1} of ${route.name}`
  const goal = row.place ?? row.stops[to]
  const place = goal && whyNotHere(planner.map, goal)
  const here =
    cause === 'start' ? whyNotHere(planner.map, from < 0 || !row.stops[from] ? at : row.stops[from]) : undefined
  const why = here
    ? `it begins where it is ${here}`
    : place
      ? `${route ? `stop ${to + 1}` : 'the place'} is ${place}`
      : route?.legs === 'drawn'
        ? 'something stands in the line it is drawn along'
        : 'nothing joins the two sides'
  return `${label} cannot be walked: ${why}`
}

const LIMIT_WORDS: Record<Limit, string> = {
  nothing: 'nothing in particular',
  corner: 'a corner',
  arrival: 'coming to a halt',
  slope: 'a height to be gained',
  cover: 'the ground it goes over',
  neighbour: 'keeping clear',
  gap: 'the edge of its reach',
  grip: 'too fast for the bend',
  turning: 'having to turn',
  queue: 'those in front',
  'setting-out': 'setting out',
  signal: 'a signal',
  'give-way': 'a give-way line',
  'kept-clear': 'a junction that is kept clear',
  'lane-end': 'the end of its lane, with no room on the one beside',
  crossing: 'those who cross',
  traffic: 'vehicles where it is to cross',
  halt: 'a halt it makes',
  narrow: 'those who come the other way through the narrow',
}

/** What held somebody back, in words. @param by the name of who it was, where it was somebody */
export const limitWords = (limit: number, by?: string): string => {
  const word = LIMITS[limit] ?? 'nothing'
  if (word === 'neighbour' && by) return `keeping clear of ${by}`
  if (word === 'queue' && by) return `waiting behind ${by}`
  if (word === 'give-way' && by) return `giving way to ${by}`
  if (word === 'crossing' && by) return `letting ${by} cross`
  if (word === 'traffic' && by) return `letting ${by} pass before it crosses`
  if (word === 'kept-clear' && by) return `keeping a junction clear, behind ${by}`
  return LIMIT_WORDS[word]
}

/** Who an agent of a run is, as far as words need it. */
export interface Named {
  readonly key: number
  readonly name: string
}

/** An event in words. @param route the one its agent was on */
export function eventWords(
  event: AgentEvent,
  stepS: number,
  nameOf: (key: number) => string | undefined,
  route: Route | undefined,
  level: Level,
): string {
  const { kind, a, b, c } = event
  const stop = (k: number) => {
    const of = route?.stops[route.order[k]]
    const name = of ? level.waypoints[of.waypointId]?.name : ''
    return `stop ${k + 1}${name ? `, ${name}` : ''}`
  }
  const who = (key: number) => nameOf(key) ?? 'somebody'
  switch (kind) {
    case 'appeared':
      return 'appeared'
    case 'left':
      return a === 2 ? 'was boarded' : a === 1 ? 'left, as it was told' : 'left at the end of its lane'
    case 'reached':
      return `reached ${stop(a)}${b > 0 ? `, pauses ${(b / 1000).toFixed(1)} s` : ''}`
    case 'missed':
      return `passed ${a < 0 ? 'the place it was going to' : stop(a)} ${(b / 1000).toFixed(1)} m off`
    case 'crossed':
      return 'takes a passage'
    case 'blocked':
      return CAUSES[a] === 'stuck' ? 'gave up' : `cannot go on${c >= 0 ? ` to ${stop(c)}` : ''}`
    case 'finished':
      return 'finished its brief'
    case 'stuck':
      return `got no farther: ${limitWords(a, b > 0 ? who(b) : undefined)}${c > 1 ? ` (try ${c})` : ''}`
    case 'free':
      return 'got on again'
    case 'planned-anew':
      return b ? 'planned its way anew' : 'found no other way'
    case 'stood-aside':
      return a > 0 ? `stood aside for ${who(a)}` : 'stepped aside'
    case 'gave-up':
      return `gave up on ${a < 0 ? 'getting there' : stop(a)}`
    case 'orbits':
      return `went round and round ${a < 0 ? 'where it was going' : stop(a)} without coming nearer`
    case 'strayed':
      return `was up to ${(b / 1000).toFixed(2)} m off its line for ${((event.step - a) * stepS).toFixed(1)} s: ${limitWords(c % 256, c >= 256 ? who(Math.floor(c / 256)) : undefined)}`
    case 'gait-missing':
      return 'is asked for a gait it does not have, and goes at its usual one'
    case 'carried-over':
      return 'goes on with what it is told now'
    case 'saw':
      return `saw ${who(a)}`
    case 'lost':
      return `lost sight of ${who(a)}`
    case 'heard':
      return `heard ${who(a)}`
    case 'noise':
      return 'made a noise'
    case 'steered':
      return 'was taken by the keys'
    case 'let-go':
      return 'was let go'
    case 'ran-into':
      return `stood in ${who(a)}`
    case 'began':
      return `began step ${a + 1} of ${b > 0 ? `standing sentence ${b}` : 'its brief'}`
    case 'began-again':
      return 'began its brief again'
    case 'interrupted':
      return `broke off for standing sentence ${a + 1}${b > 0 ? `: ${who(b)}` : ''}`
    case 'took-up':
      return 'took up what it had broken off'
    case 'goes-for':
      return `goes for ${who(a)}`
    case 'took-post':
      return 'took a post'
    case 'gave-post':
      return 'gave its post up'
    case 'boarded':
      return `boarded ${who(a)}`
    case 'signalled':
      return 'gave a signal'
    case 'uses':
      return 'uses what it came for'
    case 'got-out':
      return 'got out'
    case 'drew':
      return `will turn into ${route?.name ?? 'another lane'} ahead (${Math.round(a / 10)} % do)`
    case 'changed-lanes':
      return `changed into ${route?.name ?? 'the lane beside'}, ${a === CHANGE.way ? 'from which its way leads on' : 'where it gets on better'}`
    case 'halted':
      return `${b === 0 ? 'halts' : 'is parked'} for ${(a / 1000).toFixed(0)} s`
    case 'turned':
      return `turned into ${route?.name ?? 'another lane'}`
  }
}
