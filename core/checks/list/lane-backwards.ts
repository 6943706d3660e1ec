import { placeAt } from '@tidytrail/core/traffic'
import type { Check } from '../check'

export const laneBackwards: Check = {
  id: 'lane.backwards',
  stage: 'routes',
  severity: 'warning',
  sentence: 'A lane leads against the lanes it nearly joins.',
  each: 'routes',
  run(look, id) {
    const { name, kind } = look.level.thing('routes', id)!
    const lane = kind === 'lane' ? look.lanes.lane(id) : undefined
    const all = lane ? look.lanes.backwards() : []
    if (!lane || !all.includes(id)) return []
    return [
      {
        subjects: [id],
        at: placeAt(lane.line, lane.line.lengthM / 2),
        message: `${name} leads against the lanes it nearly joins: it is drawn backwards.`,
        fix: { label: 'Turn it round', edit: 'reverseRoute', args: { routeId: id } },
        ...(all.length > 1 && {
          ways: [
            {
              label: `Turn all ${all.length} round that lead backwards`,
              edit: 'reverseRoutes',
              args: { routeIds: all },
            },
          ],
        }),
      },
    ]
  },
}
