import type { Check } from '../check'
import { metres } from '../words'

export const laneOverlap: Check = {
  id: 'lane.overlap',
  stage: 'routes',
  severity: 'warning',
  sentence: 'Two lanes lie over each other for a while.',
  each: 'routes',
  run(look, id) {
    const { name, kind } = look.level.thing('routes', id)!
    if (kind !== 'lane') return []
    return look.lanes.overlaps(id).map(({ b, at, lengthM }) => ({
      subjects: [id, b],
      at,
      message: `${name} and ${look.level.thing('routes', b)!.name} lie over each other for ${metres(lengthM)}.`,
    }))
  },
}
