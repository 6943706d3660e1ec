import { placeBothTouch, type PatchOp } from '@tidytrail/core/level'

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

/**
 * The changes of a gesture as one: of a place that is written again and again only the last value is kept, and of the
 * way back only the first. Costs what each change touches, however many there have been.
 */
export class Fold {
  private readonly last = new Map<string, PatchOp>()
  private readonly first = new Map<string, PatchOp>()
  /** Places that something written lies within. */
  private readonly above = new Set<string>()
  /** Whole patches, once what is written is more than values at places. */
  private rest: { patch: PatchOp[]; inverse: PatchOp[] } | undefined

  add(patch: readonly PatchOp[], inverse: readonly PatchOp[]): void {
    const paths = new Set<string>()
    if (!this.rest && patch.every((op) => this.fits(op, paths)) && inverse.every((op) => op.op === 'replace')) {
      for (const op of patch) this.last.set(op.path, op)
      for (const op of inverse) if (!this.first.has(op.path)) this.first.set(op.path, op)
      return
    }
    this.rest = { patch: [...this.patch, ...patch], inverse: [...inverse, ...this.inverse] }
  }

  /** Is it a value at a place that neither lies within another that is written nor holds one? */
  private fits(op: PatchOp, beside: Set<string>): boolean {
    if (op.op !== 'replace') return false
    if (this.last.has(op.path) || beside.has(op.path)) return true
    if (this.above.has(op.path)) return false
    const holders: string[] = []
    for (let cut = op.path.lastIndexOf('/'); cut > 0; cut = op.path.lastIndexOf('/', cut - 1)) {
      const holder = op.path.slice(0, cut)
      if (this.last.has(holder) || beside.has(holder)) return false
      holders.push(holder)
    }
    for (const holder of holders) this.above.add(holder)
    beside.add(op.path)
    return true
  }

  get patch(): PatchOp[] {
    return this.rest?.patch ?? [...this.last.values()]
  }

  get inverse(): PatchOp[] {
    return this.rest?.inverse ?? [...this.first.values()]
  }
}
