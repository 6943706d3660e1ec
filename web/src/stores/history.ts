import { Fold, placeBothTouch, type PatchOp } from '@tidytrail/core/level'

/** One step that can be undone. */
export interface HistoryEntry {
  readonly label: string
  readonly patch: PatchOp[]
  readonly inverse: PatchOp[]
  /** Edits of one drag share a gesture and are undone together. */
  readonly gesture?: string
  readonly at: number
  /** Somebody else has since changed what this would write: undoing it over that has to be asked about. */
  overtaken?: boolean
}

const MOST_ENTRIES = 500

/** A step whose gesture may go on. */
class Step implements HistoryEntry {
  readonly label: string
  readonly gesture?: string
  readonly at: number
  overtaken?: boolean
  readonly fold = new Fold()

  constructor({ label, gesture, at, patch, inverse }: HistoryEntry) {
    this.label = label
    this.gesture = gesture
    this.at = at
    this.fold.add(patch, inverse)
  }

  get patch(): PatchOp[] {
    return this.fold.patch
  }
  get inverse(): PatchOp[] {
    return this.fold.inverse
  }
}

/** Undo and redo as two stacks of patches. */
export class History {
  readonly past: Step[] = []
  readonly future: Step[] = []

  push(entry: HistoryEntry): void {
    this.future.length = 0
    const last = this.past.at(-1)
    if (last && entry.gesture !== undefined && last.gesture === entry.gesture) {
      last.fold.add(entry.patch, entry.inverse)
      return
    }
    this.past.push(new Step(entry))
    if (this.past.length > MOST_ENTRIES) this.past.shift()
  }

  undo(): HistoryEntry | undefined {
    const entry = this.past.pop()
    if (entry) this.future.push(entry)
    return entry
  }

  redo(): HistoryEntry | undefined {
    const entry = this.future.pop()
    if (entry) this.past.push(entry)
    return entry
  }

  /** Marks the steps that touch what others have changed. */
  overtake(ops: readonly PatchOp[]): void {
    for (const entry of [...this.past, ...this.future])
      if (!entry.overtaken && placeBothTouch(entry.patch, ops) !== undefined) entry.overtaken = true
  }

  /** Takes the step back that was made last, as if it had never been. */
  drop(): HistoryEntry | undefined {
    return this.past.pop()
  }

  clear(): void {
    this.past.length = 0
    this.future.length = 0
  }
}
