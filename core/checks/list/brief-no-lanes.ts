import { admits, type BriefStep, type Route } from '@tidytrail/core/level'
import type { Check } from '../check'
import { toldBy } from '../told-by'

export const briefNoLanes: Check = {
  id: 'brief.no-lanes',
  stage: 'cast',
  severity: 'blocker',
  sentence:
    'A step of a brief is to walk about on lanes, and there is no lane for walking, none with its tag, or none for their profile.',
  each: 'briefs',
  run(look, id) {
    const brief = look.level.thing('briefs', id)!
    for (const stepId of brief.order) {
      const step = brief.steps[stepId]
      if (step.kind !== 'stroll') continue
      const tag = step.tag.trim()
      const { subjects, at, who, spawners } = toldBy(look, id)
      const bodies = [...new Set(spawners.flatMap(([, s]) => s.profileId ?? []))]
      const lanes = Object.values(look.level.all('routes')).filter(isForWalking)
      /** Is there one for everybody who is told? */
      const enough = (some: readonly Route[]) => some.length > 0 && bodies.every((p) => some.some((r) => admits(r, p)))
      const tagged = lanes.filter((r) => tag === '' || r.tags.includes(tag))
      if (enough(tagged)) continue
      const lacks = tagged.length > 0 ? 'none lets all of them on it' : tag === '' ? 'there is none' : 'none has it'
      const anywhere: BriefStep = { ...step, tag: '' }
      return [
        {
          subjects,
          at,
          message: `${who} is told to walk about on lanes${tag === '' ? '' : ` with the tag “${tag}”`}, and ${lacks}.`,
          ...(tag !== '' &&
            enough(lanes) && {
              fix: {
                label: 'Let them walk about on all lanes',
                edit: 'changeThings' as const,
                args: { in: 'briefs' as const, changes: { [id]: { steps: { ...brief.steps, [stepId]: anywhere } } } },
              },
            }),
        },
      ]
    }
    return []
  },
}

const isForWalking = (r: Route): boolean => r.kind === 'lane' && r.use === 'walk' && r.order.length > 1
