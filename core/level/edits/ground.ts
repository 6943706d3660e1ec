import { defineEdit } from '../edit'
import type { Collection } from '../kinds'
import type { Ground } from '../schema'
import { THING_WORD } from './thing'

/** Put many new things into their collections at once. */
export const addThings = defineEdit<{
  things: readonly { in: Collection; id: string; thing: unknown }[]
  label?: string
}>(
  (_level, { things, label }) => {
    const word = things.length === 1 ? THING_WORD[things[0].in] : 'things'
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

/** Settle things on the ground: heights of places and meshes, undersides of solids. */
export const settleThings = defineEdit<{ heights: Readonly<Record<string, number>> }>(
  (_level, { heights }) => {
    const n = Object.keys(heights).length
    return `Settle ${n} ${n === 1 ? 'thing' : 'things'}`
  },
  (draft, { heights }) => {
    for (const [id, z] of Object.entries(heights)) {
      if (draft.solids[id]) draft.solids[id].baseM = z
      const place =
        draft.meshes[id] ?? draft.waypoints[id] ?? draft.spawners[id] ?? draft.posts[id] ?? draft.markers[id]
      if (place) place.at = [place.at[0], place.at[1], z]
    }
  },
)

/** Set some properties of things of any collections at once; those that no longer exist are passed over. */
export const setThings = defineEdit<{
  things: readonly { in: Collection; id: string; set: object }[]
  word?: string
}>(
  (_level, { things, word = 'Move' }) => {
    const what = things.length === 1 ? `a ${THING_WORD[things[0].in]}` : `${things.length} things`
    return `${word} ${what}`
  },
  (draft, { things }) => {
    for (const { in: collection, id, set } of things) {
      const thing = (draft[collection] as Record<string, object>)[id]
      if (thing) Object.assign(thing, set)
    }
  },
)
