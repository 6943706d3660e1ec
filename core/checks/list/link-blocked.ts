import { mix3 } from '@tidytrail/core/geometry'
import type { Check } from '../check'
import { linkLabel } from '../links'
import { judgedBy, travellers } from '../travellers'
import { inTheWay } from '../ways/in-the-way'

export const linkBlocked: Check = {
  id: 'link.blocked',
  stage: 'routes',
  severity: 'blocker',
  sentence: 'A link cannot be walked: something stands in it, or there is no floor, and it is no passage.',
  each: 'links',
  run(look, id) {
    const link = look.level.thing('links', id)!
    const from = look.level.thing('waypoints', link.fromId)!
    const to = look.level.thing('waypoints', link.toId)!
    const owners = look.graph.owners(id)
    for (const profileId of new Set(owners.flatMap((r) => travellers(look, r)))) {
      const there = look.reach.path(profileId, from.at, to.at, 'drawn')
      const back = link.twoWay ? look.reach.path(profileId, to.at, from.at, 'drawn') : there
      if (!there || !back || (there.found && back.found)) continue
      const name = look.level.thing('profiles', profileId)!.name
      const oneWay = link.twoWay && (there.found || back.found)
      const barred = there.found ? back : there
      const [start, end] = there.found ? [to.at, from.at] : [from.at, to.at]
      const stopsAt = barred.found ? null : barred.stopsAt
      const why = stopsAt ? inTheWay(look, profileId, stopsAt, end) : 'nothing leads straight from one end to the other'
      return [
        {
          subjects: [id, link.fromId, link.toId],
          at: stopsAt ?? mix3(start, end, 0.5),
          message: `${name} cannot take ${linkLabel(look, link)}${oneWay ? ' one of its two ways' : ''}: ${why}.${owners.map((r) => judgedBy(look, r)).find(Boolean) ?? ''}`,
          fix:
            oneWay && there.found
              ? {
                  label: 'Make it one way',
                  edit: 'changeThings',
                  args: { in: 'links', changes: { [id]: { twoWay: false } } },
                }
              : { label: 'Delete the link', edit: 'cutLinks', args: { ids: [id] } },
        },
      ]
    }
    return []
  },
}
