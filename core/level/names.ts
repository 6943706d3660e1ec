/** Names for things in an order, by a pattern in which # stands for the number: "Quay ##" gives "Quay 01". */
export function namesByPattern(pattern: string, count: number, first = 1): string[] {
  const marks = /#+/.exec(pattern)
  return Array.from({ length: count }, (_, i) => {
    const number = String(first + i)
    return marks ? pattern.replace(marks[0], number.padStart(marks[0].length, '0')) : `${pattern} ${number}`
  })
}
