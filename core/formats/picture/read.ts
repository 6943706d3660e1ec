import { FormatError } from '../error'
import { FORMAT_LIMITS } from '../limits'

export interface PictureHead {
  readonly type: 'image/png' | 'image/jpeg'
  readonly width: number
  readonly height: number
  /** Bits of a channel, whether it is grey, and how many channels a pixel has; a palette counts as one. */
  readonly depth: number
  readonly grey: boolean
  readonly channels: number
}

/**
 * Kind and size of a PNG or JPEG from its head, before anything is decoded.
 * @throws FormatError when it is neither, cut off, or too large
 */
export function pictureHead(bytes: Uint8Array): PictureHead {
  const head = isPng(bytes) ? pngHead(bytes) : isJpeg(bytes) ? jpegHead(bytes) : undefined
  if (!head) throw new FormatError('', 'is neither a PNG nor a JPEG picture')
  const { width, height } = head
  if (width < 2 || height < 2) throw new FormatError('', `the picture is ${width} × ${height} pixels: too small`)
  if (width > FORMAT_LIMITS.pictureSide || height > FORMAT_LIMITS.pictureSide)
    throw new FormatError(
      '',
      `the picture is ${width.toLocaleString('en')} × ${height.toLocaleString('en')} pixels; at most ${FORMAT_LIMITS.pictureSide.toLocaleString('en')} on a side are read`,
    )
  return head
}

const isPng = (b: Uint8Array) => b.length > 32 && b[0] === 0x89 && b[1] === 0x50 && b[2] === 0x4e && b[3] === 0x47
const isJpeg = (b: Uint8Array) => b.length > 4 && b[0] === 0xff && b[1] === 0xd8

/** Channels of a pixel, by the kind of colour (PNG, second edition, 11.2.2). */
const PNG_CHANNELS: Record<number, number> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 }

function pngHead(bytes: Uint8Array): PictureHead {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const colour = bytes[25]
  return {
    type: 'image/png',
    width: view.getUint32(16),
    height: view.getUint32(20),
    depth: bytes[24],
    grey: colour === 0 || colour === 4,
    channels: PNG_CHANNELS[colour] ?? 4,
  }
}

function jpegHead(bytes: Uint8Array): PictureHead | undefined {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  let at = 2
  while (at + 9 < bytes.length) {
    if (bytes[at] !== 0xff) return undefined
    const marker = bytes[at + 1]
    // A frame header says the size; all but three of its family do.
    if (marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc) {
      const channels = bytes[at + 9]
      return {
        type: 'image/jpeg',
        height: view.getUint16(at + 5),
        width: view.getUint16(at + 7),
        depth: bytes[at + 4],
        grey: channels === 1,
        channels,
      }
    }
    at += 2 + view.getUint16(at + 2)
  }
  throw new FormatError('', 'the JPEG is cut off before its size')
}
