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

const INKS = ['lake', 'rust', 'plum', 'pine', 'ochre', 'ink'] as const
const PATTERNS = ['plain', 'striped', 'dotted', 'ringed'] as const

/** A new faction that is drawn like none of the others, as long as there are ways left; and a name nobody has. */
export function freshFaction(factions: Readonly<Record<string, { name: string; ink: string; pattern: string }>>) {
  const taken = Object.values(factions)
  const n = taken.length
  const looks = PATTERNS.flatMap((_, p) => INKS.map((ink, k) => ({ ink, pattern: PATTERNS[(p + k) % 4] })))
  const free = looks.find((l) => taken.every((t) => t.ink !== l.ink && t.pattern !== l.pattern))
  const other = free ?? looks.find((l) => !taken.some((t) => t.ink === l.ink && t.pattern === l.pattern)) ?? looks[0]
  let number = n + 1
  while (taken.some((t) => t.name === `Faction ${number}`)) number++
  return { name: `Faction ${number}`, ...other }
}
