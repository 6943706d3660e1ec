import { carriersOf, holderOf } from './places'
import { thingOf } from './kinds/collections'
import type { Collection, Level } from './schema'

/** Is a thing locked, or what a part belongs to? Unknown ids are not. */
export function isLocked(level: Level, id: string): boolean {
  const found = thingOf(level, id)
  if (found) return found.thing.locked === true
  const holder = holderOf(level, id)
  return holder !== undefined && (level[holder.in][holder.id] as { locked?: boolean }).locked === true
}

/** The things with places of their own that carry some things and parts, once each, without those that are locked. */
export function movable(level: Level, ids: readonly string[]): { in: Collection; id: string; thing: object }[] {
  const found = new Map<string, { in: Collection; id: string; thing: object }>()
  for (const id of ids) {
    if (isLocked(level, id)) continue
    for (const c of carriersOf(level, id))
      if (!isLocked(level, c.id)) found.set(c.id, { ...c, thing: level[c.in][c.id] })
  }
  return [...found.values()]
}
