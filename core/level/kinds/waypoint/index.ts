import { z } from 'zod'
import { field, id, metres, name, PLACE, point3, tags } from '../../fields'
import { LIMITS } from '../../limits'
import { defineKind } from '../kind'

export const waypointSchema = z.strictObject({
  name: name.default(''),
  at: field(point3, PLACE),
  /** Height above the floor it belongs to, kept when it is settled. */
  liftM: metres.default(0),
  markerId: id.nullable().default(null),
  tags,
})
export type Waypoint = z.output<typeof waypointSchema>

export const waypoint = defineKind({
  in: 'waypoints',
  prefix: 'wp',
  word: 'waypoint',
  schema: waypointSchema,
  refs: [{ path: 'markerId', to: 'markers', onLost: 'clear' }],
  most: LIMITS.waypoints,
})
