/** What several checks of lanes and junctions say and offer. */
import type { Suggestion } from '@tidytrail/core/traffic'
import type { Look } from './check'
import { derivedId } from './derived-id'
import type { Fix } from './fix'

/** What a link from a lane into another is called. */
export function wayName(look: Look, id: string): string {
  const route = look.level.thing('routes', id)
  if (route) return route.name
  const move = look.lanes.move(id)
  const name = (laneId: string) => look.level.thing('routes', laneId)?.name ?? 'a lane'
  return move ? `${name(move.from)} into ${name(move.to)}` : 'a link'
}

export const joinLabel = (count: number, to?: string): string =>
  count > 1 ? `Join it with all ${count} lanes it nearly joins` : `Join it with ${to ?? 'the lane it nearly joins'}`

/** Makes joins that are suggested, each a link. */
export const joinsAll = (label: string, joins: readonly Suggestion[]): Fix => ({
  label,
  edit: 'addLinks',
  args: {
    links: joins.map(({ from, to, fromWaypointId, toWaypointId }) => ({
      id: derivedId('ln', from, to),
      fromId: fromWaypointId,
      toId: toWaypointId,
      twoWay: false,
    })),
  },
})
