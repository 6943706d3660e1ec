import { z } from 'zod'
import { LevelError } from './error'
import { errorOf, tellable, whyOf } from './faults'
import { peel } from './fields'
import { WITH_PARTS } from './kinds/collections'
import { assertOrder, assertReference, visitReferences } from './references'
import { pointerKeys, valueAt, type PatchOp } from './patch'
import { rulesOf } from './rules'
import { levelSchema, type Level } from './schema'

/**
 * The smallest part of a level that has to be looked at again when something at a place in it has changed: a waypoint
 * rather than all of them, a stop rather than its route. Rules over larger parts that the place lies in come with it.
 */
export interface Unit {
  readonly keys: readonly string[]
  readonly schema: z.ZodType
  /** May it be absent, as a thing may that was taken out of its collection? */
  readonly optional: boolean
  readonly rules: readonly { readonly keys: readonly string[]; readonly schema: z.ZodType }[]
}

/**
 * The unit a place belongs to.
 * @param replaces is the value there replaced by another? In a list nothing else keeps its length
 * @throws LevelError when no such place can be in a level
 */
export function unitAt(keys: readonly string[], replaces: boolean): Unit {
  let schema: z.ZodType = levelSchema
  let optional = false
  const rules: { keys: string[]; schema: z.ZodType }[] = []
  let depth = 0
  for (; depth < keys.length; depth++) {
    const inner = peel(schema)
    if (rulesOf(inner).length > 0) rules.push({ keys: keys.slice(0, depth), schema: inner })
    const key = keys[depth]
    if (inner instanceof z.ZodObject) {
      if (!Object.hasOwn(inner.shape, key)) {
        const at = keys.slice(0, depth + 1).map(tellable)
        throw new LevelError('not-valid', at.join('.'), 'is not known here', at)
      }
      schema = inner.shape[key] as z.ZodType
      optional = false
    } else if (inner instanceof z.ZodRecord) {
      const named = (inner.keyType as z.ZodType).safeParse(key)
      if (!named.success) {
        const at = keys.slice(0, depth + 1).map(tellable)
        throw new LevelError('not-valid', at.join('.'), whyOf(named.error.issues[0]), at)
      }
      schema = inner.valueType as z.ZodType
      optional = true
    } else if (inner instanceof z.ZodArray && (replaces || depth + 1 < keys.length)) {
      schema = inner.element as z.ZodType
      optional = false
    } else break
  }
  return { keys: keys.slice(0, depth), schema, optional, rules }
}

/** The unit a place belongs to; none for a place no level has, where by now there is nothing any more. */
function unitStillAt(level: unknown, keys: readonly string[], replaces: boolean): Unit | undefined {
  try {
    return unitAt(keys, replaces)
  } catch (error) {
    if (error instanceof LevelError && valueAt(level, error.keys) === undefined) return undefined
    throw error
  }
}

/**
 * Looks again at every unit that changes touched.
 * @param normal told the value of a unit as its schema has it, where that is not what stands there
 * @throws LevelError that names the place of the first fault
 */
export function assertUnits(
  level: unknown,
  touched: readonly { readonly keys: readonly string[]; readonly replaces: boolean }[],
  normal: (keys: readonly string[], value: unknown) => void,
): void {
  const units = new Map<string, Unit>()
  for (const { keys, replaces } of touched) {
    const unit = unitStillAt(level, keys, replaces)
    if (unit) units.set(unit.keys.join('/'), unit)
  }
  const ruled = new Map<string, Unit['rules'][number]>()
  for (const [path, unit] of units) {
    for (const rule of unit.rules) ruled.set(rule.keys.join('/'), rule)
    if (liesWithinAnother(path, units)) continue
    const value = valueAt(level, unit.keys)
    if (value === undefined && (unit.optional || isGone(level, unit.keys))) continue
    const read = unit.schema.safeParse(value)
    if (!read.success) throw errorOf(read.error, unit.keys)
    if (!sameValue(read.data, value)) normal(unit.keys, read.data)
  }
  for (const { keys, schema } of ruled.values()) {
    const value = valueAt(level, keys)
    if (value === undefined || value === null) continue
    for (const rule of rulesOf(schema)) {
      const why = rule(value as never)
      if (why !== undefined) throw new LevelError('not-valid', keys.join('.'), why, keys)
    }
  }
}

/** Is what a unit stands in gone as well, so that nothing is missing? */
function isGone(level: unknown, keys: readonly string[]): boolean {
  return keys.length > 0 && valueAt(level, keys.slice(0, -1)) === undefined
}

function liesWithinAnother(path: string, units: ReadonlyMap<string, Unit>): boolean {
  for (let cut = path.lastIndexOf('/'); cut > 0; cut = path.lastIndexOf('/', cut - 1))
    if (units.has(path.slice(0, cut))) return true
  return false
}

/** Are two plain values the same, whatever the order of their keys? */
export function sameValue(a: unknown, b: unknown): boolean {
  if (Object.is(a, b) || a === b) return true
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false
  if (Array.isArray(a) || Array.isArray(b)) {
    if (!Array.isArray(a) || !Array.isArray(b) || a.length !== b.length) return false
    return a.every((v, i) => sameValue(v, b[i]))
  }
  const keys = Object.keys(a)
  if (keys.length !== Object.keys(b).length) return false
  return keys.every(
    (k) => Object.hasOwn(b, k) && sameValue((a as Record<string, unknown>)[k], (b as Record<string, unknown>)[k]),
  )
}

/**
 * Makes sure that what an edit made of a level may be in one, by looking at what its patch touched.
 * @throws LevelError that names the place of the first fault
 */
export function assertEdited(level: Level, patch: readonly PatchOp[]): void {
  const touched = patch.map((op) => ({ keys: pointerKeys(op.path), replaces: op.op === 'replace' }))
  assertUnits(level, touched, () => {})
  for (const [i, { keys }] of touched.entries()) {
    const op = patch[i]
    if (op.op === 'remove') continue
    visitReferences(keys, valueAt(level, keys), (to, id, at) => assertReference(level, to, id, at))
  }
  for (const kind of WITH_PARTS) {
    const ids = new Set(touched.filter(({ keys }) => keys[0] === kind.in && keys.length > 1).map(({ keys }) => keys[1]))
    for (const id of ids) if (Object.hasOwn(level[kind.in], id)) assertOrder(level, kind, id)
  }
}
