import { expect, it } from 'vitest'
import { timeField } from './isochrones'

it('the time to a place beside a way is that to the nearest point of the way and on from there', () => {
  const field = timeField(
    [
      {
        line: [
          [0, 0, 0],
          [40, 0, 0],
        ],
        fromS: 10,
        toS: 50,
      },
    ],
    1,
  )!
  const at = (x: number, y: number) =>
    field.seconds[
      Math.floor((y - field.originY) / field.cellM) * field.columns + Math.floor((x - field.originX) / field.cellM)
    ]
  // Squares are walked straight and aslant: at most 8 % farther than the bird flies.
  for (const [x, y] of [
    [0, 0],
    [20, 0],
    [20, 4],
    [36, -4],
    [-3, 0],
  ]) {
    const best = Math.min(...Array.from({ length: 401 }, (_, k) => 10 + k / 10 + Math.hypot(x - k / 10, y)))
    expect(at(x, y)).toBeGreaterThan(best - 1.5 * field.cellM)
    expect(at(x, y)).toBeLessThan(best * 1.09 + 1.5 * field.cellM)
  }
  expect(timeField([], 1)).toBeUndefined()
})
