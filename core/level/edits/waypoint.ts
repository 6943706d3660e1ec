import { toMillimetre } from '@tidytrail/core/geometry'
import { defineEdit } from '../edit'

export type Place = [x: number, y: number, z: number]

export const roundPlace = (at: readonly number[]): Place => [
  toMillimetre(at[0]),
  toMillimetre(at[1]),
  toMillimetre(at[2]),
]

/** Put waypoints, spawners, posts or markers at new places, by id. */
export const movePlaces = defineEdit<{ places: Record<string, readonly number[]>; word?: string }>(
  (_level, { places, word = 'Move' }) => {
    const n = Object.keys(places).length
    return `${word} ${n} ${n === 1 ? 'place' : 'places'}`
  },
  (draft, { places }) => {
    for (const [id, at] of Object.entries(places)) {
      const thing = draft.waypoints[id] ?? draft.spawners[id] ?? draft.posts[id] ?? draft.markers[id]
      if (thing) thing.at = roundPlace(at)
    }
  },
)
