import { z } from 'zod'
import { field, id, kept, METRES, name, PLACE, point3, positive, seconds } from '../../fields'
import { defineKind } from '../kind'

/** What windows are worked out for: how tall somebody there is, who watches, and how long a window is to be. */
export const watchedParts = {
  heightM: field(positive.max(20).default(1.75), { ...METRES, label: 'as tall as' }),
  /** Whose eyes count; none named, those hostile to the stand-in, and everybody where nobody is. */
  factionIds: z.array(id).max(200).default([]),
  wantedS: field(seconds.default(6), { label: 'window wanted', unit: 's', step: 0.1, digits: 1 }),
}

export const watchSpotSchema = z.strictObject({
  name,
  at: field(point3, PLACE),
  ...watchedParts,
  ...kept,
})
export type WatchSpot = z.output<typeof watchSpotSchema>

export const watchSpot = defineKind({
  in: 'watchSpots',
  prefix: 'ws',
  word: 'watch spot',
  schema: watchSpotSchema,
  refs: [{ path: 'factionIds.*', to: 'factions', onLost: 'drop' }],
  stands: true,
})
