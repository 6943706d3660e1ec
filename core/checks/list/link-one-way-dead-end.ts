import type { Check } from '../check'
import type { Fix } from '../fix'
import { nodeLabel } from '../links'

export const linkOneWayDeadEnd: Check = {
  id: 'link.one-way-dead-end',
  stage: 'routes',
  severity: 'warning',
  sentence: 'One can get to a node and not away from it.',
  each: 'waypoints',
  run(look, id) {
    const at = look.graph.linksAt(id)
    if (at.length === 0) return []
    const links = at.map((l) => ({ id: l, ...look.level.thing('links', l)! }))
    if (links.some((l) => l.twoWay || l.fromId === id)) return []
    // A route that goes on from here leads away too.
    for (const { routeId, index } of look.graph.users(id)) {
      const route = look.level.thing('routes', routeId)!
      if (route.kind !== 'network' && (index + 1 < route.order.length || route.travel !== 'one-way')) return []
    }
    const label = nodeLabel(look, id)
    return [
      {
        subjects: [id, ...at],
        at: look.level.thing('waypoints', id)!.at,
        message: `One can get to ${label} and not away: ${links.length === 1 ? 'its link is' : `its ${links.length} links are`} one way.`,
        fix: bothWays('Let its first link lead both ways', [links[0].id]),
        ...(links.length > 1
          ? {
              ways: [
                bothWays(
                  `Let all its ${links.length} links lead both ways`,
                  links.map((l) => l.id),
                ),
              ],
            }
          : {}),
      },
    ]
  },
}

const bothWays = (label: string, ids: readonly string[]): Fix => ({
  label,
  edit: 'changeThings',
  args: { in: 'links', changes: Object.fromEntries(ids.map((l) => [l, { twoWay: true }])) },
})
