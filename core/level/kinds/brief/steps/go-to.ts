import { z } from 'zod'
import { field, id, name } from '../../../fields'
import { atGait, common, defineStep } from '../step'

const to = (where: string) => (step: { to: string }) => step.to === where
const KEYS = { marker: 'markerId', post: 'postId', zone: 'zoneId' } as const

/** A step that names a place: a marker, or one of the others where it says which. */
export type PlaceStep = {
  readonly to?: keyof typeof KEYS
  readonly markerId: string | null
  readonly postId?: string | null
  readonly zoneId?: string | null
}

/** The place a step that has one names: its key, and what it names. */
export function placeNamed(step: PlaceStep) {
  const key = KEYS[step.to ?? 'marker']
  return { key, id: step[key] ?? null }
}

/** A place of a step: a marker, a post, or somewhere in a zone. */
export const namedPlace = {
  to: field(z.enum(['marker', 'post', 'zone']).default('marker'), { label: 'to a' }),
  markerId: field(id.nullable().default(null), { label: 'marker', none: 'none chosen', when: to('marker') }),
  postId: field(id.nullable().default(null), { label: 'post', none: 'none chosen', when: to('post') }),
  zoneId: field(id.nullable().default(null), { label: 'zone', none: 'that of its squad', when: to('zone') }),
}
export const PLACE_REFS = [
  { path: 'markerId', to: 'markers', onLost: 'clear' },
  { path: 'postId', to: 'posts', onLost: 'clear' },
  { path: 'zoneId', to: 'zones', onLost: 'clear' },
] as const
/** What a step with a named place cannot be done without. */
export const placeNeeded = (step: { readonly to: keyof typeof KEYS }): readonly string[] =>
  step.to === 'zone' ? [] : [KEYS[step.to]]
export const placeWords = (step: PlaceStep): string =>
  step.to === 'zone' ? "its squad's zone" : `a ${step.to === 'post' ? 'post' : 'place'} that is not chosen yet`

export const goTo = defineStep({
  kind: 'go-to',
  word: 'Go to a place',
  schema: z.strictObject({
    kind: z.literal('go-to'),
    ...common,
    ...namedPlace,
    gait: name.nullable().default(null),
  }),
  refs: PLACE_REFS,
  needs: placeNeeded,
  says: (step, name) => `Go to ${name(placeNamed(step).id, placeWords(step))}${atGait(step.gait)}.`,
  ends: () => true,
})
