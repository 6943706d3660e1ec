/** The pixels of a canvas, four bytes each, in straight (not premultiplied) colours. */
export interface Pixels {
  readonly width: number
  readonly height: number
  readonly data: Uint8ClampedArray
  /** The same bytes, a pixel each. */
  readonly whole: Uint32Array
}

/** Pixels over the bytes of a picture. */
export const pixelsOf = (width: number, height: number, data: Uint8ClampedArray): Pixels => ({
  width,
  height,
  data,
  whole: new Uint32Array(data.buffer, data.byteOffset, width * height),
})

/** A small square picture, ready to be laid over pixels of one width. */
export interface Sprite {
  readonly picture: Pixels
  /** Its pixels that cover what is under them, then the others that show anything. */
  readonly solid: Int32Array
  readonly soft: Int32Array
  /** Where these lie among the pixels it is laid over, counted from its left upper corner. */
  readonly solidTo: Int32Array
  readonly softTo: Int32Array
}

/** @param over the width of the pixels it is to be laid over */
export function spriteOf(picture: Pixels, over: number): Sprite {
  const { width, data } = picture
  const all = Array.from(picture.whole.keys())
  const solid = Int32Array.from(all.filter((k) => data[4 * k + 3] === 255))
  const soft = Int32Array.from(all.filter((k) => data[4 * k + 3] > 0 && data[4 * k + 3] < 255))
  const to = (k: number) => Math.floor(k / width) * over + (k % width)
  return { picture, solid, soft, solidTo: solid.map(to), softTo: soft.map(to) }
}

/**
 * Lays a sprite over pixels, its left upper corner at a place; what is beyond the edge is left away. Thousands of small
 * pictures are laid down this way in the time the canvas takes for some dozens.
 */
export function blit(pixels: Pixels, sprite: Sprite, left: number, top: number): void {
  const { width, height, whole } = pixels
  const { picture, solid, soft, solidTo, softTo } = sprite
  const size = picture.width
  if (left < 0 || top < 0 || left + size > width || top + size > height) {
    blitEdge(pixels, sprite, left, top)
    return
  }
  const base = top * width + left
  for (let k = 0; k < solid.length; k++) whole[base + solidTo[k]] = picture.whole[solid[k]]
  for (let k = 0; k < soft.length; k++) mix(pixels, base + softTo[k], picture, soft[k])
}

function blitEdge(pixels: Pixels, { picture, solid, soft }: Sprite, left: number, top: number): void {
  const { width, height } = pixels
  for (const k of [...solid, ...soft]) {
    const x = left + (k % picture.width)
    const y = top + Math.floor(k / picture.width)
    if (x >= 0 && y >= 0 && x < width && y < height) mix(pixels, y * width + x, picture, k)
  }
}

/** One pixel over another (Porter and Duff 1984). */
function mix({ data, whole }: Pixels, to: number, picture: Pixels, from: number): void {
  const under = data[4 * to + 3]
  const a = picture.data[4 * from + 3]
  if (under === 0 || a === 255) {
    whole[to] = picture.whole[from]
    return
  }
  const all = a + (under * (255 - a)) / 255
  const p = a / all
  for (let c = 0; c < 3; c++) data[4 * to + c] = picture.data[4 * from + c] * p + data[4 * to + c] * (1 - p)
  data[4 * to + 3] = all
}
