import type { Component, ComputedRef } from 'vue'
import type { StageId } from '../stores/sheet'

/** One thing in the register. */
export interface RegisterRow {
  id: string
  name: string
  detail: string
  hidden?: boolean
  locked?: boolean
  /** Can it be dragged onto the map as a route? */
  routeId?: string
  /** Can it be dragged onto a spawner, to tell or to lead it: a brief or a squad? */
  tells?: boolean
  /** A word at the end of the row, with a colour of its own. */
  mark?: { text: string; tone: 'good' | 'fair' | 'bad' | 'plain' }
  /** Orders rows when sorted by size, by users and by kind. */
  size: number
  users?: number
  kind?: string
}

/** What a list of the register has to show now. */
export interface RegisterContent {
  readonly rows: ComputedRef<readonly RegisterRow[]>
  readonly count: ComputedRef<number>
  /** How many there are, in words, and what is said when there is none. */
  readonly figure: ComputedRef<string>
  readonly empty: ComputedRef<string>
  /** Kinds to choose from, to show only one of them. */
  readonly kinds?: ComputedRef<readonly { id: string; name: string }[]>
  /** What can be done to rows beside choosing them. */
  readonly actions: {
    rename?(id: string, name: string): void
    hide?(id: string): void
    lock?(id: string): void
    zoom?(id: string): void
  }
  /** Does it list what has this id, so that choosing it elsewhere opens this list? */
  lists(id: string): boolean
}

/** A list of the register of a stage, behind a tab where there are several. */
export interface Register {
  readonly id: string
  readonly stage: StageId
  readonly name: string
  readonly find: string
  /** Its rows can be neither hidden nor locked, or not even sorted. */
  readonly plain?: boolean
  readonly fixed?: boolean
  /** Shown only once it lists something. */
  readonly ifAny?: boolean
  /** Draws the symbol of a row; what stands over the rows and under them. */
  readonly symbol: Component
  readonly top?: Component
  readonly foot?: Component
  /** Called while the register is set up. */
  use(): RegisterContent
}
