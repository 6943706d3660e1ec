import { toMillimetre } from '@tidytrail/core/geometry'
import { rolesIn, type Collection } from '@tidytrail/core/level'
import type { Handles } from './kind-view'

/** The handles that follow from where things of a collection are: the corners of their outlines. */
export function derivedHandles(collection: Collection): Handles<Collection> | undefined {
  const ring = [...rolesIn(collection)].find(([, role]) => role === 'ring')?.[0]
  if (!ring) return undefined
  const cornersOf = (thing: object) => (thing as Record<string, [number, number][] | undefined>)[ring] ?? []
  return {
    at: cornersOf,
    drag(thing, handle, p) {
      const to: [number, number] = [toMillimetre(p.at[0]), toMillimetre(p.at[1])]
      return { [ring]: cornersOf(thing).map((q, k) => (k === handle ? to : q)) }
    },
  }
}
