import { Unzlib } from 'fflate'
import { FormatError } from '../error'
import type { PictureHead } from './read'

const SIGNATURE = 8
/** A chunk's length, name and check sum (PNG, second edition, 5.3). */
const FRAME = 12
const KEPT = new Set(['IHDR', 'PLTE', 'tRNS', 'IDAT', 'IEND'])

/** How many bytes the samples of a picture have once inflated; a little more than the most any interlacing needs. */
export function rawBytesOf({ width, height, depth, channels }: PictureHead): number {
  return (Math.ceil((width * channels * depth) / 8) + 16) * height + 64
}

/**
 * A PNG with only the chunks its samples need, after making sure that they inflate to no more than its head says. Other
 * chunks may hold anything, also much that is packed small.
 * @throws FormatError naming the chunk
 */
export function essential(bytes: Uint8Array, rawBytes: number): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const kept: Uint8Array[] = [bytes.subarray(0, SIGNATURE)]
  let inflated = 0
  const inflate = new Unzlib((part) => {
    inflated += part.length
    if (inflated > rawBytes)
      throw new FormatError(
        'IDAT',
        `inflates to more than the ${rawBytes.toLocaleString('en')} bytes its size asks for`,
      )
  })
  let ended = false
  for (let at = SIGNATURE; at + FRAME <= bytes.length && !ended;) {
    const length = view.getUint32(at)
    const name = String.fromCharCode(...bytes.subarray(at + 4, at + 8))
    if (at + FRAME + length > bytes.length)
      throw new FormatError(printable(name), 'reaches beyond the end of the file: it is cut off or damaged')
    if (KEPT.has(name)) kept.push(bytes.subarray(at, at + FRAME + length))
    ended = name === 'IEND'
    if (name === 'IDAT') {
      try {
        inflate.push(bytes.subarray(at + 8, at + 8 + length))
      } catch (error) {
        if (error instanceof FormatError) throw error
        throw new FormatError('IDAT', `is damaged: ${(error as Error).message}`)
      }
    }
    at += FRAME + length
  }
  if (!ended) throw new FormatError('', 'the PNG is cut off: it has no end')
  const whole = new Uint8Array(kept.reduce((n, part) => n + part.length, 0))
  let to = 0
  for (const part of kept) {
    whole.set(part, to)
    to += part.length
  }
  return whole
}

const printable = (name: string) => (/^[A-Za-z]{4}$/.test(name) ? name : 'a chunk')
