import { z } from 'zod'
import {
  bearing,
  BEARING,
  field,
  flag,
  id,
  kept,
  length,
  METRES,
  name,
  point3,
  points3,
  positive,
  seconds,
} from '../../fields'
import { LIMITS } from '../../limits'
import { defineKind } from '../kind'

const weight = z.number().min(0).max(1000)
type Told = { readonly where: string; readonly begins: string; readonly alive: string; readonly count: number }
const where =
  (...kinds: string[]) =>
  ({ where }: Told) =>
    kinds.includes(where)
const begins =
  (...kinds: string[]) =>
  ({ begins }: Told) =>
    kinds.includes(begins)

/** One of those a spawner may send instead of its own kind; what is not said is as the spawner says it. */
export const mixSchema = z.strictObject({
  weight: weight.default(1),
  profileId: id.nullable().default(null),
  factionId: id.nullable().default(null),
  briefId: id.nullable().default(null),
})

/** How much flows from a time on. */
export const flowSchema = z.strictObject({
  fromS: field(seconds, { label: 'from', unit: 's', step: 1 }),
  perH: field(z.number().min(0).max(100_000), { label: 'an hour', step: 1, digits: 0 }),
})

/** A lane some of a stream are bound for. */
export const boundSchema = z.strictObject({ laneId: id, share: weight.default(1) })

export const spawnerSchema = z.strictObject({
  name,
  at: point3,
  profileId: field(id.nullable(), { label: 'profile', none: 'none chosen' }),
  squadId: field(id.nullable().default(null), { label: 'squad', none: 'none' }),
  factionId: field(id.nullable().default(null), { label: 'faction', none: 'that of its squad, or none' }),
  briefId: field(id.nullable().default(null), { label: 'brief', none: 'that of its squad, or none' }),
  /** What the blanks of its brief are filled with. */
  fills: z
    .array(
      z.strictObject({
        blankId: id,
        routeId: id.nullable().default(null),
        zoneId: id.nullable().default(null),
        gait: name.nullable().default(null),
      }),
    )
    .max(50)
    .default([]),
  /** Those sent by turns with its own kind, by weight; its own kind has this one. */
  mix: z.array(mixSchema).max(20).default([]),
  weight: weight.default(1),
  /** Where they appear. */
  where: field(z.enum(['spot', 'spots', 'area', 'route', 'ranks', 'lanes']).default('spot'), {
    label: 'where',
    words: {
      spot: 'at its spot',
      spots: 'at several spots',
      area: 'in a zone',
      route: 'along a route',
      ranks: 'in ranks',
      lanes: 'in a stream onto lanes',
    },
  }),
  /** Spots beside the first, and how often each is drawn, the first one's weight first. */
  spots: points3.default([]),
  weights: z.array(weight).max(1001).default([]),
  pick: field(z.enum(['turn', 'random']).default('turn'), {
    label: 'which spot',
    words: { turn: 'each in turn', random: 'at random' },
    when: where('spots'),
  }),
  zoneId: field(id.nullable().default(null), { label: 'in zone', none: 'none chosen', when: where('area') }),
  routeId: field(id.nullable().default(null), { label: 'along', none: 'none chosen', when: where('route') }),
  along: field(z.enum(['stops', 'spread', 'apart']).default('spread'), {
    label: 'along it',
    words: { stops: 'at its stops', spread: 'spread evenly', apart: 'so far apart' },
    when: where('route'),
  }),
  /** How far from the start of the route the first place is, and how far apart places along it or ranks are. */
  offsetM: field(length.default(0), { ...METRES, label: 'first at', when: where('route') }),
  apartM: field(positive.default(2), { ...METRES, label: 'apart', when: where('route', 'ranks') }),
  files: field(z.number().int().min(1).max(100).default(2), {
    label: 'abreast',
    step: 0.05,
    digits: 0,
    when: where('ranks'),
  }),
  /** The lanes a stream comes onto, where each begins, and how many an hour on each of them. */
  laneIds: z.array(id).max(500).default([]),
  perH: field(z.number().min(0).max(100_000).default(400), {
    label: 'an hour, on each lane',
    step: 1,
    digits: 0,
    when: where('lanes'),
  }),
  /** Other flows from so many seconds on. */
  hours: z.array(flowSchema).max(48).default([]),
  headways: field(z.enum(['random', 'even']).default('random'), {
    label: 'they come',
    words: { random: 'as chance has it', even: 'evenly' },
    when: where('lanes'),
  }),
  /** Where they are bound for, by shares; nowhere in particular, and then forks have their own shares. */
  bound: z.array(boundSchema).max(200).default([]),
  /** Is traffic already spread over the lanes when its time begins? */
  warm: field(flag(true), { label: 'already under way at the start', when: where('lanes') }),
  facingRad: field(bearing.default(0), { ...BEARING, label: 'faces', when: ({ where }: Told) => where !== 'lanes' }),
  /** How many in all, or how many it keeps. */
  count: field(z.number().int().min(1).max(LIMITS.spawnCount).default(1), {
    label: 'how many',
    step: 0.05,
    digits: 0,
    when: ({ where }: Told) => where !== 'lanes',
  }),
  alive: field(z.enum(['all', 'keep', 'fill']).default('all'), {
    label: 'that is',
    words: { all: 'in all', keep: 'kept alive', fill: 'less the players' },
    when: ({ where }: Told) => where !== 'lanes',
  }),
  atOnce: field(z.number().int().min(1).max(1000).default(1), {
    label: 'at a time',
    step: 0.05,
    digits: 0,
    when: ({ where }: Told) => where !== 'lanes',
  }),
  mostAlive: field(z.number().int().min(1).max(LIMITS.spawnCount).nullable().default(null), {
    label: 'alive at most',
    none: 'all',
    step: 0.05,
    digits: 0,
    when: ({ where, alive, count }: Told) => where === 'lanes' || (alive !== 'keep' && count > 1),
  }),
  /** What its time begins with. */
  begins: field(z.enum(['start', 'entered', 'emptied', 'used-up', 'left']).default('start'), {
    label: 'begins',
    words: {
      start: 'at the start',
      entered: 'when a zone is entered',
      emptied: 'when a zone is left',
      'used-up': 'when another is used up',
      left: 'when somebody leaves',
    },
  }),
  triggerZoneId: field(id.nullable().default(null), {
    label: 'the zone',
    none: 'none chosen',
    when: begins('entered', 'emptied'),
  }),
  triggerFactionId: field(id.nullable().default(null), {
    label: 'by',
    none: 'anybody',
    when: begins('entered', 'emptied'),
  }),
  triggerSpawnerId: field(id.nullable().default(null), {
    label: 'the spawner',
    none: 'none chosen',
    when: begins('used-up', 'left'),
  }),
  firstAfterS: field(seconds.default(0), { label: 'first after', unit: 's', step: 0.1 }),
  everyS: field(seconds.default(2), {
    label: 'then every',
    unit: 's',
    step: 0.1,
    when: ({ where }: Told) => where !== 'lanes',
  }),
  /** Each time in between is longer or shorter by so much at most. */
  spreadS: field(seconds.default(0), {
    label: 'give or take',
    unit: 's',
    step: 0.1,
    when: ({ where }: Told) => where !== 'lanes',
  }),
  untilS: field(seconds.nullable().default(null), { label: 'until', unit: 's', step: 1, none: 'without end' }),
  /** Nobody appears nearer to a stand-in than this. */
  beyondM: field(length.nullable().default(null), { ...METRES, label: 'beyond the player', none: 'any' }),
  /** Of a stream: they appear and are about no farther from a stand-in than this, anywhere along the lanes. */
  withinM: field(positive.nullable().default(null), {
    ...METRES,
    label: 'no farther from the player than',
    none: 'any',
    when: where('lanes'),
  }),
  unseen: field(flag(false), { label: 'only where the player could not see it' }),
  /** Does it send somebody who stands in for a player, whom others look out for and who can be steered? */
  standIn: field(flag(false), { label: 'stands in for a player' }),
  /** What they are called, `#` standing for the number; empty for the spawner's name and the number. */
  calls: field(name.default(''), { label: 'called (# for the number)' }),
  ...kept,
})
export type Spawner = z.output<typeof spawnerSchema>

export const spawner = defineKind({
  in: 'spawners',
  prefix: 'sp',
  word: 'spawner',
  schema: spawnerSchema,
  refs: [
    { path: 'profileId', to: 'profiles', onLost: 'clear' },
    { path: 'squadId', to: 'squads', onLost: 'clear' },
    { path: 'factionId', to: 'factions', onLost: 'clear' },
    { path: 'briefId', to: 'briefs', onLost: 'clear' },
    { path: 'mix.*.profileId', to: 'profiles', onLost: 'clear' },
    { path: 'mix.*.factionId', to: 'factions', onLost: 'clear' },
    { path: 'mix.*.briefId', to: 'briefs', onLost: 'clear' },
    { path: 'fills.*.routeId', to: 'routes', onLost: 'clear' },
    { path: 'fills.*.zoneId', to: 'zones', onLost: 'clear' },
    { path: 'zoneId', to: 'zones', onLost: 'clear' },
    { path: 'routeId', to: 'routes', onLost: 'clear' },
    { path: 'laneIds.*', to: 'routes', onLost: 'drop' },
    { path: 'bound.*.laneId', to: 'routes', onLost: 'drop' },
    { path: 'triggerZoneId', to: 'zones', onLost: 'clear' },
    { path: 'triggerFactionId', to: 'factions', onLost: 'clear' },
    { path: 'triggerSpawnerId', to: 'spawners', onLost: 'clear' },
  ],
  stands: true,
})

/** Do those a spawner sends appear at its spot, and not somewhere in a zone or along lines? */
export const sendsFromSpot = ({ where }: Pick<Spawner, 'where'>): boolean => !ELSEWHERE.has(where)
const ELSEWHERE: ReadonlySet<string> = new Set(['area', 'route', 'lanes'])

interface Casting {
  readonly squads: Readonly<Record<string, { factionId: string | null; briefId: string | null; zoneId: string | null }>>
}
/** What those a spawner sends are told by and whose side they are on: its own word goes before that of its squad. */
/** The spawner whose agent stands in for the player: of several, the first by its id; undefined where nobody does. */
export const standInIdOf = (spawners: Readonly<Record<string, Spawner>>): string | undefined =>
  Object.keys(spawners)
    .sort()
    .find((id) => spawners[id].standIn && spawners[id].profileId !== null)

export const briefIdOf = ({ squads }: Casting, s: Pick<Spawner, 'briefId' | 'squadId'>): string | null =>
  s.briefId ?? squads[s.squadId ?? '']?.briefId ?? null
export const factionIdOf = ({ squads }: Casting, s: Pick<Spawner, 'factionId' | 'squadId'>): string | null =>
  s.factionId ?? squads[s.squadId ?? '']?.factionId ?? null

/** All briefs those a spawner sends may be told by, once each. */
export const briefIdsOf = (level: Casting, s: Pick<Spawner, 'briefId' | 'squadId' | 'mix'>): string[] => {
  const own = briefIdOf(level, s)
  return [...new Set([own, ...s.mix.map((m) => m.briefId)])].filter((id) => id !== null)
}
