/** What several checks of lanes and junctions say and offer. */
import { admits, type Profile, type Route, type Spawner } from '@tidytrail/core/level'
import type { NetLane, Suggestion } from '@tidytrail/core/traffic'
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

/** Makes a turning circle at the end of a lane, into one that leads back. */
export const turnsRound = (lane: NetLane, into: NetLane, turnM: number): Fix => ({
  label: `Turn round there into ${into.route.name}`,
  edit: 'addLinks',
  args: {
    links: [{ id: derivedId('ln', lane.id, into.id), fromId: lane.endId, toId: into.startId, twoWay: false, turnM }],
  },
})

/** Does somebody appear on a lane from a spawner? */
const feeds = (s: Spawner, id: string): boolean =>
  (s.where === 'route' && s.routeId === id) || (s.where === 'lanes' && s.laneIds.includes(id))

/** The same of all spawners of a level. */
export const isFed = (look: Look, id: string): boolean =>
  Object.values(look.level.all('spawners')).some((s) => feeds(s, id))

/** The bodies that are sent by anybody and may drive along a lane, the one that turns worst first. */
export function sentOn(look: Look, route: Route): (Profile & { readonly id: string })[] {
  const ids = new Set(
    Object.values(look.level.all('spawners')).flatMap((s) => [s.profileId, ...s.mix.map((m) => m.profileId)]),
  )
  return [...ids]
    .flatMap((id) => {
      const profile = id === null || !admits(route, id) ? undefined : look.level.thing('profiles', id)
      return profile && profile.medium === 'wheels' && profile.turnM > 0 ? [{ ...profile, id: id! }] : []
    })
    .sort((a, b) => b.turnM - a.turnM || (a.name < b.name ? -1 : 1))
}
