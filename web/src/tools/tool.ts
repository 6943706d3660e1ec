import type { Point3 } from '@tidytrail/core/geometry'
import type { Collection } from '@tidytrail/core/level'
import type { Hit, HitKind } from '../map/hit'
import type { Pen } from '../map/pen'
import type { Viewport } from '../map/viewport'
import type { useLevelStore } from '../stores/level'
import type { useRehearsalStore } from '../stores/rehearsal'
import type { StageId, useSheetStore } from '../stores/sheet'
import type { useSurveyStore } from '../stores/survey'
import type { Component } from 'vue'

/** The pointer over the map. */
export interface MapPointer {
  /** Window pixels from the map's corner. */
  readonly sx: number
  readonly sy: number
  /** Level metres as they are, and snapped to the grid on the floor there. */
  readonly x: number
  readonly y: number
  readonly at: Point3
  readonly shift: boolean
  readonly alt: boolean
  readonly ctrl: boolean
}

/** All a tool may reach. */
export interface ToolContext {
  readonly levels: ReturnType<typeof useLevelStore>
  readonly sheet: ReturnType<typeof useSheetStore>
  readonly survey: ReturnType<typeof useSurveyStore>
  readonly rehearsal: ReturnType<typeof useRehearsalStore>
  readonly view: Viewport
  hit(p: { sx: number; sy: number }, kinds?: readonly HitKind[]): Hit | undefined
  /** A place put on the grid (unless Alt is held) and on the floor nearest to a height. */
  place(x: number, y: number, options?: { free?: boolean; nearZ?: number }): Point3
  redraw(): void
  /** Takes the choosing tool in hand again. */
  done(): void
}

/** Something one does on the map with the pointer. One file each. */
export interface Tool {
  readonly id: string
  readonly label: string
  readonly key: string
  readonly stages: readonly StageId[]
  /** What to do with it, shown while it is in hand. */
  readonly hint: string
  readonly cursor: string
  /** Choices of the tool, shown while it is in hand. */
  readonly options?: Component
  /** It is taken in hand in other ways than from the strip, which shows it only then. */
  readonly asked?: true
  /** It places things of these kinds, one after the other: the one placed last can be dragged with the tool still in hand. */
  readonly places?: readonly Collection[]
  /** Would it drag what is chosen, a thing of these kinds, or a handle of it, if the pointer went down here? */
  grabs?(p: MapPointer, kinds: readonly Collection[]): boolean
  /** Has it begun on something that is not there yet? */
  busy?(): boolean
  /** Places are drawn to corners and edges of what is drawn, not only to the grid. */
  readonly snapsTo?: 'shapes'
  /** The pointer went down; true when the tool takes the drag that may follow, otherwise it pans the map. */
  down?(p: MapPointer): boolean
  move?(p: MapPointer, dragging: boolean): void
  up?(p: MapPointer): void
  doubleClick?(p: MapPointer): void
  /** A key nobody else wanted; true when it meant something. */
  press?(key: string): boolean
  draw?(pen: Pen): void
  /** The reach or the ways have been worked out anew. */
  surveyed?(): void
  leave?(): void
}

export type MakeTool = (context: ToolContext) => Tool
