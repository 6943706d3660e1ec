/**
 * The keys of records that do not change, kept. An engine takes several times as long to list the keys of a record of
 * tens of thousands of things as to read them one by one, and a copy of such a record is made with every edit.
 */
type Keyed = Record<string, unknown>

const known = new WeakMap<object, readonly string[]>()
/** Records that are being changed. */
const open = new WeakSet<object>()

/** Fewer keys than this are not worth keeping. */
const FEW = 64

/** The keys of a record; the same list for as long as it has the same ones. */
export function keysOf(record: object): readonly string[] {
  const kept = known.get(record)
  if (kept) return kept
  const keys = Object.keys(record)
  if (keys.length > FEW && !open.has(record)) known.set(record, keys)
  return keys
}

/** Copies records that are then changed, and keeps their keys when that is done. */
export class KeyedCopies {
  private readonly keys = new Map<object, string[] | readonly string[]>()
  private readonly lost = new Map<object, Set<string>>()

  copy(record: Keyed): Keyed {
    const keys = keysOf(record)
    if (keys.length <= FEW) return { ...record }
    const out: Keyed = {}
    for (let k = 0; k < keys.length; k++) out[keys[k]] = record[keys[k]]
    open.add(out)
    this.keys.set(out, keys)
    return out
  }

  /** A key of a copy came or went. */
  changed(record: object, key: string, is: boolean): void {
    const keys = this.keys.get(record)
    if (!keys) return
    const lost = this.lost.get(record)
    if (!lost) {
      this.keys.set(record, [...keys])
      this.lost.set(record, new Set())
    }
    if (!is) this.lost.get(record)!.add(key)
    else if (!this.lost.get(record)!.delete(key)) (this.keys.get(record) as string[]).push(key)
  }

  /** The copies are not changed any more. */
  done(): void {
    for (const [record, keys] of this.keys) {
      const lost = this.lost.get(record)
      known.set(record, lost && lost.size > 0 ? keys.filter((key) => !lost.has(key)) : keys)
      open.delete(record)
    }
    this.keys.clear()
    this.lost.clear()
  }
}
