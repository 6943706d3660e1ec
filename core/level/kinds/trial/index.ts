import { z } from 'zod'
import { field, flag, id, METRES, name, seconds, text } from '../../fields'
import { defineKind } from '../kind'

/** What a trial is about. */
export const TRIAL_KINDS = ['follows', 'visits', 'stuck', 'spot', 'line', 'away', 'count', 'sees', 'ends'] as const
export type TrialKind = (typeof TRIAL_KINDS)[number]

const about =
  (...kinds: TrialKind[]) =>
  ({ kind }: { kind: TrialKind }) =>
    kinds.includes(kind)
interface About {
  kind: TrialKind
  whom: string
}
const ABOUT_AGENTS: readonly TrialKind[] = ['follows', 'visits', 'stuck', 'away', 'count', 'sees', 'ends']
const of =
  (whom: string) =>
  (t: About): boolean =>
    t.whom === whom && ABOUT_AGENTS.includes(t.kind)
const seconds1 = { unit: 's', step: 0.1, digits: 1 } as const

/** A statement that must hold in a rehearsal, made of choices. */
export const trialSchema = z.strictObject({
  name: name.default(''),
  kind: field(z.enum(TRIAL_KINDS).default('follows'), {
    label: 'that',
    words: {
      follows: 'everybody follows',
      visits: 'every stop is visited in time',
      stuck: 'nobody is stuck for long',
      spot: 'a watch spot has windows',
      line: 'a sneak line has windows',
      away: 'somebody keeps away',
      count: 'so many are there',
      sees: 'all of a zone is seen',
      ends: 'everybody is done in time',
    },
  }),
  /** Whom it is about; a stand-in is never meant by everybody. */
  whom: field(z.enum(['everybody', 'spawner', 'faction', 'route']).default('everybody'), {
    label: 'whom',
    words: { spawner: 'those of a spawner', faction: 'those of a faction', route: 'those on a route' },
    when: (t: About) => ABOUT_AGENTS.includes(t.kind),
  }),
  spawnerId: field(id.nullable().default(null), { label: 'sent by', none: 'none', when: of('spawner') }),
  factionId: field(id.nullable().default(null), { label: 'faction', none: 'none', when: of('faction') }),
  routeId: field(id.nullable().default(null), { label: 'on', none: 'none', when: of('route') }),
  spotId: field(id.nullable().default(null), { label: 'watch spot', none: 'none', when: about('spot') }),
  lineId: field(id.nullable().default(null), { label: 'sneak line', none: 'none', when: about('line') }),
  zoneId: field(id.nullable().default(null), { label: 'zone', none: 'none', when: about('away', 'sees') }),
  markerId: field(id.nullable().default(null), { label: 'from', none: 'none', when: about('away') }),
  withinS: field(seconds.default(90), { ...seconds1, label: 'within', when: about('visits', 'sees', 'ends') }),
  longestS: field(seconds.default(5), { ...seconds1, label: 'at most', when: about('stuck') }),
  windowS: field(seconds.default(6), { ...seconds1, label: 'as long as', when: about('spot', 'line') }),
  everyS: field(seconds.default(40), { ...seconds1, label: 'at least every', when: about('spot', 'line') }),
  distanceM: field(z.number().min(0).max(10_000).default(10), { ...METRES, label: 'by', when: about('away') }),
  least: field(z.number().int().min(0).max(100_000).default(1), { label: 'at least', digits: 0, when: about('count') }),
  most: field(z.number().int().min(0).max(100_000).default(10), { label: 'at most', digits: 0, when: about('count') }),
  /** From when on it must hold. */
  fromS: field(seconds.default(0), { ...seconds1, label: 'from', when: about('count', 'spot', 'line', 'away') }),
  off: field(flag(false), { label: 'not looked at' }),
  note: field(text.default(''), { label: 'note', long: true }),
})
export type Trial = z.output<typeof trialSchema>

export const trial = defineKind({
  in: 'trials',
  prefix: 'tl',
  word: 'trial',
  schema: trialSchema,
  refs: [
    { path: 'spawnerId', to: 'spawners', onLost: 'clear' },
    { path: 'factionId', to: 'factions', onLost: 'clear' },
    { path: 'routeId', to: 'routes', onLost: 'clear' },
    { path: 'spotId', to: 'watchSpots', onLost: 'clear' },
    { path: 'lineId', to: 'sneakLines', onLost: 'clear' },
    { path: 'zoneId', to: 'zones', onLost: 'clear' },
    { path: 'markerId', to: 'markers', onLost: 'clear' },
  ],
})
