import { z } from 'zod'
import { bearing, TURNED, field, METRES, point2, positive, ring } from '../../fields'
import { defineKind } from '../kind'
import { standing } from './standing'

const sideways = { ...METRES, label: 'width', digits: 3 }
const turnRad = field(bearing.default(0), { ...TURNED, label: 'turned' })

const wedge = {
  at: point2,
  sizeX: field(positive, { ...METRES, label: 'length, uphill', digits: 3 }),
  sizeY: field(positive, sideways),
  turnRad,
}

export const solidSchema = z.discriminatedUnion('shape', [
  z.strictObject({
    shape: z.literal('box'),
    at: point2,
    sizeX: field(positive, { ...METRES, label: 'length', digits: 3 }),
    sizeY: field(positive, sideways),
    turnRad,
    ...standing,
  }),
  z.strictObject({
    shape: z.literal('cylinder'),
    at: point2,
    radiusM: field(positive, { ...METRES, label: 'radius', digits: 3 }),
    ...standing,
  }),
  z.strictObject({ shape: z.literal('prism'), ring, ...standing }),
  /** A wedge that rises along its own x axis, from its underside to its full height. */
  z.strictObject({ shape: z.literal('ramp'), ...wedge, ...standing }),
  /** A flight of equal steps that rises along its own x axis; solid down to its underside. */
  z.strictObject({
    shape: z.literal('stairs'),
    ...wedge,
    steps: field(z.number().int().min(1).max(500).default(10), { label: 'steps', step: 0.1, digits: 0 }),
    ...standing,
  }),
])
export type Solid = z.output<typeof solidSchema>

export const solid = defineKind({ in: 'solids', prefix: 'sd', word: 'solid', schema: solidSchema, stands: true })
