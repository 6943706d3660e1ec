import { stepKind, type BriefStep } from '@tidytrail/core/level'
import type { Check, Look } from '../check'
import { toldBy } from '../told-by'

export const briefUnreachableStep: Check = {
  id: 'brief.unreachable-step',
  stage: 'cast',
  severity: 'warning',
  sentence: 'A step of a brief never comes about, since one before it goes on without end.',
  each: 'briefs',
  run(look, id) {
    const brief = look.level.thing('briefs', id)!
    const steps = brief.order.map((s) => brief.steps[s])
    const last = steps.findIndex((step) => goesOn(look, step))
    if (last < 0 || last === steps.length - 1) return []
    const left = brief.order.slice(0, last + 1)
    const { subjects, at } = toldBy(look, id)
    const word = stepKind(steps[last]).word
    return [
      {
        subjects,
        at,
        message: `Step ${last + 2} of ${brief.name} comes about only should step ${last + 1} fail: “${word}” has no end.`,
        fix: {
          label: `End with step ${last + 1}`,
          edit: 'changeThings',
          args: {
            in: 'briefs',
            changes: { [id]: { steps: Object.fromEntries(left.map((s) => [s, brief.steps[s]])), order: left } },
          },
        },
      },
    ]
  },
}

/** Does a step go on without end? One that names nothing fails; a route that leads one way comes to its end. */
function goesOn(look: Look, step: BriefStep): boolean {
  const kind = stepKind(step)
  if (kind.ends(step as never)) return false
  if (kind.refs?.some((r) => (step as Record<string, unknown>)[r.path] === null)) return false
  return step.kind !== 'follow-route' || look.level.thing('routes', step.routeId!)?.travel !== 'one-way'
}
