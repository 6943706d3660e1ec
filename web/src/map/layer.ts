import type { Collection } from '@tidytrail/core/level'
import type { Stroke } from '../ui/stroke'
import type { Pen } from './pen'
import type { MapScene } from './scene'
import type { Drawn } from './sliced'

/** A line of the legend: what is shown or hidden together. */
export interface Layer {
  readonly id: string
  readonly name: string
  readonly strokes: readonly Stroke[]
}

/**
 * Something that is drawn: on the paper of the sheet, on the canvas of what stands still, on the one of what is
 * edited, of what follows the hand, or of what moves by itself. The lower its order, the earlier it is drawn.
 */
export interface Painter {
  readonly on: 'paper' | 'under' | 'over' | 'hand' | 'top'
  readonly order: number
  readonly layer?: string
  /** Only on this stage. */
  readonly stage?: string
  /** Collections it reads beside that of its own kind. */
  readonly reads?: readonly Collection[]
  /** Draws at once, or in steps where there may be much. */
  draw(pen: Pen, scene: MapScene): Drawn
}
