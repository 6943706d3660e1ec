import type { Settings } from '@tidytrail/core/level'
import { FIELD, FRAME_FIELDS, FRAMES_PER_SECOND } from './recording'

/** Squares are no smaller than this, metres, and there are no more of them than so many. */
const LEAST_M = 0.5
const MOST_SQUARES = 250_000

/** Where everybody went: seconds spent in each square of a level, row by row from its south-west corner. */
export class Heat {
  readonly squareM: number
  readonly columns: number
  readonly rows: number
  readonly seconds: Float32Array

  constructor(readonly extent: Settings['extent']) {
    const [wide, high] = [extent.maxX - extent.minX, extent.maxY - extent.minY]
    this.squareM = Math.max(LEAST_M, Math.sqrt((wide * high) / MOST_SQUARES))
    this.columns = Math.max(1, Math.ceil(wide / this.squareM))
    this.rows = Math.max(1, Math.ceil(high / this.squareM))
    this.seconds = new Float32Array(this.columns * this.rows)
  }

  /** Adds a frame of a recording. */
  add(frame: Int32Array): void {
    for (let r = 0; r < frame.length; r += FRAME_FIELDS) {
      const i = Math.floor((frame[r + FIELD.x] / 1000 - this.extent.minX) / this.squareM)
      const j = Math.floor((frame[r + FIELD.y] / 1000 - this.extent.minY) / this.squareM)
      if (i >= 0 && j >= 0 && i < this.columns && j < this.rows)
        this.seconds[j * this.columns + i] += 1 / FRAMES_PER_SECOND
    }
  }
}
