import type { Patch as ImmerPatch } from 'immer'
import { LevelError } from './error'
import { KeyedCopies } from './keys'
import { WITH_PARTS } from './kinds/collections'
import { operate, type Operating } from './operate'
import { child, pointerOf, valueAt, writtenPath, type PatchOp } from './pointer'
import type { Level } from './schema'

export * from './pointer'

/** More changes to a list than this, as a share of what it holds, and it is given whole. */
const MOST_OF_LIST = 0.25

/**
 * The operations that make one list another: what is taken out and put in between the ends both have in common, or the
 * whole list where that would be most of it.
 */
export function listOps(path: string, before: readonly unknown[], after: readonly unknown[]): PatchOp[] {
  const shorter = Math.min(before.length, after.length)
  let head = 0
  while (head < shorter && before[head] === after[head]) head++
  let tail = 0
  while (tail < shorter - head && before[before.length - 1 - tail] === after[after.length - 1 - tail]) tail++
  const lost = before.length - head - tail
  const come = after.slice(head, after.length - tail)
  if (lost + come.length === 0) return []
  if (lost + come.length > Math.max(2, before.length * MOST_OF_LIST)) return [{ op: 'replace', path, value: after }]
  const ops: PatchOp[] = []
  for (let k = 0; k < lost; k++) ops.push({ op: 'remove', path: `${path}/${head + lost - 1 - k}` })
  come.forEach((value, k) => ops.push({ op: 'add', path: `${path}/${head + k}`, value }))
  return ops
}

/** Immer's patches as JSON Patch. A list whose length changes is told by what is taken out of it and put in. */
export function toJsonPatch(patches: readonly ImmerPatch[], before: unknown, after: unknown): PatchOp[] {
  const ops: PatchOp[] = []
  const lists = new Set<string>()
  for (const patch of patches) {
    const keys = patch.path.map(String)
    const cut = listDepth(keys, before, after)
    const path = pointerOf(keys.slice(0, cut ?? keys.length))
    if (cut !== undefined) {
      const [was, is] = [valueAt(before, keys.slice(0, cut)), valueAt(after, keys.slice(0, cut))]
      if (!lists.has(path)) ops.push(...listOps(path, was as unknown[], is as unknown[]))
      lists.add(path)
    } else if (patch.op === 'remove') ops.push({ op: 'remove', path })
    else ops.push({ op: patch.op, path, value: patch.value })
  }
  return ops
}

/** How many keys lead to the list that has to be compared, or undefined when the path goes through none. */
function listDepth(keys: string[], before: unknown, after: unknown): number | undefined {
  let a = before
  let b = after
  let deepest: number | undefined
  for (let i = 0; i < keys.length; i++) {
    if (Array.isArray(a) && Array.isArray(b)) {
      if (a.length !== b.length) return i
      deepest = i
    }
    a = child(a, keys[i])
    b = child(b, keys[i])
  }
  // A row put in the place of a row: given by itself.
  return Array.isArray(a) && Array.isArray(b) ? undefined : deepest
}

const PARTS = new Set(WITH_PARTS.map(({ parts }) => parts.in))

/** Applies operations to a level that is kept: what they touch is copied once, all else keeps its identity. */
export class Copying implements Operating {
  readonly level: Level
  private readonly mine: Set<object>
  private readonly copies = new KeyedCopies()

  constructor(base: Level) {
    this.level = { ...base }
    this.mine = new Set<object>([this.level])
  }

  open(holder: object, key: string, inside: object): object {
    if (this.mine.has(inside)) return inside
    const copy = this.copyOf(holder, key, inside)
    this.mine.add(copy)
    ;(holder as Record<string, object>)[key] = copy
    return copy
  }

  private copyOf(holder: object, key: string, inside: object): object {
    if (Array.isArray(inside)) return inside.slice()
    // Only collections, and the parts of things, are ever large.
    const large = holder === this.level || PARTS.has(key)
    return large ? this.copies.copy(inside as Record<string, unknown>) : { ...inside }
  }

  own(value: unknown): unknown {
    return value
  }

  counted(keys: readonly string[], was: boolean, is: boolean, record: object): void {
    if (was !== is) this.copies.changed(record, keys[keys.length - 1], is)
  }

  /** @param keys where the operation writes, when they are at hand. @returns the operation that takes it back */
  apply(op: PatchOp, keys?: readonly string[]): PatchOp {
    return operate(this.level, op, this, keys)
  }

  /** The level, which is not changed any more. */
  done(): Level {
    this.copies.done()
    return this.level
  }
}

/**
 * The level with a patch applied; parts it does not touch keep their identity.
 * @throws LevelError when the patch does not fit the level
 */
export function applyPatch(level: Level, ops: readonly PatchOp[]): Level {
  const copying = new Copying(level)
  for (const [i, op] of ops.entries()) {
    try {
      // A place at the end of a list is written down by its number.
      copying.apply({ ...op })
    } catch (error) {
      if (!(error instanceof LevelError)) throw error
      const why = error.why.includes('not allowed') ? error.why : `the patch does not fit this level: ${error.why}`
      throw new LevelError('patch-refused', `operation ${i + 1}`, why)
    }
  }
  return copying.done()
}

type Written = { readonly op: string; readonly path: string }

/** The first place that both of two patches write, so that applying both in turn could lose something. */
export function placeBothTouch(a: readonly Written[], b: readonly Written[]): string | undefined {
  const exact = new Set(b.map(writtenPath))
  // Every place that something in `b` lies within.
  const above = new Set<string>()
  for (const path of exact)
    for (let cut = path.lastIndexOf('/'); cut > 0; cut = path.lastIndexOf('/', cut - 1)) above.add(path.slice(0, cut))
  for (const op of a) {
    const path = writtenPath(op)
    if (exact.has(path) || above.has(path)) return path
    for (let cut = path.lastIndexOf('/'); cut > 0; cut = path.lastIndexOf('/', cut - 1))
      if (exact.has(path.slice(0, cut))) return path
  }
  return undefined
}

/** Do two patches touch the same things, so that applying both in turn could lose something? */
export function patchesTouch(a: readonly PatchOp[], b: readonly PatchOp[]): boolean {
  return placeBothTouch(a, b) !== undefined
}
