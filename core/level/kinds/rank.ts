import { z } from 'zod'

/** Of things that lie flat over one another, the one of the higher rank lies on top; of equals, that of the later id. */
export const rank = z.number().int().min(-1_000_000).max(1_000_000).default(0)

type Ranked = { readonly rank: number }

/** The things of a collection from the lowest to the topmost. */
export function byRank<T extends Ranked>(things: Readonly<Record<string, T>>): [id: string, thing: T][] {
  return Object.entries(things).sort(([a, s], [b, t]) => s.rank - t.rank || (a < b ? -1 : 1))
}

/** The rank that lies over all others. */
export const topRank = (things: Readonly<Record<string, Ranked>>): number =>
  Object.values(things).reduce((top, t) => Math.max(top, t.rank + 1), 0)
