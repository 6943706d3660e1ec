import type { Check } from '../check'
import { toldBy } from '../told-by'

export const briefNoWayOut: Check = {
  id: 'brief.no-way-out',
  stage: 'cast',
  severity: 'blocker',
  sentence: 'A brief begins again before anything of it is done.',
  each: 'briefs',
  run(look, id) {
    const brief = look.level.thing('briefs', id)!
    const [first] = brief.order
    if (!first || brief.steps[first].kind !== 'again') return []
    const { subjects, at, who } = toldBy(look, id)
    const { [first]: _gone, ...steps } = brief.steps
    return [
      {
        subjects,
        at,
        message: `${brief.name} begins again before ${who} has done anything.`,
        fix: {
          label: 'Take its first step away',
          edit: 'changeThings',
          args: { in: 'briefs', changes: { [id]: { steps, order: brief.order.slice(1) } } },
        },
      },
    ]
  },
}
