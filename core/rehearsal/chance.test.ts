import { expect, it } from 'vitest'
import { draw, philox, USE } from './chance'

it('gives the words its authors published for a counter and a key', () => {
  // Known answers of Salmon, Moraes, Dror and Shaw's own test file for philox4x32 in ten rounds.
  const hex = (words: Uint32Array) => [...words].map((w) => w.toString(16).padStart(8, '0')).join(' ')
  expect(hex(philox([0, 0, 0, 0], [0, 0]))).toBe('6627e8d5 e169c58d bc57ac4c 9b00dbd8')
  const f = 0xffffffff
  expect(hex(philox([f, f, f, f], [f, f]))).toBe('408f276d 41c83b0e a20bc7c6 6d5451fd')
  expect(hex(philox([0x243f6a88, 0x85a308d3, 0x13198a2e, 0x03707344], [0xa4093822, 0x299f31d0]))).toBe(
    'd16cfe09 94fdcceb 5001e420 24126ea1',
  )
})

it('spreads its draws evenly, and gives each use, agent and seed luck of its own', () => {
  const n = 20_000
  const bins = new Array<number>(20).fill(0)
  for (let k = 0; k < n; k++) bins[Math.floor(draw(1, USE.pause, 7, k) * 20)]++
  // Chi square with 19 degrees of freedom: 43.8 is passed once in a thousand.
  expect(bins.reduce((s, b) => s + (b - n / 20) ** 2 / (n / 20), 0)).toBeLessThan(43.8)
  const first = [draw(1, USE.pause, 7, 0), draw(2, USE.pause, 7, 0), draw(1, USE.order, 7, 0), draw(1, USE.pause, 8, 0)]
  expect(new Set(first).size).toBe(4)
})
