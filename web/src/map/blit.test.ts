import fc from 'fast-check'
import { expect, it } from 'vitest'
import { blit, pixelsOf, spriteOf, type Pixels } from './blit'

const blank = (width: number, height: number): Pixels =>
  pixelsOf(width, height, new Uint8ClampedArray(4 * width * height))
/** A sprite of one colour, to be laid over pixels of a width. */
const plain = (over: number, size: number, ...colour: [number, number, number, number]) =>
  spriteOf(pixelsOf(size, size, Uint8ClampedArray.from(Array.from({ length: size * size }, () => colour).flat())), over)
const at = ({ width, data }: Pixels, x: number, y: number) => [
  ...data.subarray(4 * (y * width + x), 4 * (y * width + x) + 4),
]

it('covers what is under it, and mixes with it where it is thin, as one colour over another does', () => {
  const pixels = blank(4, 4)
  blit(pixels, plain(4, 2, 200, 0, 0, 255), 1, 1)
  expect(at(pixels, 1, 1)).toEqual([200, 0, 0, 255])
  expect(at(pixels, 3, 1)).toEqual([0, 0, 0, 0])
  blit(pixels, plain(4, 2, 0, 100, 0, 128), 2, 2)
  // Half of either over what is full; alone it stays as it is.
  expect(at(pixels, 2, 2)).toEqual([100, 50, 0, 255])
  expect(at(pixels, 3, 3)).toEqual([0, 100, 0, 128])
})

it('leaves away what is beyond the edge, wherever it is put', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 9 }),
      fc.integer({ min: 1, max: 9 }),
      fc.integer({ min: 1, max: 5 }),
      fc.integer({ min: -12, max: 12 }),
      fc.integer({ min: -12, max: 12 }),
      (width, height, size, left, top) => {
        const pixels = blank(width, height)
        blit(pixels, plain(width, size, 9, 9, 9, 255), left, top)
        for (let y = 0; y < height; y++)
          for (let x = 0; x < width; x++) {
            const inside = x >= left && x < left + size && y >= top && y < top + size
            expect(at(pixels, x, y)[3]).toBe(inside ? 255 : 0)
          }
      },
    ),
  )
})

it('is the same at the edge as in the middle', () => {
  // A picture half of which is thin, laid over a wash: once whole, once cut off at the right.
  const picture = pixelsOf(
    3,
    3,
    Uint8ClampedArray.from({ length: 36 }, (_, k) => (k % 4 === 3 ? 40 + 6 * k : 7 * k)),
  )
  const wash = (width: number) => {
    const pixels = blank(width, 5)
    pixels.data.fill(120)
    return pixels
  }
  const [whole, cut] = [wash(6), wash(3)]
  blit(whole, spriteOf(picture, 6), 1, 1)
  blit(cut, spriteOf(picture, 3), 1, 1)
  for (let y = 0; y < 5; y++) for (let x = 0; x < 3; x++) expect(at(cut, x, y)).toEqual(at(whole, x, y))
})
