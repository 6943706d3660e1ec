import { z } from 'zod'

export const PATCH_TYPE = 'application/json-patch+json'
/** Request header that names a batch of edits, so that sending it twice keeps it once. */
export const EDIT_ID_HEADER = 'x-edit-id'

export const levelKeySchema = z.string().regex(/^lv_[a-z0-9]{6,32}$/, 'is not the id of a level')

/** What the shelf draws a level from. Metres. */
export const sketchSchema = z.object({
  extent: z.object({ minX: z.number(), minY: z.number(), maxX: z.number(), maxY: z.number() }),
  waterLevelM: z.number().nullable(),
  /** A coarse grid of ground heights, south to north; empty for level ground. */
  heights: z.array(z.array(z.number())),
  solids: z.array(z.array(z.tuple([z.number(), z.number()]))),
  routes: z.array(
    z.object({ kind: z.string(), closed: z.boolean(), line: z.array(z.tuple([z.number(), z.number()])) }),
  ),
})
export type LevelSketch = z.output<typeof sketchSchema>

export const levelSummarySchema = z.object({
  id: levelKeySchema,
  name: z.string(),
  revision: z.number().int(),
  createdAt: z.string(),
  changedAt: z.string(),
  counts: z.object({ routes: z.number(), waypoints: z.number(), spawners: z.number(), solids: z.number() }),
  sketch: sketchSchema,
  /** Why this program cannot open it; null when it can. */
  fault: z.string().nullable().default(null),
  /** How the rehearsal that was kept last came out; null where none was. */
  rehearsed: z
    .object({
      name: z.string(),
      revision: z.number().int(),
      keptAt: z.string(),
      follow: z.number(),
      fail: z.number(),
      trialsFail: z.number(),
    })
    .nullable()
    .default(null),
})
export type LevelSummary = z.output<typeof levelSummarySchema>

export const levelListSchema = z.object({ levels: z.array(levelSummarySchema) })

/** Make a level: a blank one, a copy of another, or from a document (imported). */
export const newLevelSchema = z.union([
  z.object({ blank: z.object({ name: z.string().min(1).max(200) }) }),
  z.object({ copyOf: levelKeySchema }),
  z.object({ document: z.unknown() }),
])

export const patchOpSchema = z.discriminatedUnion('op', [
  z.object({ op: z.literal('add'), path: z.string().max(1000), value: z.unknown() }),
  z.object({ op: z.literal('replace'), path: z.string().max(1000), value: z.unknown() }),
  z.object({ op: z.literal('remove'), path: z.string().max(1000) }),
  z.object({ op: z.literal('test'), path: z.string().max(1000), value: z.unknown() }),
  z.object({ op: z.literal('move'), path: z.string().max(1000), from: z.string().max(1000) }),
  z.object({ op: z.literal('copy'), path: z.string().max(1000), from: z.string().max(1000) }),
])
export const patchSchema = z.array(patchOpSchema).max(100_000)

/** One accepted change. */
export const revisionSchema = z.object({
  revision: z.number().int(),
  savedAt: z.string(),
  editId: z.string().nullable(),
  patch: z.array(z.unknown()),
})
export type Revision = z.output<typeof revisionSchema>
export const revisionListSchema = z.object({
  revisions: z.array(revisionSchema),
  /** Are there later ones still, to be asked for again? */
  more: z.boolean().default(false),
})

export const savedSchema = z.object({
  id: levelKeySchema,
  revision: z.number().int(),
  /**
   * What others changed between the revision the patch was made on and this one; null when that is too much to send, or
   * the patch had been kept before: it can be asked for.
   */
  others: z.array(revisionSchema).nullable().default([]),
})
export type Saved = z.output<typeof savedSchema>

export const healthSchema = z.object({ status: z.enum(['ok', 'no-database']), version: z.string() })

/** What is kept, and how much room it takes. Bytes. */
export const storageSchema = z.object({
  levels: z.object({ count: z.number().int(), bytes: z.number() }),
  history: z.object({ revisions: z.number().int(), bytes: z.number() }),
  assets: z.object({ count: z.number().int(), bytes: z.number() }),
  deleted: z.array(z.object({ id: levelKeySchema, name: z.string(), deletedAt: z.string(), goneAfter: z.string() })),
})
export type Storage = z.output<typeof storageSchema>
