import { assetHashSchema } from '@tidytrail/core/level'
import { z } from 'zod'

/** Largest asset that is taken, bytes. */
export const MAX_ASSET_BYTES = 96 * 1024 * 1024

export const assetHeadSchema = z.object({ hash: assetHashSchema, bytes: z.number().int(), type: z.string() })
export type AssetHead = z.output<typeof assetHeadSchema>
