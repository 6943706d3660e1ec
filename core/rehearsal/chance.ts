const M0 = 0xd2511f53
const M1 = 0xcd9e8d57
const W0 = 0x9e3779b9
const W1 = 0xbb67ae85

/** High half of the product of two unsigned 32-bit numbers. */
function high(a: number, b: number): number {
  const a0 = a & 0xffff
  const a1 = a >>> 16
  const b0 = b & 0xffff
  const b1 = b >>> 16
  const low = a0 * b0
  const mid = a1 * b0 + (low >>> 16)
  const mid2 = a0 * b1 + (mid & 0xffff)
  return (a1 * b1 + Math.floor(mid / 0x10000) + Math.floor(mid2 / 0x10000)) >>> 0
}

/**
 * Philox 4×32 in ten rounds: four random words for a counter of four and a key of two (Salmon, Moraes, Dror and Shaw
 * 2011). Every value is a function of its place alone, so nothing but a count has to be kept.
 */
export function philox(c: readonly [number, number, number, number], k: readonly [number, number]): Uint32Array {
  let [c0, c1, c2, c3] = c
  let [k0, k1] = k
  for (let round = 0; round < 10; round++) {
    const h0 = high(M0, c0)
    const l0 = Math.imul(M0, c0) >>> 0
    const h1 = high(M1, c2)
    const l1 = Math.imul(M1, c2) >>> 0
    c0 = (h1 ^ c1 ^ k0) >>> 0
    c1 = l1
    c2 = (h0 ^ c3 ^ k1) >>> 0
    c3 = l0
    k0 = (k0 + W0) >>> 0
    k1 = (k1 + W1) >>> 0
  }
  return Uint32Array.of(c0, c1, c2, c3)
}

/** What chance is asked for: each has luck of its own. */
export const USE = {
  pause: 1,
  order: 2,
  aside: 3,
  fork: 4,
  wander: 5,
  choice: 6,
  place: 7,
  when: 8,
  mix: 9,
  bound: 10,
  warm: 11,
  halt: 12,
} as const
export type Use = (typeof USE)[keyof typeof USE]

/** A number of 32 bits made of a text, so that what is drawn for a thing depends on its id alone (FNV-1a, Fowler, Noll and Vo 1991). */
export function numberOf(text: string): number {
  let h = 0x811c9dc5
  for (let k = 0; k < text.length; k++) h = Math.imul(h ^ text.charCodeAt(k), 0x01000193)
  return h >>> 0
}

/** Which of several by weight a number in [0, 1) falls on; the first where no weight is more than nought. */
export function byWeight(weights: readonly number[], luck: number): number {
  let left = luck * weights.reduce((sum, w) => sum + w, 0)
  for (let k = 0; k < weights.length; k++) if ((left -= weights[k]) < 0) return k
  return 0
}

/** A number in [0, 1) that depends on the seed, the use, who asks, and how often they have asked before. */
export function draw(seed: number, use: Use, key: number, count: number): number {
  return philox([count >>> 0, key >>> 0, use, 0], [seed >>> 0, 0x54544c31])[0] / 0x100000000
}
