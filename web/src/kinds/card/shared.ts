/** What several things have in common: the value of the first, and whether others have another. */
export function shared<T, V>(things: readonly T[], read: (thing: T) => V): { value: V; mixed: boolean } {
  const value = read(things[0])
  const text = JSON.stringify(value)
  return { value, mixed: things.some((t) => JSON.stringify(read(t)) !== text) }
}
