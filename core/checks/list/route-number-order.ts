import type { Check } from '../check'
import { stopPlaces } from '../stops'

export const routeNumberOrder: Check = {
  id: 'route.number-order',
  stage: 'routes',
  severity: 'note',
  sentence: 'Numbers in the names of a route’s waypoints do not rise in the order they are travelled.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    if (route.kind === 'network' || route.order.length < 2) return []
    const names = route.order.map((s) => look.level.thing('waypoints', route.stops[s].waypointId)!.name)
    const parts = names.map((n) => /^(.*?)(\d+)$/.exec(n))
    if (parts.some((p) => p === null || p[1] !== parts[0]![1])) return []
    const numbers = parts.map((p) => Number(p![2]))
    const fall = numbers.findIndex((v, i) => i > 0 && v <= numbers[i - 1])
    if (fall < 0) return []
    const [stem, width] = [parts[0]![1], Math.max(...parts.map((p) => p![2].length))]
    const backwards = numbers.every((v, i) => i === 0 || v < numbers[i - 1])
    const waypoints = route.order.map((s) => route.stops[s].waypointId)
    return [
      {
        subjects: [id, waypoints[fall]],
        at: stopPlaces(look, route)[fall],
        message: backwards
          ? `${route.name} is travelled from ${names[0]} down to ${names[names.length - 1]}.`
          : `${route.name} is travelled from ${names[fall - 1]} to ${names[fall]}.`,
        fix:
          backwards && new Set(waypoints).size === waypoints.length
            ? { label: `Reverse ${route.name}`, edit: 'reverseRoute', args: { routeId: id } }
            : {
                label: 'Number them as they are travelled',
                edit: 'changeThings',
                args: {
                  in: 'waypoints',
                  changes: Object.fromEntries(
                    [...new Set(waypoints)].map((w, i) => [
                      w,
                      { name: `${stem}${String(i + 1).padStart(width, '0')}` },
                    ]),
                  ),
                },
              },
      },
    ]
  },
}
