import { nameOf, type Collection, type Level } from '@tidytrail/core/level'
import { compareNames } from '../../ui/names'

/** Ids of things in the order of their names, numbers in names counting as numbers. */
export const byName = (level: Level, ids: readonly string[]): string[] =>
  [...ids].sort((a, b) => compareNames(nameOf(level, a), nameOf(level, b)))

/** The ids of all things of a collection in that order. */
export const idsByName = (level: Level, collection: Collection): string[] =>
  byName(level, Object.keys(level[collection]))
