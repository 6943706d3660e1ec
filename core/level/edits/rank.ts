import { defineEdit } from '../edit'
import { byRank } from '../kinds'
import { nameOf } from '../kinds/collections'

/**
 * Lay a thing over the next above it, or under the next below. Others keep their order; ranks are counted anew only
 * where two were equal.
 */
export const restack = defineEdit<{ in: 'covers' | 'underlays'; id: string; how: 'forward' | 'back' }>(
  (level, { id, how }) => `Bring ${nameOf(level, id)} ${how}`,
  (draft, { in: collection, id, how }, base) => {
    const stack = byRank(base[collection] as Readonly<Record<string, { rank: number }>>).map(([k]) => k)
    const at = stack.indexOf(id)
    const to = at + (how === 'forward' ? 1 : -1)
    if (at < 0 || to < 0 || to >= stack.length) return
    stack.splice(at, 1)
    stack.splice(to, 0, id)
    stack.forEach((k, rank) => {
      if (base[collection][k].rank !== rank) draft[collection][k].rank = rank
    })
  },
)
