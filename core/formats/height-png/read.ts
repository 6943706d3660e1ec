import { decode } from 'fast-png'
import { FormatError } from '../error'
import { stretch, type HeightsRead } from '../heights'
import { FORMAT_LIMITS } from '../limits'
import { pictureHead } from '../picture/read'
import { essential, rawBytesOf } from '../picture/png-chunks'

/**
 * Heights from a greyscale PNG of 16 bits: black is the lowest, white the highest; the first row is the northernmost.
 * @throws FormatError when it is another kind of picture, too large or damaged
 */
export function readHeightPng(bytes: Uint8Array, range: { lowM: number; highM: number }): HeightsRead {
  const head = pictureHead(bytes)
  if (head.type !== 'image/png') throw new FormatError('', 'heights are read from PNG, and this is a JPEG')
  if (head.depth !== 16 || !head.grey) {
    const kind = head.grey ? 'greyscale' : 'colour'
    throw new FormatError('', `heights need a greyscale PNG of 16 bits, and this is ${kind} of ${head.depth} bits`)
  }
  if (!(range.highM > range.lowM)) throw new FormatError('', 'the highest height must be above the lowest')
  const { width, height } = head
  if (
    width > FORMAT_LIMITS.heightSide ||
    height > FORMAT_LIMITS.heightSide ||
    width * height > FORMAT_LIMITS.heightSamples
  )
    throw new FormatError(
      '',
      `has ${width.toLocaleString('en')} × ${height.toLocaleString('en')} samples; at most ${FORMAT_LIMITS.heightSide.toLocaleString('en')} on a side and ${FORMAT_LIMITS.heightSamples.toLocaleString('en')} in all are read`,
    )
  let data
  try {
    data = decode(essential(bytes, rawBytesOf(head)), { checkCrc: true }).data
  } catch (error) {
    if (error instanceof FormatError) throw error
    throw new FormatError('', `the PNG is damaged: ${(error as Error).message}`)
  }
  if (data.length !== width * height)
    throw new FormatError('', `the PNG holds ${data.length} of ${width * height} samples`)
  const z = new Float32Array(width * height)
  for (let j = 0; j < height; j++) {
    for (let i = 0; i < width; i++) z[(height - 1 - j) * width + i] = data[j * width + i]
  }
  const grid = stretch({ columns: width, rows: height, z }, range.lowM, range.highM, 65535)
  return { grid, spacingM: undefined, origin: undefined, repairs: [] }
}
