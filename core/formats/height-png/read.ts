import { decode } from 'fast-png'
import { FormatError } from '../error'
import { stretch, type HeightsOptions, type HeightsRead } from '../heights'
import { FORMAT_LIMITS } from '../limits'
import { pictureHead } from '../picture/read'
import { essential, rawBytesOf } from '../picture/png-chunks'

/**
 * Heights from a PNG: black is the lowest, white the highest; the first row is the northernmost. Sixteen bits of grey are
 * what heights need; eight bits and a channel of colour are read too, and it is said what that means.
 * @throws FormatError when it is another kind of picture, too large or damaged
 */
export function readHeightPng(bytes: Uint8Array, options: HeightsOptions): HeightsRead {
  const head = pictureHead(bytes)
  if (head.type !== 'image/png') throw new FormatError('', 'heights are read from PNG, and this is a JPEG')
  if (head.depth !== 8 && head.depth !== 16)
    throw new FormatError('', `heights are read from PNGs of 8 or 16 bits a channel, and this has ${head.depth}`)
  if (!(options.highM > options.lowM)) throw new FormatError('', 'the highest height must be above the lowest')
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
  let picture
  try {
    picture = decode(essential(bytes, rawBytesOf(head)), { checkCrc: true })
  } catch (error) {
    if (error instanceof FormatError) throw error
    throw new FormatError('', `the PNG is damaged: ${(error as Error).message}`)
  }
  const { data, channels, palette } = picture
  if (data.length !== width * height * channels)
    throw new FormatError('', `the PNG holds ${data.length} of ${width * height * channels} values`)
  const full = head.depth === 16 ? 65535 : 255
  const channel = options.channel ?? 'grey'
  const at = channel === 'grey' ? -1 : ['red', 'green', 'blue'].indexOf(channel)
  /** The value of a pixel: of its grey, of one of its colours, or of all three of them together. */
  const valueOf = (k: number): number => {
    const colour: ArrayLike<number> = palette
      ? (palette[data[k]] ?? [0, 0, 0])
      : data.subarray(k * channels, (k + 1) * channels)
    if (!palette && channels < 3) return colour[0]
    return at >= 0 ? colour[at] : (colour[0] + colour[1] + colour[2]) / 3
  }
  const z = new Float32Array(width * height)
  for (let j = 0; j < height; j++) {
    for (let i = 0; i < width; i++) z[(height - 1 - j) * width + i] = valueOf(j * width + i)
  }
  const grid = stretch({ columns: width, rows: height, z }, options.lowM, options.highM, full)
  const repairs: string[] = []
  if (full === 255)
    repairs.push(
      `8 bits a channel: heights come in steps of ${((options.highM - options.lowM) / 255).toFixed(2)} m; 16 bits of grey would be smooth`,
    )
  if (palette || channels >= 3)
    repairs.push(
      `a picture in colour: heights are taken from ${channel === 'grey' ? 'the mean of its colours' : `its ${channel}`}`,
    )
  else if (channels === 2) repairs.push('how far it can be seen through is passed over')
  return { grid, spacingM: undefined, origin: undefined, repairs }
}
