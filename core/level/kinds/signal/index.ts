import { z } from 'zod'
import { kept, name } from '../../fields'
import { defineKind } from '../kind'

/** Something one agent gives and others wait for. */
export const signalSchema = z.strictObject({ name, ...kept })
export type Signal = z.output<typeof signalSchema>

export const signal = defineKind({ in: 'signals', prefix: 'sg', word: 'signal', schema: signalSchema })
