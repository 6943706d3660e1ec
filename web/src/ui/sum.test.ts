import { expect, it } from 'vitest'
import { sumOf } from './sum'

it('reads numbers and sums as people type them', () => {
  expect(['12.5', ' 3 + 4*2 ', '1,5', '(2+3)/4', '-2', '2-3-4', '.5'].map(sumOf)).toEqual([
    12.5, 11, 1.5, 1.25, -2, -5, 0.5,
  ])
})

it('does not guess at anything else', () => {
  expect(['', 'abc', '3 m', '2+', '(2', '1/0', '2 3', 'alert(1)'].map(sumOf)).toEqual(Array(8).fill(undefined))
})
