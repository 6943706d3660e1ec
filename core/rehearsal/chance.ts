import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus'

/** A 32-bit hash of some text (Fowler, Noll and Vo 1991, variant 1a). */
export function hashText(text: string): number {
  let h = 0x811c9dc5
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193)
  return h | 0
}

/**
 * A stream of numbers in [0, 1) that belongs to one use by one agent, so that adding an agent does not change
 * another's luck.
 */
export function stream(seed: number, use: string): () => number {
  const generator = xoroshiro128plus(Math.imul(seed, 0x9e3779b1) ^ hashText(use))
  return () => (generator.next() >>> 0) / 0x100000000
}
