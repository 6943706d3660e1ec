import { z } from 'zod'
import { field, flag, id, kept, length, METRES, name, points3, positive, restriction, speedLimit } from '../../fields'
import { defineKind, RESTRICTS } from '../kind'

/** Most lanes one way. */
export const MOST_LANES = 6

/** Which lane of its road one is: `a1` the first ahead, `b2` the second back, `pl` and `pr` the pavements. */
export const laneKeySchema = z.string().regex(/^([ab][1-6]|p[lr])$/, 'is not a lane of a road such as a1')

/** Most passing places a track has. */
export const MOST_PASSING = 50

const ofRoads = { when: (r: { track: boolean }) => !r.track }
const lanes = (label: string) =>
  field(z.number().int().min(0).max(MOST_LANES).default(1), { label, digits: 0, step: 0.05, ...ofRoads })

export const roadSchema = z.strictObject({
  name,
  /** Its middle, in the direction its lanes ahead lead. */
  points: points3.min(2, 'needs at least two places'),
  curve: field(z.enum(['straight', 'smooth']).default('smooth'), { label: 'line' }),
  ahead: lanes('lanes ahead'),
  back: lanes('lanes back'),
  laneM: field(positive.min(0.5).max(50).default(3.25), { ...METRES, label: 'width of a lane' }),
  /** What lies between the lanes ahead and those back. */
  medianM: field(length.max(100).default(0), { ...METRES, label: 'strip between', ...ofRoads }),
  pavementLeftM: field(length.max(50).default(0), { ...METRES, label: 'pavement left' }),
  pavementRightM: field(length.max(50).default(0), { ...METRES, label: 'pavement right' }),
  /** Both ways share one lane, but for its ends and its passing places: a lane each way then, whatever else is said. */
  track: field(flag(false), { label: 'one lane for both ways' }),
  /** Where a track is wide enough to pass each other, metres along its middle. */
  passing: z
    .array(
      z.strictObject({
        fromM: field(length, { ...METRES, label: 'passing place from' }),
        toM: field(length, { ...METRES, label: 'to' }),
      }),
    )
    .max(MOST_PASSING)
    .default([]),
  speedLimitMps: speedLimit,
  ...restriction,
  /** The routes its lanes are; null for one that was taken out of it by itself. */
  lanes: z
    .array(z.strictObject({ key: laneKeySchema, laneId: id.nullable() }))
    .max(2 * MOST_LANES + 2)
    .default([]),
  ...kept,
})
export type Road = z.output<typeof roadSchema>

/**
 * A stroke that lays lanes side by side. The lanes are routes like any other and follow the road: whatever is changed
 * of it, they are laid anew.
 */
export const road = defineKind({
  in: 'roads',
  prefix: 'rd',
  word: 'road',
  schema: roadSchema,
  refs: [{ path: 'lanes.*.laneId', to: 'routes', onLost: 'clear', stands: true, orphans: true }, RESTRICTS],
})
