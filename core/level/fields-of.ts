/** The properties of things that can be set by hand, with their limits, as their schemas tell them. */
import { bearingOf, fromBearing } from '@tidytrail/core/geometry'
import { z } from 'zod'
import { fieldOf, peel, roleOf, type Field } from './fields'
import { kindIn } from './kinds/collections'
import { shapesOf } from './places'
import { REFS } from './references'
import type { Collection } from './schema'

interface Common {
  /** The keys that lead to it from the thing. */
  readonly path: readonly string[]
  readonly label: string
  /** May it be empty, and what that is called then. */
  readonly none?: string
  /** Is it of any use for a thing such as this? */
  readonly when?: (thing: object) => boolean
}

/** A number as it is shown: what is kept times `times`. Limits are of what is shown. */
export interface NumberSpec extends Common {
  readonly as: 'number'
  readonly unit?: string
  readonly times: number
  readonly step: number
  readonly digits: number
  readonly min: number
  readonly max: number
  readonly whole: boolean
  readonly slider: boolean
  readonly compass?: 'bearing' | 'turn'
}
export interface TextSpec extends Common {
  readonly as: 'text'
  readonly long: boolean
  readonly most: number
}
export interface TickSpec extends Common {
  readonly as: 'tick'
}
export interface ChoiceSpec extends Common {
  readonly as: 'choice'
  readonly choices: readonly { readonly value: string; readonly word: string }[]
}
/** One of the things of a collection. */
export interface ThingSpec extends Common {
  readonly as: 'thing'
  readonly to: Collection
}
export type FieldSpec = NumberSpec | TextSpec | TickSpec | ChoiceSpec | ThingSpec

const known = new WeakMap<z.ZodType, readonly FieldSpec[]>()

/** The fields of a thing of a collection, in the order of its schema; of one shape where things have several. */
export function fieldsOf(collection: Collection, thing: object): readonly FieldSpec[] {
  return fieldsIn(kindIn(collection).schema, thing, (path) => {
    const ref = REFS.find((r) => r.in === collection && r.path === path.join('.'))
    return ref?.to
  })
}

/** The fields of a value of a schema. @param refers the collection a path of it refers to, if any */
export function fieldsIn(
  schema: z.ZodType,
  value: object,
  refers: (path: readonly string[]) => Collection | undefined = () => undefined,
): readonly FieldSpec[] {
  const shape = shapeFor(schema, value)
  if (!shape) return []
  let all = known.get(shape)
  if (!all) known.set(shape, (all = describe(shape, [], refers)))
  return all
}

/** The one shape of a schema a value has. */
function shapeFor(schema: z.ZodType, value: object): z.ZodObject | undefined {
  if (schema instanceof z.ZodDiscriminatedUnion) {
    const key = schema.def.discriminator
    const tag = (value as Record<string, unknown>)[key]
    return (schema.options as z.ZodObject[]).find((o) => (o.shape[key] as z.ZodLiteral).value === tag)
  }
  return schema instanceof z.ZodObject ? schema : undefined
}

function describe(
  object: z.ZodObject,
  above: readonly string[],
  refers: (path: readonly string[]) => Collection | undefined,
): FieldSpec[] {
  return Object.entries(object.shape as Record<string, z.ZodType>).flatMap(([key, schema]) => {
    const path = [...above, key]
    const inner = peel(schema)
    const field = fieldOf(schema)
    if (!field) return inner instanceof z.ZodObject ? describe(inner, path, refers) : []
    const common = {
      path,
      label: String(field.label),
      ...(field.none !== undefined ? { none: field.none } : {}),
      ...(field.when ? { when: field.when as (thing: object) => boolean } : {}),
    }
    const to = refers(path)
    if (to) return [{ ...common, as: 'thing' as const, to }]
    if (roleOf(schema) === 'point') return coordinates(inner as z.ZodTuple, field, path)
    if (inner instanceof z.ZodNumber) return [{ ...common, ...numberSpec(inner, field) }]
    if (inner instanceof z.ZodBoolean) return [{ ...common, as: 'tick' as const }]
    if (inner instanceof z.ZodEnum) {
      const choices = inner.options.map((o) => ({ value: String(o), word: field.words?.[o] ?? String(o) }))
      return [{ ...common, as: 'choice' as const, choices }]
    }
    if (inner instanceof z.ZodString)
      return [{ ...common, as: 'text' as const, long: field.long === true, most: inner.maxLength ?? Infinity }]
    return []
  })
}

/** A place as a field for each of its coordinates. */
function coordinates(tuple: z.ZodTuple, field: Field, path: readonly string[]): FieldSpec[] {
  return (tuple.def.items as z.ZodNumber[]).map((item, k) => ({
    path: [...path, String(k)],
    label: String((field.label as readonly string[])[k]),
    ...numberSpec(item, field),
  }))
}

function numberSpec(schema: z.ZodNumber, field: Field): Omit<NumberSpec, keyof Common> {
  const { times = 1, digits = 2, step = 0.1, unit, slider = false, compass } = field
  const least = schema.minValue ?? -Infinity
  // What must be more than a limit is at least the smallest that can be shown beyond it.
  const beyond = isExclusive(schema) ? 10 ** -digits : 0
  return {
    as: 'number',
    ...(unit ? { unit } : {}),
    times,
    step,
    digits,
    // All the way round and back is as good as where it ends.
    min: compass ? -3600 : least * times + beyond,
    max: compass ? 3600 : (schema.maxValue ?? Infinity) * times,
    ...(compass ? { compass } : {}),
    whole: schema.isInt === true,
    slider,
  }
}

/** Is the least value of a number one it must be more than? */
const isExclusive = (schema: z.ZodNumber): boolean =>
  (schema.def.checks ?? []).some((check) => {
    const { check: what, inclusive } = check._zod.def as { check: string; inclusive?: boolean }
    return what === 'greater_than' && inclusive === false
  })

/** A number as it is shown. */
export function shownNumber({ compass, times }: NumberSpec, value: number): number {
  if (compass === 'bearing') return bearingOf(value)
  if (compass === 'turn') return (bearingOf(value) + 270) % 360
  return value * times
}

/** A number as it is kept, from how it is shown. */
export function keptNumber({ compass, times, whole }: NumberSpec, shown: number): number {
  if (compass) return toMicro(fromBearing(compass === 'turn' ? shown + 90 : shown))
  return whole ? Math.round(shown) : shown / times
}
const toMicro = (rad: number) => Math.round(rad * 1e6) / 1e6

/** The value at the end of a path. */
export const valueIn = (thing: object, path: readonly string[]): unknown =>
  path.reduce<unknown>((value, key) => (value as Record<string, unknown> | undefined)?.[key], thing)

/** The property of a thing at the head of a path, with what is at its end set anew. */
export function withValue(thing: object, path: readonly string[], value: unknown): Record<string, unknown> {
  const [key, ...rest] = path
  if (rest.length === 0) return { [key]: value }
  const before = (thing as Record<string, unknown>)[key] as object
  if (Array.isArray(before)) return { [key]: before.map((v, k) => (String(k) === rest[0] ? value : v)) }
  return { [key]: { ...before, ...withValue(before, rest, value) } }
}

/** Has a thing of a collection a list of those who may use it? */
export const isRestricted = (collection: Collection): boolean =>
  shapesOf(kindIn(collection).schema).every((shape) => 'nobody' in shape)
/** Has it tags? */
export const isTagged = (collection: Collection): boolean =>
  shapesOf(kindIn(collection).schema).every((shape) => 'tags' in shape)

/** A part of a thing with its fields. @throws TypeError when the thing has no such part */
export function partFieldsOf(collection: Collection, holder: object, partId: string) {
  const { in: key } = kindIn(collection).parts!
  const thing = (holder as Record<string, Record<string, object>>)[key][partId]
  const schema = shapesOf(kindIn(collection).schema)[0][key] as z.ZodRecord
  const fields = fieldsIn(schema.valueType as z.ZodType, thing, (path) => {
    const ref = REFS.find((r) => r.in === collection && r.path === [key, '*', ...path].join('.'))
    return ref?.to
  })
  return { key, id: partId, thing, fields }
}
