/** What the command line ends with. */
export const EXIT = { fine: 0, faults: 1, unreadable: 2 } as const

/** Prints one line about input that cannot be read. */
export function unreadable(message: string): number {
  process.stderr.write(`tidytrail: ${message}\n`)
  return EXIT.unreadable
}
