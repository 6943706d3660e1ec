import { placeBothTouch, type PatchOp } from '@tidytrail/core/level'

/** One step that can be undone. */
export interface HistoryEntry {
  label: string
  patch: PatchOp[]
  inverse: PatchOp[]
  /** Edits of one drag share a gesture and are undone together. */
  gesture?: string
  at: number
  /** Somebody else has since changed what this would write: undoing it over that has to be asked about. */
  overtaken?: boolean
}

const MOST_ENTRIES = 500

/** Undo and redo as two stacks of patches. */
export class History {
  readonly past: HistoryEntry[] = []
  readonly future: HistoryEntry[] = []

  push(entry: HistoryEntry): void {
    this.future.length = 0
    const last = this.past.at(-1)
    if (last && entry.gesture !== undefined && last.gesture === entry.gesture) {
      last.patch = squeeze([...last.patch, ...entry.patch])
      last.inverse = [...entry.inverse, ...last.inverse]
      return
    }
    this.past.push(entry)
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

/** Drops replacements that a later replacement of the same place makes pointless. */
export function squeeze(ops: PatchOp[]): PatchOp[] {
  if (ops.some((o) => o.op !== 'replace')) return ops
  const last = new Map(ops.map((o, i) => [o.path, i]))
  const nested = ops.some((a) => ops.some((b) => a !== b && b.path.startsWith(`${a.path}/`)))
  return nested ? ops : ops.filter((o, i) => last.get(o.path) === i)
}
