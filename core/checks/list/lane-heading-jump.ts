import { degrees } from '@tidytrail/core/geometry'
import type { Check } from '../check'

/** Where one lane becomes another at one place, it may turn by no more than this, radians. */
const MOST_RAD = 0.35

export const laneHeadingJump: Check = {
  id: 'lane.heading-jump',
  stage: 'routes',
  severity: 'warning',
  sentence:
    'A lane goes on into another at one place and in another direction, so that whoever drives would have to turn on the spot.',
  each: 'routes',
  run(look, id) {
    const { name, kind } = look.level.thing('routes', id)!
    if (kind !== 'lane' || !look.lanes.lane(id)) return []
    return look.lanes
      .out(id)
      .filter((m) => m.linkId === undefined && Math.abs(m.turnRad) > MOST_RAD)
      .map((m) => ({
        subjects: [id, m.to],
        at: m.line.places[0],
        message: `From ${name} into ${look.level.thing('routes', m.to)!.name} the direction jumps by ${Math.round(degrees(Math.abs(m.turnRad)))}° at one place.`,
      }))
  },
}
