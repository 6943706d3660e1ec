/**
 * What copies are called, one after the other: by the name they have while nothing else has it, and by the next
 * number that is free from then on: "Block 1" is copied as "Block 2". What has no name keeps none.
 */
export function copyNames(things: Readonly<Record<string, object>>): (name: string) => string {
  const taken = new Set(Object.values(things).map((t) => (t as { name?: string }).name))
  /** The last number given to a word. */
  const given = new Map<string, number>()
  return (name) => {
    let free = name
    if (name !== '' && taken.has(name)) {
      const word = name.replace(/ \d+$/, '')
      let n = given.get(word) ?? 0
      do free = `${word} ${++n}`
      while (taken.has(free))
      given.set(word, n)
    }
    taken.add(free)
    return free
  }
}
