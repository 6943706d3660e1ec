import { newStep } from '@tidytrail/core/level'
import type { Check } from '../check'
import { derivedId } from '../derived-id'
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
    const stepId = derivedId('bs', id, 'pause')
    if (brief.order.length > 0 || brief.whens.length > 0 || subjects.length === 1) return []
    return [
      {
        subjects,
        at,
        message: `${who} is told by ${brief.name}, which says nothing, and stands where it appears.`,
        fix: {
          label: 'Pause, so that it is meant',
          edit: 'changeThings',
          args: { in: 'briefs', changes: { [id]: { steps: { [stepId]: newStep('pause') }, order: [stepId] } } },
        },
      },
    ]
  },
}
