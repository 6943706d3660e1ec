/** Moves what is drawn on canvases along with the map while it is dragged, so that it need not be drawn anew. */
import type { Viewport } from './viewport'

/** What is drawn beyond each edge of the window, pixels. */
export const MARGIN_PX = 128

export class Slide {
  private readonly at = { x: 0, y: 0, scale: 0 }

  /** Moves the canvas to where the map is now; true when it has to be drawn anew. */
  move(canvas: HTMLCanvasElement, view: Viewport, panning: boolean): boolean {
    const dx = (this.at.x - view.x) * view.scale
    const dy = (view.y - this.at.y) * view.scale
    if (!panning || view.scale !== this.at.scale || Math.abs(dx) > MARGIN_PX || Math.abs(dy) > MARGIN_PX) return true
    canvas.style.transform = `translate(${dx}px, ${dy}px)`
    return false
  }

  /** The canvas is about to be drawn where the map is now. */
  settle(canvas: HTMLCanvasElement, view: Viewport): void {
    this.at.x = view.x
    this.at.y = view.y
    this.at.scale = view.scale
    canvas.style.transform = ''
  }
}
