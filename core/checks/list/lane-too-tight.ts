import { tightBend, type MeasuredLine } from '@tidytrail/core/traffic'
import type { Check } from '../check'
import { sentOn, wayName } from '../lanes'

/** Everybody may be so far beside a line, metres. */
const ROOM_M = 0.3

export const laneTooTight: Check = {
  id: 'lane.too-tight',
  stage: 'routes',
  severity: 'warning',
  sentence:
    'A lane, or the way from one into another, bends more tightly than somebody who is sent and may drive there can turn.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    const lane = route.kind === 'lane' ? look.lanes.lane(id) : undefined
    if (!lane) return []
    const sent = sentOn(look, route)
    if (sent.length === 0) return []
    const lines: { line: MeasuredLine; linkId?: string; to?: string }[] = [
      { line: lane.line },
      ...look.lanes.out(id).flatMap(({ linkId, line, to }) => (linkId === undefined ? [] : [{ line, linkId, to }])),
    ]
    return lines.flatMap(({ line, linkId, to }) => {
      for (const { name, turnM, radiusM } of sent) {
        const bend = tightBend(line, turnM, Math.max(ROOM_M, route.widthM / 2 - radiusM))
        if (!bend) continue
        return [
          {
            subjects: linkId && to ? [linkId, id, to] : [id],
            at: bend.at,
            message: `${linkId ? `From ${wayName(look, linkId)} the way` : route.name} bends with ${bend.radiusM.toFixed(1)} m, and ${name} turns no tighter than ${turnM.toFixed(1)} m.`,
          },
        ]
      }
      return []
    })
  },
}
