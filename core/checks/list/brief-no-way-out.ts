import { missingIn, stepsOf, type BriefStep } from '@tidytrail/core/level'
import type { Check, Look } from '../check'
import { toldBy } from '../told-by'

export const briefNoWayOut: Check = {
  id: 'brief.no-way-out',
  stage: 'cast',
  severity: 'blocker',
  sentence: 'A brief begins again before anything of it is done, or a step of it can neither end nor fail.',
  each: 'briefs',
  run(look, id) {
    const brief = look.level.thing('briefs', id)!
    const [first] = stepsOf(brief)
    const { subjects, at, who } = toldBy(look, id)
    const stuck = brief.order.find((s) => brief.steps[s].failed === 'again' && missingIn(brief.steps[s]).length > 0)
    if (stuck && brief.steps[first ?? '']?.kind !== 'again') {
      const steps = { ...brief.steps, [stuck]: { ...brief.steps[stuck], failed: 'next' } as BriefStep }
      return [
        {
          subjects,
          at,
          message: `A step of ${brief.name} can neither end nor fail: it names nothing, and is to be tried again.`,
          fix: {
            label: 'Let it go on to the next step instead',
            edit: 'changeThings',
            args: { in: 'briefs', changes: { [id]: { steps } } },
          },
        },
      ]
    }
    const unheard = brief.order.find((s) => waitsForEver(look, brief.steps[s]))
    if (unheard && brief.steps[first ?? '']?.kind !== 'again') {
      const steps = { ...brief.steps, [unheard]: { ...brief.steps[unheard], limitS: 60 } as BriefStep }
      return [
        {
          subjects,
          at,
          message: `${who} waits without end for a signal nobody gives.`,
          fix: {
            label: 'Let it wait for 60 s at most',
            edit: 'changeThings',
            args: { in: 'briefs', changes: { [id]: { steps } } },
          },
        },
      ]
    }
    if (!first || brief.steps[first].kind !== 'again') return []
    const { [first]: _gone, ...steps } = brief.steps
    return [
      {
        subjects,
        at,
        message: `${brief.name} begins again before ${who} has done anything.`,
        fix: {
          label: 'Take its first step away',
          edit: 'changeThings',
          args: { in: 'briefs', changes: { [id]: { steps, order: brief.order.filter((s) => s !== first) } } },
        },
      },
    ]
  },
}

/** Does a step wait without end for what no brief gives? */
function waitsForEver(look: Look, step: BriefStep): boolean {
  if (step.kind !== 'wait-signal' || step.limitS !== null || step.signalId === null) return false
  const { signalId } = step
  return !Object.values(look.level.all('briefs')).some((b) =>
    Object.values(b.steps).some((s) => s.kind === 'give-signal' && s.signalId === signalId),
  )
}
