import { z } from 'zod'
import { field, kept, name, PLACE, point3 } from '../../fields'
import { defineKind } from '../kind'

export const markerSchema = z.strictObject({
  name,
  at: field(point3, PLACE),
  kind: field(name.default('place'), { label: 'kind' }),
  ...kept,
})
export type Marker = z.output<typeof markerSchema>

export const marker = defineKind({ in: 'markers', prefix: 'mk', word: 'marker', schema: markerSchema, stands: true })
