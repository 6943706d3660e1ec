import type { Check } from '../check'

export const routeTooFew: Check = {
  id: 'route.too-few',
  stage: 'routes',
  severity: 'blocker',
  sentence: 'A route has fewer than two stops, so there is no way to travel.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    if (route.kind === 'network' || route.order.length >= 2) return []
    const only = route.order[0] ? look.level.thing('waypoints', route.stops[route.order[0]].waypointId) : undefined
    const count = route.order.length === 0 ? 'no stops' : 'only one stop'
    const steps = Object.values(look.level.all('briefs')).flatMap((brief) =>
      Object.entries(brief.steps).flatMap(([stepId, step]) =>
        step.kind === 'follow-route' && step.routeId === id ? [stepId] : [],
      ),
    )
    return [
      {
        subjects: [id],
        at: only?.at ?? [0, 0, 0],
        message: `${route.name} has ${count}; a route needs at least two.`,
        ...(route.order.length === 0
          ? {
              fix: {
                label: `Delete ${route.name}${steps.length > 0 ? ' and the steps that follow it' : ''}`,
                edit: 'removeThings' as const,
                args: { ids: [id], parts: steps },
              },
            }
          : {}),
      },
    ]
  },
}
