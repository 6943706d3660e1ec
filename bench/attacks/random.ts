import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus'

/** Chance that can be had again: the seed is printed by whoever makes it. @returns a number in [0, 1) each time */
export function chance(seed: number): () => number {
  const generator = xoroshiro128plus(seed)
  return () => (generator.next() >>> 0) / 0x100000000
}

/** The seed the caller named, or one from the clock. */
export const seedOf = (word: string | undefined): number =>
  word === undefined ? Date.now() % 1_000_000_000 : Number.parseInt(word, 10)
