import { z } from 'zod'
import { assetHashSchema, bearing, TURNED, field, kept, name, point2 } from '../../fields'
import { defineKind } from '../kind'
import { rank } from '../rank'

/** A picture laid under the map to trace. */
export const underlaySchema = z.strictObject({
  name,
  assetId: assetHashSchema,
  opacity: field(z.number().min(0).max(1).default(0.6), {
    label: 'opacity',
    unit: '%',
    times: 100,
    step: 5,
    digits: 0,
    slider: true,
  }),
  /** Where its lower left corner lies. */
  at: field(point2, { label: ['corner, east', 'corner, north'], unit: 'm', step: 0.1, digits: 3 }),
  metresPerPixel: field(z.number().gt(0).max(10_000), { label: 'a pixel is', unit: 'm', step: 0.001, digits: 5 }),
  turnRad: field(bearing.default(0), { ...TURNED, label: 'turned' }),
  rank,
  ...kept,
})
export type Underlay = z.output<typeof underlaySchema>

export const underlay = defineKind({
  in: 'underlays',
  prefix: 'ul',
  word: 'underlay',
  schema: underlaySchema,
  stands: true,
})
