import { expect, it } from 'vitest'
import { briefCount } from './brief-count'

it.each([
  [1, '1'],
  [999, '999'],
  [1000, '1k'],
  [6596, '7k'],
  [120_000, '120k'],
])('%i takes no more than three figures', (n, text) => {
  expect(briefCount(n)).toBe(text)
  expect(text.replace(/\D/g, '').length).toBeLessThanOrEqual(3)
})
