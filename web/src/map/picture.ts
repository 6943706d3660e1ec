import { inTurn, Sliced, type Drawn } from './sliced'
import { MARGIN_PX } from './slide'
import type { Viewport } from './viewport'

/** A picture is begun anew once the map has been moved so far from where it was drawn, pixels. */
const ANEW_PX = MARGIN_PX / 2

/**
 * A picture of the map on a canvas of the sheet. It is drawn in slices on a canvas beside the sheet; meanwhile the one
 * before is moved and scaled to where the map is now.
 */
export class Picture {
  private readonly beside = document.createElement('canvas')
  private readonly sliced: Sliced
  /** The views the picture that is shown and the one under way were drawn for. */
  private shownFor: Viewport | undefined
  private begunFor: Viewport | undefined
  private dirty = true

  constructor(
    private readonly canvas: () => HTMLCanvasElement,
    /** What is to be drawn on a context for a view, in order. */
    private readonly draw: (c: CanvasRenderingContext2D, view: Viewport) => Iterable<() => Drawn>,
  ) {
    this.sliced = new Sliced(() => void this.context().getImageData(0, 0, 1, 1))
  }

  /** It no longer shows what there is. */
  soil(): void {
    this.dirty = true
  }

  /** Is what is shown of what there is now? */
  get fresh(): boolean {
    return !this.dirty && !this.sliced.busy
  }

  /** Puts what there is where the map is, and goes on drawing what there is not for about so long, ms; 0 for not now. */
  frame(view: Viewport, panning: boolean, forMs: number): void {
    const now = { ...view }
    if (forMs > 0 && !this.sliced.busy && (this.dirty || this.isOff(now, panning))) {
      this.dirty = false
      this.begunFor = now
      this.fitTo(this.canvas())
      this.sliced.begin(inTurn(this.draw(this.context(), now)))
    }
    if (forMs > 0 && this.sliced.busy && this.sliced.work(forMs)) {
      this.show()
      this.shownFor = this.begunFor
    }
    this.place(now)
  }

  /** Its own canvas, best kept where the processor can get at it: it is drawn on by slices and copied once. */
  private context(): CanvasRenderingContext2D {
    return this.beside.getContext('2d', { willReadFrequently: true })!
  }

  private fitTo({ width, height }: HTMLCanvasElement): void {
    if (this.beside.width !== width) this.beside.width = width
    if (this.beside.height !== height) this.beside.height = height
  }

  private show(): void {
    const canvas = this.canvas()
    const c = canvas.getContext('2d')!
    c.setTransform(1, 0, 0, 1, 0, 0)
    c.globalCompositeOperation = 'copy'
    c.drawImage(this.beside, 0, 0)
    c.globalCompositeOperation = 'source-over'
  }

  private isOff(now: Viewport, panning: boolean): boolean {
    const was = this.shownFor
    if (!was || was.scale !== now.scale || was.width !== now.width || was.height !== now.height) return true
    const off = Math.max(Math.abs(was.x - now.x), Math.abs(was.y - now.y)) * now.scale
    return panning ? off > ANEW_PX : off > 0
  }

  private place(now: Viewport): void {
    const { style } = this.canvas()
    const was = this.shownFor
    if (!was) return
    const dx = (was.x - now.x) * now.scale
    const dy = (now.y - was.y) * now.scale
    const grown = now.scale / was.scale
    const transform = dx === 0 && dy === 0 && grown === 1 ? '' : `translate(${dx}px, ${dy}px) scale(${grown})`
    if (style.transform !== transform) style.transform = transform
  }
}
