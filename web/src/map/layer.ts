import type { Collection } from '@tidytrail/core/level'
import type { Stroke } from '../ui/stroke'
import type { Pen } from './pen'
import type { MapScene } from './scene'

/** A line of the legend: what is shown or hidden together. */
export interface Layer {
  readonly id: string
  readonly name: string
  readonly strokes: readonly Stroke[]
}

/**
 * Something that is drawn: on the paper of the sheet, on the canvas of what stands still, or on the one of what is
 * edited. The lower its order, the earlier it is drawn.
 */
export interface Painter {
  readonly on: 'paper' | 'under' | 'over' | 'top'
  readonly order: number
  readonly layer?: string
  /** Only on this stage. */
  readonly stage?: string
  /** Collections it reads beside that of its own kind. */
  readonly reads?: readonly Collection[]
  draw(pen: Pen, scene: MapScene): void
}
