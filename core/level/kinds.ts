import type { Level } from './schema'

/** The record collections of a level: everything that has an id of its own. */
export const COLLECTIONS = [
  'solids',
  'meshes',
  'underlays',
  'covers',
  'reachAreas',
  'profiles',
  'passages',
  'waypoints',
  'links',
  'routes',
  'junctions',
  'markers',
  'zones',
  'posts',
  'factions',
  'briefs',
  'spawners',
  'waivers',
] as const satisfies readonly (keyof Level)[]

export type Collection = (typeof COLLECTIONS)[number]
export type ThingOf<C extends Collection> = Level[C][string]

/** The collection a thing is in, found by its id, or undefined when the level has no such thing. */
export function collectionOf(level: Level, id: string): Collection | undefined {
  return COLLECTIONS.find((c) => Object.hasOwn(level[c], id))
}
