/** The level document, version 1. Metres, seconds and radians throughout; x east, y north, z up. */
import { z } from 'zod'
import { assetHashSchema, flag, id, metres, name, positive, seconds, text } from './fields'
import type { Kind } from './kinds/kind'
import { KINDS } from './kinds/list'
import { LIMITS } from './limits'
import { ruled } from './rules'

export const LEVEL_FORMAT = 'tidytrail-level'
export const LEVEL_VERSION = 1

const limitPair = (remark: number, fail: number) =>
  z.strictObject({ remark: z.number().min(0), fail: z.number().min(0) }).default({ remark, fail })

/** Has a sheet a shape that can be drawn, printed and surveyed? */
function extentFault(e: { minX: number; minY: number; maxX: number; maxY: number }): string | undefined {
  const width = e.maxX - e.minX
  const depth = e.maxY - e.minY
  if (!(width > 0 && depth > 0)) return 'is empty'
  const short = Math.min(width, depth)
  const long = Math.max(width, depth)
  const size = `is ${+width.toFixed(3)} × ${+depth.toFixed(3)} m`
  if (short < LIMITS.shortestSideM) return `${size}; each side must have at least ${LIMITS.shortestSideM} m`
  if (long > LIMITS.longestSideM) return `${size}; a side may have at most ${LIMITS.longestSideM / 1000} km`
  if (long > short * LIMITS.sideRatio) return `${size}; one side may be at most ${LIMITS.sideRatio} times the other`
  return undefined
}

interface SheetSize {
  extent: { minX: number; minY: number; maxX: number; maxY: number }
  cellM: number
}

/** Columns of a reach map of a whole sheet. */
export const columnsOf = ({ extent, cellM }: SheetSize): number =>
  Math.ceil((extent.maxX - extent.minX) / cellM) * Math.ceil((extent.maxY - extent.minY) / cellM)

function columnsFault(settings: SheetSize): string | undefined {
  const columns = columnsOf(settings)
  if (columns <= LIMITS.columns) return undefined
  const { extent } = settings
  const least = Math.sqrt(((extent.maxX - extent.minX) * (extent.maxY - extent.minY)) / LIMITS.columns)
  const million = (n: number) => `${Math.round(n / 1e6).toLocaleString('en')} million`
  return `would have ${million(columns)} reach map columns, and at most ${million(LIMITS.columns)} can be surveyed: make the columns at least ${(Math.ceil(least * 20) / 20).toFixed(2)} m wide, or the sheet smaller`
}

const settingsParts = z.strictObject({
  extent: ruled(z.strictObject({ minX: metres, minY: metres, maxX: metres, maxY: metres }), extentFault),
  gridM: positive.max(1000).default(1),
  snap: flag(true),
  /** Width of a reach map column, metres. */
  cellM: z.number().min(0.1).max(4).default(0.25),
  stepsPerSecond: z.number().int().min(5).max(240).default(30),
  seed: z.number().int().min(0).max(0x7fffffff).default(1),
  rehearseS: seconds.min(1).max(7200).default(240),
  /** How many players take part: their places are left to them. */
  players: z.number().int().min(0).max(1000).default(1),
  drivesOn: z.enum(['left', 'right']).default('left'),
  waterLevelM: metres.nullable().default(null),
  /** The profile routes are judged by that nobody follows yet; when it is null or gone, the one most in use. */
  usualProfileId: id.nullable().default(null),
  /** What a verdict turns on. */
  limits: z
    .object({
      crossTrackM: limitPair(0.5, 2),
      stuckS: limitPair(3, 10),
      lateShare: limitPair(0.25, 1),
    })
    .prefault({}),
})
export const settingsSchema = ruled(settingsParts, columnsFault)

export const groundSchema = z.strictObject({
  /** Height where no sample lies, metres. */
  baseM: metres.default(0),
  heights: ruled(
    z.strictObject({
      originX: metres,
      originY: metres,
      spacingM: positive,
      /** South to north, each row west to east, metres. Empty when the samples are those of an asset. */
      rows: z.array(z.array(metres).min(2)),
      assetId: assetHashSchema.nullable().default(null),
      /** With an asset: rows changed since, by their number from the south, such as `r17`. */
      changed: z.record(z.string().regex(/^r\d{1,5}$/), z.array(metres).min(2)).default({}),
    }),
    (h) => (h.assetId !== null || h.rows.length >= 2 ? undefined : 'needs at least two rows of samples'),
    (h) => (h.rows.every((r) => r.length === h.rows[0].length) ? undefined : 'has rows of different lengths'),
    (h) => (h.rows.length * (h.rows[0]?.length ?? 0) <= LIMITS.heightSamples ? undefined : 'has too many samples'),
  )
    .nullable()
    .default(null),
})

type All = (typeof KINDS)[number]

/** The record collections of a level: everything that has an id of its own. */
export type Collection = All['in']
type SchemaOf<C extends Collection> = Extract<All, { in: C }>['schema']
export type ThingOf<C extends Collection> = z.output<SchemaOf<C>>

type Collections = { [K in All as K['in']]: z.ZodDefault<z.ZodRecord<typeof id, K['schema']>> }

const collections = Object.fromEntries(
  (KINDS as readonly Kind[]).map((kind) => [kind.in, z.record(id, kind.schema).default({})]),
) as unknown as Collections

export const levelSchema = z.strictObject({
  format: z.literal(LEVEL_FORMAT),
  version: z.literal(LEVEL_VERSION),
  name: name.min(1, 'is empty'),
  note: text.default(''),
  settings: settingsSchema,
  ground: groundSchema.prefault({}),
  ...collections,
})

export type Level = z.output<typeof levelSchema>
export type LevelInput = z.input<typeof levelSchema>
export type Settings = Level['settings']
export type Ground = Level['ground']
