export const STANCES = ['hostile', 'neutral', 'friendly'] as const
export type Stance = (typeof STANCES)[number]

interface Standing {
  readonly hostileTo: readonly string[]
  readonly friendlyTo: readonly string[]
}

/**
 * How two factions stand to each other: hostile when either is to the other, else friendly when either is, or when they
 * are one; neutral otherwise. Who belongs to none is neutral to all.
 */
export function stanceOf(factions: Readonly<Record<string, Standing>>, a: string | null, b: string | null): Stance {
  const [one, other] = [factions[a ?? ''], factions[b ?? '']]
  if (!one || !other) return 'neutral'
  if (one.hostileTo.includes(b!) || other.hostileTo.includes(a!)) return 'hostile'
  if (a === b || one.friendlyTo.includes(b!) || other.friendlyTo.includes(a!)) return 'friendly'
  return 'neutral'
}

/** What two factions say of each other once they stand to each other in a way: the lists to be set, by their ids. */
export function newStances(
  factions: Readonly<Record<string, Standing>>,
  a: string,
  b: string,
  stance: Stance,
): Record<string, { hostileTo: string[]; friendlyTo: string[] }> {
  const lists = (id: string, other: string) => {
    const without = (list: readonly string[]) => list.filter((x) => x !== other)
    const { hostileTo, friendlyTo } = factions[id]
    return {
      hostileTo: [...without(hostileTo), ...(stance === 'hostile' ? [other] : [])],
      friendlyTo: [...without(friendlyTo), ...(stance === 'friendly' && a !== b ? [other] : [])],
    }
  }
  return { [a]: lists(a, b), [b]: lists(b, a) }
}
