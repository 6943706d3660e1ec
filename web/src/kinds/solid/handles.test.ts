import { footprint } from '@tidytrail/core/ground'
import { solidSchema } from '@tidytrail/core/level'
import { expect, it } from 'vitest'
import { dragHandle, handlesOf, movedBy } from './handles'

const box = solidSchema.parse({
  shape: 'box',
  name: 'B',
  at: [10, 10],
  sizeX: 4,
  sizeY: 2,
  turnRad: 0.5,
  baseM: 0,
  heightM: 3,
})

it('resizes a turned box from a corner and leaves the opposite corner where it is', () => {
  const before = footprint(box)
  for (let handle = 0; handle < 4; handle++) {
    const [x, y] = before[handle]
    const away: [number, number] = [x + (x - 10), y + (y - 10)]
    const after = footprint({ ...box, ...dragHandle(box, handle, away, false) } as typeof box)
    const kept = before[(handle + 2) % 4]
    expect(after[(handle + 2) % 4][0]).toBeCloseTo(kept[0], 2)
    expect(after[(handle + 2) % 4][1]).toBeCloseTo(kept[1], 2)
    expect(after[handle][0]).toBeCloseTo(away[0], 2)
    expect(after[handle][1]).toBeCloseTo(away[1], 2)
  }
})

it('turns by the last handle, in steps of 15° when asked', () => {
  expect(handlesOf(box)).toHaveLength(5)
  expect(dragHandle(box, 4, [10, 20], false)).toEqual({ turnRad: 1.5708 })
  expect(dragHandle(box, 4, [20, 11], true)).toEqual({ turnRad: 0 })
})

it('moves prisms corner by corner', () => {
  const prism = solidSchema.parse({
    shape: 'prism',
    name: 'P',
    ring: [
      [0, 0],
      [4, 0],
      [0, 4],
    ],
    baseM: 0,
    heightM: 1,
  })
  expect(movedBy(prism, 1, -1)).toEqual({
    ring: [
      [1, -1],
      [5, -1],
      [1, 3],
    ],
  })
  expect(dragHandle(prism, 1, [6, 1], false)).toEqual({
    ring: [
      [0, 0],
      [6, 1],
      [0, 4],
    ],
  })
})
