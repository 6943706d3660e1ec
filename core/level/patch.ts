import { applyPatches, enablePatches, type Patch as ImmerPatch } from 'immer'
import { LevelError } from './error'
import type { Level } from './schema'

enablePatches()

/** One operation of a JSON Patch (RFC 6902), limited to the three an edit is made of. */
export type PatchOp = { op: 'add' | 'replace'; path: string; value: unknown } | { op: 'remove'; path: string }

const escape = (key: string) => key.replaceAll('~', '~0').replaceAll('/', '~1')
const unescape = (key: string) => key.replaceAll('~1', '/').replaceAll('~0', '~')

/** The JSON Pointer (RFC 6901) that leads through some keys. */
export const pointerOf = (keys: readonly string[]): string => keys.map((k) => `/${escape(k)}`).join('')

/** The keys a JSON Pointer (RFC 6901) leads through. */
export function pointerKeys(path: string): string[] {
  return path === '' ? [] : path.slice(1).split('/').map(unescape)
}

/**
 * Immer's patches as JSON Patch. A changed list is given whole, so that a patch does not depend on positions inside it:
 * lists in a level are short, and long ones (heights) are lists of lists, of which only the changed row is given.
 */
export function toJsonPatch(patches: readonly ImmerPatch[], before: unknown, after: unknown): PatchOp[] {
  const ops: PatchOp[] = []
  const lists = new Set<string>()
  for (const patch of patches) {
    const keys = patch.path.map(String)
    const cut = listDepth(keys, before, after)
    const path = keys
      .slice(0, cut ?? keys.length)
      .map((k) => `/${escape(k)}`)
      .join('')
    if (cut !== undefined) {
      if (!lists.has(path)) ops.push({ op: 'replace', path, value: valueAt(after, keys.slice(0, cut)) })
      lists.add(path)
    } else if (patch.op === 'remove') ops.push({ op: 'remove', path })
    else ops.push({ op: patch.op, path, value: patch.value })
  }
  return ops
}

/** How many keys lead to the list that has to be given whole, or undefined when the path goes through none. */
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

function child(value: unknown, key: string): unknown {
  return typeof value === 'object' && value !== null ? (value as Record<string, unknown>)[key] : undefined
}

export function valueAt(value: unknown, keys: readonly string[]): unknown {
  return keys.reduce(child, value)
}

/**
 * The level with a patch applied; parts it does not touch keep their identity.
 * @throws LevelError when the patch does not fit the level
 */
export function applyPatch(level: Level, ops: readonly PatchOp[]): Level {
  const patches = ops.map((o): ImmerPatch => {
    const path = pointerKeys(o.path)
    return o.op === 'remove' ? { op: 'remove', path } : { op: o.op, path, value: o.value }
  })
  for (const [i, op] of ops.entries()) {
    const keys = pointerKeys(op.path)
    const forbidden = keys.find((k) => k === '__proto__' || k === 'constructor' || k === 'prototype')
    if (forbidden) throw new LevelError('patch-refused', `operation ${i + 1}`, `the key ${forbidden} is not allowed`)
  }
  try {
    return applyPatches(level, patches)
  } catch (error) {
    throw new LevelError('patch-refused', '', `the patch does not fit this level: ${(error as Error).message}`)
  }
}

const within = (p: string, q: string) => p === q || q.startsWith(`${p}/`)

/** Do two places touch: are they the same, or does one lie within the other? */
export const placesTouch = (p: string, q: string): boolean => within(p, q) || within(q, p)

/** The place an operation writes, for comparing: a list as a whole where its length may change. */
export function listPath(path: string, level: unknown): string {
  const keys = pointerKeys(path)
  let value = level
  for (const [i, key] of keys.entries()) {
    if (Array.isArray(value) && i === keys.length - 1) return pointerOf(keys.slice(0, i))
    value = child(value, key)
  }
  return path
}

/** The first place that both of two patches write, so that applying both in turn could lose something. */
export function placeBothTouch(a: readonly { path: string }[], b: readonly { path: string }[]): string | undefined {
  const exact = new Set(b.map((y) => y.path))
  // Every place that something in `b` lies within.
  const above = new Set<string>()
  for (const { path } of b)
    for (let cut = path.lastIndexOf('/'); cut > 0; cut = path.lastIndexOf('/', cut - 1)) above.add(path.slice(0, cut))
  for (const { path } of a) {
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
