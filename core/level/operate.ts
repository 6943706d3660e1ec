/** How one operation of a JSON Patch (RFC 6902) changes a document: the only place that does. */
import { LevelError } from './error'
import { pointerKeys, pointerOf, type PatchOp } from './pointer'

type Keyed = Record<string, unknown>

/** What goes along with a change. */
export interface Operating {
  /** The value that takes the place of one that is gone into: itself, or a copy of it that may be changed. */
  open(holder: object, key: string, inside: object): object
  /** A value as it is to be kept. */
  own(value: unknown): unknown
  /** Something is no longer at a place, or has come there; in a record, whether it was and is. */
  gone?(keys: readonly string[], value: unknown): void
  come?(keys: readonly string[], value: unknown): void
  counted?(keys: readonly string[], was: boolean, is: boolean, record: object): void
}

const HOSTILE = new Set(['__proto__', 'constructor', 'prototype'])
export const isHostileKey = (key: string): boolean => HOSTILE.has(key)

export const refused = (why: string) => new LevelError('patch-refused', '', why)

/**
 * Makes one change in a document, and gives the change that takes it back.
 * @param given the keys of the operation's path, when they are at hand
 * @param root is changed; what lies in it only where `open` gives it back as it is
 * @throws LevelError when there is no such place; nothing is then changed but what `open` did
 */
export function operate(root: object, op: PatchOp, how: Operating, given?: readonly string[]): PatchOp {
  if (!op.path.startsWith('/')) throw refused('the document as a whole is not changed by a patch')
  const keys = given ?? pointerKeys(op.path)
  const last = keys.length - 1
  let holder: object = root
  for (const [depth, key] of keys.entries()) {
    if (isHostileKey(key)) throw refused(`the key ${key} is not allowed`)
    if (depth === last) break
    if (Array.isArray(holder)) indexOf(key, holder.length - 1)
    const inside: unknown = Object.hasOwn(holder, key) ? (holder as Keyed)[key] : undefined
    if (typeof inside !== 'object' || inside === null)
      throw refused(`there is nothing at ${pointerOf(keys.slice(0, depth + 1)).slice(0, 80)}`)
    holder = how.open(holder, key, inside)
  }
  return Array.isArray(holder) ? inList(op, keys, holder, how) : inRecord(op, keys, holder as Keyed, how)
}

function inList(op: PatchOp, keys: readonly string[], list: unknown[], how: Operating): PatchOp {
  const key = keys[keys.length - 1]
  if (op.op === 'add') {
    const index = key === '-' ? list.length : indexOf(key, list.length)
    const at = [...keys.slice(0, -1), String(index)]
    op.path = pointerOf(at)
    list.splice(index, 0, how.own(op.value))
    how.come?.(at, op.value)
    return { op: 'remove', path: op.path }
  }
  const index = indexOf(key, list.length - 1)
  const before = list[index]
  how.gone?.(keys, before)
  if (op.op === 'remove') {
    list.splice(index, 1)
    return { op: 'add', path: op.path, value: before }
  }
  list[index] = how.own(op.value)
  how.come?.(keys, op.value)
  return { op: 'replace', path: op.path, value: before }
}

function inRecord(op: PatchOp, keys: readonly string[], record: Keyed, how: Operating): PatchOp {
  const key = keys[keys.length - 1]
  const known = Object.hasOwn(record, key)
  if (!known && op.op !== 'add') throw refused(`there is nothing at ${op.path.slice(0, 80)}`)
  const before = record[key]
  if (known) how.gone?.(keys, before)
  if (op.op === 'remove') delete record[key]
  else {
    record[key] = how.own(op.value)
    how.come?.(keys, op.value)
  }
  how.counted?.(keys, known, op.op !== 'remove', record)
  if (!known) return { op: 'remove', path: op.path }
  return { op: op.op === 'remove' ? 'add' : 'replace', path: op.path, value: before }
}

/** A place in a list. @throws LevelError when it is not written as RFC 6901 has it, or beyond the last one allowed */
export function indexOf(key: string, last: number): number {
  if (!/^(0|[1-9]\d{0,8})$/.test(key)) throw refused(`${key.slice(0, 20)} is no place in a list`)
  const index = Number(key)
  if (index > last) throw refused(`place ${index} is beyond the end of the list`)
  return index
}
