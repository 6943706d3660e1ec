import type { Point2 } from '@tidytrail/core/geometry'
import { traceLine, type Pen } from '../map/pen'
import type { MapPointer } from './tool'

/** A box or a loop that is drawn round things to choose them. */
export class Marquee {
  private readonly loop: Point2[] = []
  private last: Point2

  constructor(
    readonly how: 'box' | 'loop',
    private readonly start: MapPointer,
  ) {
    this.last = [start.x, start.y]
    this.loop.push(this.last)
  }

  move(p: MapPointer): void {
    this.last = [p.x, p.y]
    if (this.how === 'loop') this.loop.push(this.last)
  }

  ring(): Point2[] {
    if (this.how === 'loop') return this.loop
    const [ax, ay] = [this.start.x, this.start.y]
    const [bx, by] = this.last
    return [
      [ax, ay],
      [bx, ay],
      [bx, by],
      [ax, by],
    ]
  }

  draw(pen: Pen): void {
    const { c, inks } = pen
    const ring = this.ring()
    c.strokeStyle = inks.colour.plum
    c.lineWidth = 1.5
    c.setLineDash([5, 4])
    c.beginPath()
    traceLine(pen, ring, true)
    c.stroke()
    c.globalAlpha = 0.08
    c.fillStyle = inks.colour.plum
    c.fill()
    c.globalAlpha = 1
    c.setLineDash([])
  }
}
