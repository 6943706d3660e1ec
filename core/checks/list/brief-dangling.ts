import { distance2, type Point3 } from '@tidytrail/core/geometry'
import type { Check } from '../check'

export const briefDangling: Check = {
  id: 'brief.dangling',
  stage: 'cast',
  severity: 'blocker',
  sentence: 'A brief tells its agents to follow a route, but names none.',
  each: 'briefs',
  run(look, id) {
    const brief = look.level.thing('briefs', id)!
    const stepId = brief.order.find((s) => {
      const step = brief.steps[s]
      return step.kind === 'follow-route' && step.routeId === null
    })
    if (!stepId) return []
    const spawners = Object.entries(look.level.all('spawners')).filter(([, s]) => s.briefId === id)
    const at: Point3 = spawners[0]?.[1].at ?? [0, 0, 0]
    const who = spawners.length > 0 ? spawners.map(([, s]) => s.name).join(', ') : brief.name
    const waypoints = look.level.all('waypoints')
    const start = (r: { order: string[]; stops: Record<string, { waypointId: string }> }) =>
      waypoints[r.stops[r.order[0]].waypointId].at
    const nearest = Object.entries(look.level.all('routes'))
      .filter(([, r]) => r.kind !== 'network' && r.order.length >= 2)
      .sort(([, a], [, b]) => distance2(start(a), at) - distance2(start(b), at))[0]
    const step = brief.steps[stepId]
    return [
      {
        subjects: [id, ...spawners.map(([s]) => s)],
        at,
        message: `${who} is told to follow a route, but none is chosen.`,
        ...(nearest
          ? {
              fix: {
                label: `Follow ${nearest[1].name}`,
                edit: 'changeThings' as const,
                args: {
                  in: 'briefs' as const,
                  changes: {
                    [id]: { steps: { ...brief.steps, [stepId]: { ...step, routeId: nearest[0] } as typeof step } },
                  },
                },
              },
            }
          : {}),
      },
    ]
  },
}
