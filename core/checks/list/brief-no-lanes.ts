import type { BriefStep } from '@tidytrail/core/level'
import type { Check } from '../check'
import { toldBy } from '../told-by'

export const briefNoLanes: Check = {
  id: 'brief.no-lanes',
  stage: 'cast',
  severity: 'blocker',
  sentence: 'A step of a brief is to walk about on lanes, and no lane for walking is there, or none with its tag.',
  each: 'briefs',
  run(look, id) {
    const brief = look.level.thing('briefs', id)!
    const lanes = () =>
      Object.values(look.level.all('routes')).filter((r) => r.kind === 'lane' && r.use === 'walk' && r.order.length > 1)
    for (const stepId of brief.order) {
      const step = brief.steps[stepId]
      if (step.kind !== 'stroll') continue
      const tag = step.tag.trim()
      const all = lanes()
      if (all.some((r) => tag === '' || r.tags.includes(tag))) continue
      const { subjects, at, who } = toldBy(look, id)
      const on = { subjects, at }
      if (all.length === 0)
        return [{ ...on, message: `${who} is told to walk about on lanes, and there is no lane for walking.` }]
      const anywhere: BriefStep = { ...step, tag: '' }
      return [
        {
          ...on,
          message: `${who} is told to walk about on lanes with the tag “${tag}”, and none has it.`,
          fix: {
            label: 'Let them walk about on all lanes',
            edit: 'changeThings',
            args: { in: 'briefs', changes: { [id]: { steps: { ...brief.steps, [stepId]: anywhere } } } },
          },
        },
      ]
    }
    return []
  },
}
