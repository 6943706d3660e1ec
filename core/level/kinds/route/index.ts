import { z } from 'zod'
import { field, id, kept, length, METRES, name, restriction, speedLimit } from '../../fields'
import { LIMITS } from '../../limits'
import { defineKind, RESTRICTS } from '../kind'
import { haltSchema, MOST_HALTS } from './halt'
import { stopSchema } from './stop'

export const ROUTE_KINDS = ['patrol', 'lane', 'circuit', 'mission', 'network'] as const
export const TRAVEL_MODES = ['one-way', 'round', 'there-and-back', 'any-order'] as const
export const ROUTE_COLOURS = ['rust', 'lake', 'plum', 'ochre', 'pine', 'ink'] as const
export const ROUTE_PATTERNS = ['unbroken', 'dashes', 'dots', 'dash-dot'] as const

export const CHANGE_SIDES = ['both', 'left', 'right'] as const
/** Most stretches of a lane on which it may not be left for one beside it. */
export const MOST_NO_CHANGE = 50

type Drawn = { legs: string; curve: string }

export const routeSchema = z.strictObject({
  name,
  kind: z.enum(ROUTE_KINDS).default('patrol'),
  travel: z.enum(TRAVEL_MODES).default('one-way'),
  legs: field(z.enum(['found', 'drawn']).default('found'), {
    label: 'legs',
    words: { found: 'found over the reach map', drawn: 'exactly as drawn' },
  }),
  curve: field(z.enum(['straight', 'smooth']).default('straight'), {
    label: 'line',
    when: (r: Drawn) => r.legs === 'drawn',
  }),
  /** How taut a smooth line is: 0 as round as it gets, 1 straight. */
  tension: field(z.number().min(0).max(1).default(0), {
    label: 'tension',
    unit: '%',
    times: 100,
    step: 1,
    digits: 0,
    when: (r: Drawn) => r.curve === 'smooth' && r.legs === 'drawn',
  }),
  widthM: field(length.default(0), { ...METRES, label: 'width' }),
  /** Whom a lane is for: those who drive along it, or those who walk on it either way. */
  use: field(z.enum(['drive', 'walk']).default('drive'), {
    label: 'lane for',
    words: { drive: 'driving', walk: 'walking' },
    when: (r: { kind: string }) => r.kind === 'lane',
  }),
  /** Where a lane one walks along leads over lanes one drives along: who waits for the others. */
  atCrossings: field(z.enum(['vehicles', 'walkers']).default('vehicles'), {
    label: 'where it crosses lanes',
    words: { vehicles: 'vehicles wait', walkers: 'walkers wait' },
    when: (r: { kind: string; use: string }) => r.kind === 'lane' && r.use === 'walk',
  }),
  speedLimitMps: speedLimit,
  /** How it is drawn; null as its kind is. */
  colour: field(z.enum(ROUTE_COLOURS).nullable().default(null), { label: 'colour', none: 'of its kind' }),
  pattern: field(z.enum(ROUTE_PATTERNS).nullable().default(null), {
    label: 'pattern',
    none: 'of its kind',
    words: { 'dash-dot': 'dash dot' },
  }),
  /** In any order: drawn by chance each round, or the nearest not yet visited. */
  pick: field(z.enum(['drawn', 'nearest']).default('drawn'), {
    label: 'next is',
    words: { drawn: 'drawn by chance', nearest: 'the nearest' },
    when: (r: { travel: string }) => r.travel === 'any-order',
  }),
  /** What those do who come to the end of a lane that leads nowhere else. */
  atEnd: field(z.enum(['unsaid', 'leave']).default('unsaid'), {
    label: 'at its end',
    words: { unsaid: 'nothing is said', leave: 'they leave the level' },
    when: (r: { kind: string; use: string; travel: string }) =>
      r.kind === 'lane' && r.use === 'drive' && r.travel !== 'round',
  }),
  /** Where those who drive along a lane may not change into one beside it, metres along it. */
  noChange: z
    .array(
      z.strictObject({
        fromM: field(length, { ...METRES, label: 'no changing from' }),
        toM: field(length, { ...METRES, label: 'as far as' }),
        side: field(z.enum(CHANGE_SIDES).default('both'), { label: 'to', words: { both: 'both sides' } }),
      }),
    )
    .max(MOST_NO_CHANGE)
    .default([]),
  /** Where those who drive along a lane stand for a while: platforms and parking places. */
  halts: z.array(haltSchema).max(MOST_HALTS).default([]),
  ...restriction,
  stops: z.record(id, stopSchema),
  order: z.array(id).max(LIMITS.waypoints),
  linkIds: z.array(id).max(LIMITS.waypoints).default([]),
  ...kept,
})
export type Route = z.output<typeof routeSchema>
export type RouteKind = (typeof ROUTE_KINDS)[number]
export type TravelMode = (typeof TRAVEL_MODES)[number]

export const route = defineKind({
  in: 'routes',
  prefix: 'rt',
  word: 'route',
  schema: routeSchema,
  parts: { in: 'stops', prefix: 'st', word: 'stop' },
  refs: [
    { path: 'stops.*.waypointId', to: 'waypoints', onLost: 'delete', stands: true, orphans: true },
    { path: 'linkIds.*', to: 'links', onLost: 'drop', stands: true, orphans: true },
    RESTRICTS,
    { path: 'halts.*.profileIds.*', to: 'profiles', onLost: 'drop' },
  ],
})
