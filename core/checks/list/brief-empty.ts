import { newStep } from '@tidytrail/core/level'
import type { Check } from '../check'
import { toldBy } from '../told-by'

export const briefEmpty: Check = {
  id: 'brief.empty',
  stage: 'cast',
  severity: 'warning',
  sentence: 'A brief that somebody is told by says nothing.',
  each: 'briefs',
  run(look, id) {
    const brief = look.level.thing('briefs', id)!
    const { subjects, at, who } = toldBy(look, id)
    if (brief.order.length > 0 || subjects.length === 1) return []
    return [
      {
        subjects,
        at,
        message: `${who} is told by ${brief.name}, which says nothing, and stands where it appears.`,
        fix: {
          label: 'Pause, so that it is meant',
          edit: 'changeThings',
          args: { in: 'briefs', changes: { [id]: { steps: { bs_pause: newStep('pause') }, order: ['bs_pause'] } } },
        },
      },
    ]
  },
}
