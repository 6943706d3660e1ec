import { defineChanges } from '../edit'
import { nameOf, thingsWord, thingWord } from '../kinds/collections'
import { lossesOf, takeOut } from '../losses'
import type { Collection, ThingOf } from '../schema'

type AddArgs = { [C in Collection]: { in: C; id: string; thing: ThingOf<C> } }[Collection]

const withArticle = (word: string): string => `${/^[aeiou]/.test(word) ? 'an' : 'a'} ${word}`

/** Put a new thing into its collection. */
export const addThing = defineChanges<AddArgs>(
  (_level, { in: collection }) => `Add ${withArticle(thingWord(collection))}`,
  (changes, { in: collection, id, thing }) => changes.set([collection, id], thing),
)

/** Put many new things into their collections at once. */
export const addThings = defineChanges<{
  things: readonly { in: Collection; id: string; thing: unknown }[]
  label?: string
}>(
  (_level, { things, label }) => {
    const word = things.length === 1 ? thingWord(things[0].in) : 'things'
    return label ?? `Add ${things.length} ${word}`
  },
  (changes, { things }) => {
    for (const { in: collection, id, thing } of things) changes.set([collection, id], thing)
  },
)

type ChangeArgs = {
  [C in Collection]: { in: C; changes: Record<string, Partial<ThingOf<C>>> }
}[Collection]

/** Set some properties of one or many things of a collection. Ids that no longer exist are passed over. */
export const changeThings = defineChanges<ChangeArgs>(
  (level, { in: collection, changes }) => {
    const ids = Object.keys(changes)
    return ids.length === 1 ? `Change ${nameOf(level, ids[0])}` : `Change ${ids.length} ${thingsWord(collection)}`
  },
  (changes, { in: collection, changes: wanted }) => {
    for (const [id, set] of Object.entries(wanted)) changes.assign([collection, id], set)
  },
)

/** Set some properties of things of any collections at once; those that no longer exist are passed over. */
export const setThings = defineChanges<{
  things: readonly { in: Collection; id: string; set: object }[]
  word?: string
}>(
  (_level, { things, word = 'Move' }) => {
    const what = things.length === 1 ? `a ${thingWord(things[0].in)}` : `${things.length} things`
    return `${word} ${what}`
  },
  (changes, { things }) => {
    for (const { in: collection, id, set } of things) changes.assign([collection, id], set)
  },
)

/** Put new things in and set some properties of others, as one step. */
export const addAndSet = defineChanges<{
  add: readonly { in: Collection; id: string; thing: unknown }[]
  set: readonly { in: Collection; id: string; set: object }[]
  label: string
}>(
  (_level, { label }) => label,
  (changes, { add, set }) => {
    for (const { in: collection, id, thing } of add) changes.set([collection, id], thing)
    for (const { in: collection, id, set: values } of set) changes.assign([collection, id], values)
  },
)

/**
 * Take things out, of whatever kind. What referred to them is told what its kind says of a lost reference: a brief that
 * followed a removed route keeps its step with no route in it, unless the step is named among the parts that go too. Waypoints and links only a removed route used go with it.
 */
export const removeThings = defineChanges<{ ids: readonly string[]; parts?: readonly string[] }>(
  (level, { ids }) => (ids.length === 1 ? `Delete ${nameOf(level, ids[0])}` : `Delete ${ids.length} things`),
  (changes, { ids, parts }, base) => takeOut(changes, lossesOf(base, ids, parts)),
)
