import { pointsIn, stepKind, type BriefStep, type Collection } from '@tidytrail/core/level'
import { distance2, type Point3 } from '@tidytrail/core/geometry'
import type { Check, Look } from '../check'
import { toldBy } from '../told-by'

export const briefDangling: Check = {
  id: 'brief.dangling',
  stage: 'cast',
  severity: 'blocker',
  sentence: 'A step of a brief names no route, place or zone, though it is about one.',
  each: 'briefs',
  run(look, id) {
    const brief = look.level.thing('briefs', id)!
    for (const stepId of brief.order) {
      const step = brief.steps[stepId]
      const kind = stepKind(step)
      const ref = kind.refs?.find((r) => (step as Record<string, unknown>)[r.path] === null)
      if (!ref) continue
      const { subjects, at, who } = toldBy(look, id)
      const nearest = nearestOf(look, ref.to as Collection, at)
      const what = kind.word.charAt(0).toLowerCase() + kind.word.slice(1)
      const message = `${who} is told to ${what}, but none is chosen.`
      if (!nearest) return [{ subjects, at, message }]
      const named = { ...step, [ref.path]: nearest.id } as BriefStep
      const changes = { [id]: { steps: { ...brief.steps, [stepId]: named } } }
      const label = `${kind.word.split(' ')[0]} ${LEADS[ref.to] ?? ''}${nearest.name}`
      return [{ subjects, at, message, fix: { label, edit: 'changeThings', args: { in: 'briefs', changes } } }]
    }
    return []
  },
}

/** What stands between what is done and the name of what it is done with. */
const LEADS: Readonly<Record<string, string>> = { markers: 'to ', zones: 'in ' }

/** The thing of a collection whose first place is nearest to a place, that can be named by a step. */
function nearestOf(look: Look, collection: Collection, at: Point3): { id: string; name: string } | undefined {
  const waypoints = look.level.all('waypoints')
  const candidates = Object.entries(look.level.all(collection)).flatMap(([id, thing]) => {
    if (collection !== 'routes') {
      const [first] = pointsIn(collection, thing)
      return first ? [{ id, name: (thing as { name: string }).name, away: distance2(first, at) }] : []
    }
    const route = look.level.thing('routes', id)!
    if (route.kind === 'network' || route.order.length < 2) return []
    const start = waypoints[route.stops[route.order[0]].waypointId].at
    return [{ id, name: route.name, away: distance2(start, at) }]
  })
  return candidates.sort((a, b) => a.away - b.away)[0]
}
