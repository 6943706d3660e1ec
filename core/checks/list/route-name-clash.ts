import { freshName } from '@tidytrail/core/level'
import type { Check } from '../check'

export const routeNameClash: Check = {
  id: 'route.name-clash',
  stage: 'routes',
  severity: 'warning',
  sentence: 'Two routes have the same name but for capitals and blanks, so nobody can tell which is meant.',
  each: 'routes',
  run(look, id) {
    const namesakes = look.graph.namesakes(id)
    // The first of them keeps its name.
    if (namesakes.length === 0 || namesakes[0] > id) return []
    const route = look.level.thing('routes', id)!
    const first = route.order[0] ? look.level.thing('waypoints', route.stops[route.order[0]].waypointId) : undefined
    const name = freshName(look.level.all('routes'), route.name.trim())
    return [
      {
        subjects: [id, ...namesakes],
        at: first?.at ?? [0, 0, 0],
        message: `${route.name} is the name of ${namesakes.length === 1 ? 'another route' : `${namesakes.length} other routes`} too.`,
        fix: {
          label: `Call this one ${name}`,
          edit: 'changeThings',
          args: { in: 'routes', changes: { [id]: { name } } },
        },
      },
    ]
  },
}
