import type { Check } from '../check'
import { linkLabel } from '../links'

export const linkMissingReturn: Check = {
  id: 'link.missing-return',
  stage: 'routes',
  severity: 'warning',
  sentence: 'A one-way link leads where nothing comes back from.',
  each: 'links',
  run(look, id) {
    const link = look.level.thing('links', id)!
    if (link.twoWay) return []
    for (const routeId of look.graph.owners(id)) {
      const net = look.graph.net(routeId)
      const from = net?.nodeOf.get(link.fromId)
      const to = net?.nodeOf.get(link.toId)
      if (!net || from === undefined || to === undefined || net.strong.of[from] === net.strong.of[to]) continue
      // A dead end is a finding of its own.
      if (net.graph.first[to + 1] === net.graph.first[to]) continue
      const label = linkLabel(look, link)
      return [
        {
          subjects: [id, link.fromId, link.toId],
          at: look.level.thing('waypoints', link.toId)!.at,
          message: `${label.charAt(0).toUpperCase()}${label.slice(1)} is one way, and no other way in ${look.level.thing('routes', routeId)!.name} leads back.`,
          fix: {
            label: 'Add the way back',
            edit: 'changeThings',
            args: { in: 'links', changes: { [id]: { twoWay: true } } },
          },
        },
      ]
    }
    return []
  },
}
