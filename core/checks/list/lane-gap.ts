import type { Check } from '../check'
import { joinsAll, joinLabel } from '../lanes'
import { metres } from '../words'

/** Ends nearer than this are at one place, metres. */
const AT_ONE_PLACE_M = 0.05

export const laneGap: Check = {
  id: 'lane.gap',
  stage: 'routes',
  severity: 'warning',
  sentence: 'A lane ends just before another that goes straight on, and nothing joins the two.',
  each: 'routes',
  run(look, id) {
    const { name, kind } = look.level.thing('routes', id)!
    const lane = kind === 'lane' ? look.lanes.lane(id) : undefined
    if (!lane || look.lanes.out(id).length > 0) return []
    const [next] = look.lanes.joins(id).filter((s) => s.goesOn)
    if (!next || look.lanes.backwards().some((l) => l === id || l === next.to)) return []
    const to = look.level.thing('routes', next.to)!
    return [
      {
        subjects: [id, next.to],
        at: look.level.thing('waypoints', lane.endId)!.at,
        message: `${name} ends ${next.gapM < AT_ONE_PLACE_M ? 'where' : `${metres(next.gapM)} before`} ${to.name} begins, and nothing joins them.`,
        fix: joinsAll(joinLabel(1, to.name), [next]),
      },
    ]
  },
}
