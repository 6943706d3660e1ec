import { defineChanges, defineEdit } from '../edit'
import { collectionOf } from '../kinds/collections'
import { rolesIn, placeKey } from '../places'
import type { Ground } from '../schema'

/** Give the ground other heights altogether; null makes it level. */
export const setHeights = defineEdit<{ heights: Ground['heights']; label?: string }>(
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
export const settleThings = defineChanges<{ heights: Readonly<Record<string, number>> }>(
  (_level, { heights }) => {
    const n = Object.keys(heights).length
    return `Settle ${n} ${n === 1 ? 'thing' : 'things'}`
  },
  (changes, { heights }, base) => {
    for (const [id, z] of Object.entries(heights)) {
      const collection = collectionOf(base, id)
      if (!collection) continue
      const spot = placeKey(collection)
      if (spot) {
        const [x, y] = (base[collection][id] as unknown as Record<string, number[]>)[spot]
        changes.set([collection, id, spot], [x, y, z])
      } else for (const [key, role] of rolesIn(collection)) if (role === 'height') changes.set([collection, id, key], z)
    }
  },
)
