import { defineChanges } from '../edit'
import { collectionOf } from '../kinds/collections'
import { placeKey } from '../places'
import { roundPlace, type Place } from '../plain'

export { roundPlace, type Place }

/** Put things that stand at one place at new ones, by id: waypoints, spawners, posts, markers … */
export const movePlaces = defineChanges<{ places: Readonly<Record<string, readonly number[]>>; word?: string }>(
  (_level, { places, word = 'Move' }) => {
    const n = Object.keys(places).length
    return `${word} ${n} ${n === 1 ? 'place' : 'places'}`
  },
  (changes, { places }, base) => {
    for (const [id, at] of Object.entries(places)) {
      const collection = collectionOf(base, id)
      const key = collection && placeKey(collection)
      if (key) changes.set([collection, id, key], roundPlace(at))
    }
  },
)
