import { defineEdit } from '../edit'
import { nameOf, thingsWord, thingWord } from '../kinds/collections'
import { lossesOf, takeOut } from '../losses'
import type { Collection, Level, ThingOf } from '../schema'

type AddArgs = { [C in Collection]: { in: C; id: string; thing: ThingOf<C> } }[Collection]

/** Put a new thing into its collection. */
export const addThing = defineEdit<AddArgs>(
  (_level, { in: collection }) => `Add a ${thingWord(collection)}`,
  (draft, { in: collection, id, thing }) => {
    ;(draft[collection] as Record<string, unknown>)[id] = thing
  },
)

type ChangeArgs = {
  [C in Collection]: { in: C; changes: Record<string, Partial<ThingOf<C>>> }
}[Collection]

/** Set some properties of one or many things of a collection. Ids that no longer exist are passed over. */
export const changeThings = defineEdit<ChangeArgs>(
  (level, { in: collection, changes }) => {
    const ids = Object.keys(changes)
    return ids.length === 1 ? `Change ${nameOf(level, ids[0])}` : `Change ${ids.length} ${thingsWord(collection)}`
  },
  (draft, { in: collection, changes }) => {
    const things = draft[collection] as Record<string, object>
    for (const [id, set] of Object.entries(changes)) if (things[id]) Object.assign(things[id], set)
  },
)

/**
 * Take things out, of whatever kind. What referred to them is told what its kind says of a lost reference: a brief that
 * followed a removed route keeps its step with no route in it. Waypoints and links only a removed route used go with it.
 */
export const removeThings = defineEdit<{ ids: readonly string[] }>(
  (level, { ids }) => (ids.length === 1 ? `Delete ${nameOf(level, ids[0])}` : `Delete ${ids.length} things`),
  (draft, { ids }, base) => takeOut(draft as Level, base, lossesOf(base, ids)),
)
