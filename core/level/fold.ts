import type { PatchOp } from './pointer'

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
