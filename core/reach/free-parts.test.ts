import fc from 'fast-check'
import { expect, it } from 'vitest'
import { chance, placeToLine } from '@tidytrail/core/testing'
import { freeParts } from './free-parts'

const SIDE = 1
const FINE = 80
/** Gaps narrower than this may be told either way, metres. */
const MARGIN = 0.02

/** Stretches of the rim that hang together, by flooding a fine grid: the part of each place along the rim, −1 where blocked. */
function slowParts(lines: readonly number[][], radiusM: number): number[] {
  const at = (i: number) => (i / (FINE - 1)) * SIDE
  const open = Array.from({ length: FINE * FINE }, (_, k) =>
    lines.every(
      ([ax, ay, bx, by]) => placeToLine([at(k % FINE), at(Math.floor(k / FINE))], [ax, ay], [bx, by]) >= radiusM,
    ),
  )
  const part = new Int32Array(FINE * FINE).fill(-1)
  let parts = 0
  for (let seed = 0; seed < part.length; seed++) {
    if (!open[seed] || part[seed] >= 0) continue
    const stack = [seed]
    part[seed] = parts
    while (stack.length > 0) {
      const k = stack.pop()!
      for (const [di, dj] of [
        [1, 0],
        [-1, 0],
        [0, 1],
        [0, -1],
      ]) {
        const i = (k % FINE) + di
        const j = Math.floor(k / FINE) + dj
        const n = j * FINE + i
        if (i < 0 || j < 0 || i >= FINE || j >= FINE || !open[n] || part[n] >= 0) continue
        part[n] = parts
        stack.push(n)
      }
    }
    parts++
  }
  const rim: number[] = []
  for (let k = 0; k < FINE; k++) {
    rim.push(part[k * FINE + FINE - 1], part[(FINE - 1) * FINE + k], part[k * FINE], part[k])
  }
  return rim
}

/** The same places along the rim, as `freeParts` sees them. */
function quickParts(lines: readonly number[][], radiusM: number): number[] {
  const parts = freeParts(0, 0, SIDE, lines.flat(), lines.length, radiusM)
  const rim: number[] = []
  for (let k = 0; k < FINE; k++) {
    for (let side = 0; side < 4; side++) {
      const u = (k / (FINE - 1)) * SIDE
      rim.push(parts ? (parts.sides.find((s) => s.side === side && u >= s.from && u <= s.to)?.part ?? -1) : 0)
    }
  }
  return rim
}

const together = (rim: readonly number[], p: number, q: number) => rim[p] >= 0 && rim[p] === rim[q]

it('parts of a square are those a flood of a fine grid finds, but for gaps of a hand’s breadth', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 1, max: 5 }), (seed, count) => {
      const next = chance(seed)
      const radiusM = 0.71 + next() * 0.5
      // Lines about the square, so near that most leave some of it and take some.
      const lines = Array.from({ length: count }, () => {
        const a = next() * 2 * Math.PI
        const far = radiusM * (0.6 + next() * 0.9)
        const [x, y] = [0.5 + Math.cos(a) * far, 0.5 + Math.sin(a) * far]
        const b = next() * 2 * Math.PI
        const long = next() * 2
        return [x, y, x + Math.cos(b) * long, y + Math.sin(b) * long]
      })
      const quick = quickParts(lines, radiusM)
      const fat = slowParts(lines, radiusM + MARGIN)
      const slim = slowParts(lines, radiusM - MARGIN)
      for (let p = 0; p < quick.length; p += 3) {
        for (let q = 0; q < p; q += 3) {
          if (together(fat, p, q)) expect(together(quick, p, q)).toBe(true)
          if (quick[p] >= 0 && quick[q] >= 0 && together(quick, p, q)) expect(together(slim, p, q)).toBe(true)
        }
      }
    }),
    { numRuns: 200 },
  )
})

it('a square far from every line is all free, and one within reach of a line is none', () => {
  expect(freeParts(0, 0, 1, [5, 0, 5, 1], 1, 2)).toBeUndefined()
  expect(freeParts(0, 0, 1, [0.5, 0.4, 0.5, 0.6], 1, 2)?.places).toEqual([])
})

it('a disc that reaches across a square cuts it in two, each with a place of its own', () => {
  const { places, sides } = freeParts(0, 0, 1, [0.5, 0.2, 0.5, 0.2], 1, 0.82)!
  // It covers the middle of the north side by a hair, and all of the south.
  expect(places.length / 2).toBe(2)
  expect(new Set(sides.filter((s) => s.side === 1).map((s) => s.part)).size).toBe(2)
  for (let k = 0; k < places.length; k += 2)
    expect(placeToLine(places.slice(k, k + 2), [0.5, 0.2], [0.5, 0.2])).toBeGreaterThan(0.82)
})
