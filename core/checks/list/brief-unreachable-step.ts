import { missingIn, stepKind, stepsOf, type BriefStep } from '@tidytrail/core/level'
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
    for (const whenId of [null, ...brief.whens.map((w) => w.id)]) {
      const order = stepsOf(brief, whenId)
      const last = order.findIndex((s) => goesOn(look, brief.steps[s]))
      if (last < 0 || last === order.length - 1) continue
      const gone = new Set(order.slice(last + 1))
      const left = brief.order.filter((s) => !gone.has(s))
      const { subjects, at } = toldBy(look, id)
      const word = stepKind(brief.steps[order[last]]).word
      const of = whenId === null ? brief.name : `a standing sentence of ${brief.name}`
      return [
        {
          subjects,
          at,
          message: `Step ${last + 2} of ${of} comes about only should step ${last + 1} fail: “${word}” has no end.`,
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
    }
    return []
  },
}

/** Does a step go on without end? One that names nothing fails; a route that leads one way comes to its end. */
function goesOn(look: Look, step: BriefStep): boolean {
  const kind = stepKind(step)
  if (kind.ends(step as never)) return false
  if (missingIn(step).length > 0) return false
  return step.kind !== 'follow-route' || look.level.thing('routes', step.routeId!)?.travel !== 'one-way'
}
