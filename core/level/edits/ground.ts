import { defineEdit } from '../edit'
import { collectionOf, thingWord } from '../kinds/collections'
import { rolesIn, spotKey } from '../places'
import type { Collection, Ground } from '../schema'

/** Put many new things into their collections at once. */
export const addThings = defineEdit<{
  things: readonly { in: Collection; id: string; thing: unknown }[]
  label?: string
}>(
  (_level, { things, label }) => {
    const word = things.length === 1 ? thingWord(things[0].in) : 'things'
    return label ?? `Add ${things.length} ${word}`
  },
  (draft, { things }) => {
    for (const { in: collection, id, thing } of things) (draft[collection] as Record<string, unknown>)[id] = thing
  },
)

/** Give the ground other heights altogether; null makes it level. */
export const layHeights = defineEdit<{ heights: Ground['heights']; label?: string }>(
  (_level, { label }) => label ?? 'Lay out heights',
  (draft, { heights }) => {
    draft.ground.heights = heights
  },
)

/** Change rows of heights, by their number from the south. Rows beyond the grid are passed over. */
export const changeHeights = defineEdit<{ rows: Readonly<Record<number, number[]>>; word: string }>(
  (_level, { word }) => `${word} the ground`,
  (draft, { rows }) => {
    const { heights } = draft.ground
    if (!heights) return
    for (const [key, row] of Object.entries(rows)) {
      if (heights.assetId) heights.changed[`r${key}`] = row
      else if (Number(key) < heights.rows.length) heights.rows[Number(key)] = row
    }
  },
)

/** Settle things: the heights of their places, or of their undersides where they say those apart. */
export const settleThings = defineEdit<{ heights: Readonly<Record<string, number>> }>(
  (_level, { heights }) => {
    const n = Object.keys(heights).length
    return `Settle ${n} ${n === 1 ? 'thing' : 'things'}`
  },
  (draft, { heights }, base) => {
    for (const [id, z] of Object.entries(heights)) {
      const collection = collectionOf(base, id)
      if (!collection) continue
      const thing = draft[collection][id] as unknown as Record<string, unknown>
      const spot = spotKey(collection)
      if (spot) {
        const [x, y] = thing[spot] as number[]
        thing[spot] = [x, y, z]
      } else for (const [key, role] of rolesIn(collection)) if (role === 'height') thing[key] = z
    }
  },
)

/** Set some properties of things of any collections at once; those that no longer exist are passed over. */
export const setThings = defineEdit<{
  things: readonly { in: Collection; id: string; set: object }[]
  word?: string
}>(
  (_level, { things, word = 'Move' }) => {
    const what = things.length === 1 ? `a ${thingWord(things[0].in)}` : `${things.length} things`
    return `${word} ${what}`
  },
  (draft, { things }) => {
    for (const { in: collection, id, set } of things) {
      const thing = (draft[collection] as Record<string, object>)[id]
      if (thing) Object.assign(thing, set)
    }
  },
)
