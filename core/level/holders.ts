import { holderOf } from './places'
import { thingOf } from './kinds/collections'
import type { Level } from './schema'

/** Is a thing locked, or what a part belongs to? Unknown ids are not. */
export function isLocked(level: Level, id: string): boolean {
  const found = thingOf(level, id)
  if (found) return found.thing.locked === true
  const holder = holderOf(level, id)
  return holder !== undefined && (level[holder.in][holder.id] as { locked?: boolean }).locked === true
}
