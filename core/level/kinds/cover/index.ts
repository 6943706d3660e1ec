import { z } from 'zod'
import { field, kept, name, restriction, ring } from '../../fields'
import { defineKind, RESTRICTS } from '../kind'
import { rank } from '../rank'

/** Kinds of cover the program knows; any other word is a kind of the user's own. */
export const COVER_KINDS = ['road', 'pavement', 'grass', 'mud', 'water', 'off-limits'] as const

export const coverSchema = z.strictObject({
  name,
  kind: name.min(1, 'is empty'),
  ring,
  speedFactor: field(z.number().gt(0).max(10).default(1), { label: 'speed kept', unit: '×', step: 0.01 }),
  grip: field(z.number().gt(0).max(2).default(1), { label: 'grip', unit: '×', step: 0.01 }),
  ...restriction,
  rank,
  ...kept,
})
export type Cover = z.output<typeof coverSchema>

export const cover = defineKind({
  in: 'covers',
  prefix: 'cv',
  word: 'cover',
  schema: coverSchema,
  refs: [RESTRICTS],
  stands: true,
})
