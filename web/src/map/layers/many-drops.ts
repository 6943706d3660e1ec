import { blit, pixelsOf, spriteOf, type Pixels, type Sprite } from '../blit'
import type { Inks } from '../inks'
import type { Pen } from '../pen'
import { dropOf, keyOfLook, type DropLook } from './drop-of'

/** Where there are many, drops point in so many directions. */
const DIRECTIONS = 64

/** A drop to be drawn: where, how it is turned (clockwise), and how large it is; window pixels and radians. */
export interface Drop {
  readonly look: DropLook
  readonly x: number
  readonly y: number
  readonly turn: number
  readonly r: number
}

/** Draws thousands of drops: each is laid down pixel by pixel from a picture of it, and all are put on the map at once. */
export class ManyDrops {
  private canvas: HTMLCanvasElement | undefined
  private image: ImageData | undefined
  private pixels: Pixels | undefined
  private inks: Inks | undefined
  private sprites = new Map<string, Sprite>()

  draw(pen: Pen, drops: readonly Drop[]): void {
    const { ratio, view } = pen
    if (this.inks !== pen.inks) {
      this.inks = pen.inks
      this.sprites = new Map()
    }
    const width = Math.round(view.width * ratio)
    const height = Math.round(view.height * ratio)
    if (width < 1 || height < 1) return
    this.canvas ??= document.createElement('canvas')
    const { canvas } = this
    if (canvas.width !== width || canvas.height !== height) {
      canvas.width = width
      canvas.height = height
      this.pixels = undefined
    }
    // It is written to pixel by pixel, and so best kept where the processor can get at it.
    const c = canvas.getContext('2d', { willReadFrequently: true })!
    if (!this.image || !this.pixels) {
      this.image = c.createImageData(width, height)
      this.pixels = pixelsOf(width, height, this.image.data)
      this.sprites = new Map()
    }
    this.pixels.whole.fill(0)
    for (const drop of drops) {
      const sprite = this.spriteFor(pen, drop)
      const half = sprite.picture.width / 2
      blit(this.pixels, sprite, Math.round(drop.x * ratio - half), Math.round(drop.y * ratio - half))
    }
    c.putImageData(this.image, 0, 0)
    pen.c.drawImage(canvas, 0, 0, view.width, view.height)
  }

  private spriteFor(pen: Pen, { look, turn, r }: Drop): Sprite {
    const turns = Math.round((turn / (2 * Math.PI)) * DIRECTIONS) & (DIRECTIONS - 1)
    const half = Math.round(r * 2) / 2
    const key = `${keyOfLook(look)} ${turns} ${half}`
    const known = this.sprites.get(key)
    if (known) return known
    const size = Math.ceil((2 * 1.9 * half + 4) * pen.ratio)
    const canvas = document.createElement('canvas')
    canvas.width = canvas.height = size
    const c = canvas.getContext('2d', { willReadFrequently: true })!
    c.setTransform(pen.ratio, 0, 0, pen.ratio, size / 2, size / 2)
    dropOf(pen.inks, c, look, 0, 0, (turns / DIRECTIONS) * 2 * Math.PI, half)
    const picture = pixelsOf(size, size, c.getImageData(0, 0, size, size).data)
    const sprite = spriteOf(picture, this.pixels!.width)
    this.sprites.set(key, sprite)
    return sprite
  }
}
