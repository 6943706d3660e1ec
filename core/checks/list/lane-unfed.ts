import type { Check } from '../check'
import { isFed, joinsAll, joinLabel } from '../lanes'

export const laneUnfed: Check = {
  id: 'lane.unfed',
  stage: 'routes',
  severity: 'note',
  sentence: 'No lane leads into a lane, and nobody appears on it or is told to follow it.',
  each: 'routes',
  run(look, id) {
    const { name, kind } = look.level.thing('routes', id)!
    const lane = kind === 'lane' ? look.lanes.lane(id) : undefined
    if (!lane || look.lanes.into(id).length > 0 || look.graph.followers(id).length > 0) return []
    if (isFed(look, id)) return []
    if (look.lanes.backwards().includes(id)) return []
    const joins = look.lanes.joinsInto(id)
    // One that another would go straight on into is told of at that one.
    if (joins.some((s) => s.goesOn)) return []
    return [
      {
        subjects: [id],
        at: look.level.thing('waypoints', lane.startId)!.at,
        message: `No lane leads into ${name}, and nobody appears on it.`,
        ...(joins.length > 0 && { fix: joinsAll(joinLabel(joins.length), joins) }),
      },
    ]
  },
}
