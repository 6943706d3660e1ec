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
    // Names without a number, and those with another word before it, stand between the others.
    const named = route.order.map((s) => {
      const { waypointId } = route.stops[s]
      const { name } = look.level.thing('waypoints', waypointId)!
      return { waypointId, name, part: /^(.*?)(\d+)$/.exec(name) }
    })
    // A place that is passed again keeps the number of its first visit.
    const again = new Set(named.filter((n, i) => named.findIndex((o) => o.waypointId === n.waypointId) < i))
    const first = named.find((n) => n.part)?.part
    const numbered = named.filter((n) => n.part && !again.has(n) && n.part[1] === first![1])
    if (numbered.length < 2) return []
    const names = numbered.map((n) => n.name)
    const parts = numbered.map((n) => n.part)
    const numbers = parts.map((p) => Number(p![2]))
    const fall = numbers.findIndex((v, i) => i > 0 && v <= numbers[i - 1])
    if (fall < 0) return []
    const [stem, width] = [parts[0]![1], Math.max(...parts.map((p) => p![2].length))]
    const backwards = numbers.every((v, i) => i === 0 || v < numbers[i - 1])
    const waypoints = numbered.map((n) => n.waypointId)
    return [
      {
        subjects: [id, waypoints[fall]],
        at: stopPlaces(look, route)[named.indexOf(numbered[fall])],
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
