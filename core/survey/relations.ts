import type { Level } from '@tidytrail/core/level'
import {
  articulationPoints,
  bodiesOf,
  followersOf,
  inZoneOf,
  toldOf,
  weaklyConnected,
  stronglyConnected,
  waypointGraph,
  type Cuts,
  type Parts,
  type WaypointGraph,
} from '@tidytrail/core/network'
import { keepLists, NO_LANE_RELATIONS, relateLanes, type LaneRelations } from './lane-relations'
import { Twins } from './twins'

/** A network with what its graph says about it. */
export interface Net extends WaypointGraph {
  readonly strong: Parts
  readonly loose: Parts
  readonly cuts: Cuts
}

type Lists = ReadonlyMap<string, readonly string[]>

/** Who has to do with whom in a level, each worked out once; what comes out as before keeps its identity. */
export interface Relations extends LaneRelations {
  /** Spawners by the routes their briefs name. */
  readonly followers: Lists
  /** Profiles by the routes they are told to follow, be it in what they have boarded. */
  readonly bodies: Lists
  /** Spawners by the briefs their agents are told by, and by the zones they are told to be in. */
  readonly told: Lists
  readonly inZone: Lists
  /** Stops by the waypoints they are at. */
  readonly users: ReadonlyMap<string, readonly { routeId: string; index: number }[]>
  /** Networks by the links that belong to them. */
  readonly owners: Lists
  /** Links by the waypoints at their ends. */
  readonly linksAt: Lists
  /** Other routes of the same name, by route. */
  readonly namesakes: Lists
  /** Other waypoints at the same place, by waypoint. */
  readonly twins: Lists
  /** Networks by their route. */
  readonly nets: ReadonlyMap<string, Net>
}
export type Relation = keyof Relations
export const RELATIONS: readonly Relation[] = [
  'followers',
  'bodies',
  'told',
  'inZone',
  'users',
  'owners',
  'linksAt',
  'namesakes',
  'twins',
  'nets',
  'lanes',
  'joins',
  'joinsInto',
  'backwards',
  'overlaps',
  'pairs',
  'walked',
  'sites',
]

/** Keeps the relations of a level that is edited step by step. */
export class Relating {
  private level: Level | undefined
  private readonly twins = new Twins()
  now: Relations = {
    followers: new Map(),
    bodies: new Map(),
    told: new Map(),
    inZone: new Map(),
    users: new Map(),
    owners: new Map(),
    linksAt: new Map(),
    namesakes: new Map(),
    twins: new Map(),
    nets: new Map(),
    ...NO_LANE_RELATIONS,
  }

  /** @param moved ids of the waypoints that may have changed, where that is known */
  update(level: Level, moved: readonly string[] | undefined): Relations {
    const old = this.level
    const before = this.now
    const other = (...keys: (keyof Level)[]) => !old || keys.some((k) => old[k] !== level[k])
    const text = (a: string, b: string) => a === b
    const followers = other('spawners', 'briefs', 'squads')
      ? keepLists(before.followers, followersOf(level), text)
      : before.followers
    this.now = {
      followers,
      bodies: other('spawners', 'briefs', 'squads') ? keepLists(before.bodies, bodiesOf(level), text) : before.bodies,
      told: other('spawners', 'briefs', 'squads') ? keepLists(before.told, toldOf(level), text) : before.told,
      inZone: other('spawners', 'briefs', 'squads') ? keepLists(before.inZone, inZoneOf(level), text) : before.inZone,
      users: other('routes')
        ? keepLists(before.users, usersOf(level), (a, b) => a.routeId === b.routeId && a.index === b.index)
        : before.users,
      owners: other('routes') ? keepLists(before.owners, ownersOf(level), text) : before.owners,
      linksAt: other('links') ? keepLists(before.linksAt, linksAt(level), text) : before.linksAt,
      namesakes: other('routes') ? keepLists(before.namesakes, namesakesOf(level), text) : before.namesakes,
      twins: other('waypoints') ? this.twins.update(level.waypoints, old && moved) : before.twins,
      nets: other('routes', 'links', 'waypoints') ? netsOf(level, old, before.nets) : before.nets,
      ...relateLanes(level, old, before, followers, before.followers),
    }
    this.level = level
    return this.now
  }
}

function usersOf(level: Level): Map<string, { routeId: string; index: number }[]> {
  const users = new Map<string, { routeId: string; index: number }[]>()
  for (const [routeId, route] of Object.entries(level.routes)) {
    route.order.forEach((stopId, index) => push(users, route.stops[stopId].waypointId, { routeId, index }))
  }
  return users
}

function ownersOf(level: Level): Map<string, string[]> {
  const owners = new Map<string, string[]>()
  for (const [routeId, route] of Object.entries(level.routes)) for (const l of route.linkIds) push(owners, l, routeId)
  return owners
}

function linksAt(level: Level): Map<string, string[]> {
  const at = new Map<string, string[]>()
  for (const [id, { fromId, toId }] of Object.entries(level.links)) {
    push(at, fromId, id)
    push(at, toId, id)
  }
  return at
}

/** Names are the same when they differ only in capitals, blanks and dashes. */
const plainName = (name: string) =>
  name
    .toLowerCase()
    .replace(/[\s_-]+/g, ' ')
    .trim()

function namesakesOf(level: Level): Map<string, string[]> {
  const byName = new Map<string, string[]>()
  for (const [id, { name }] of Object.entries(level.routes)) push(byName, plainName(name), id)
  const namesakes = new Map<string, string[]>()
  for (const ids of byName.values()) {
    if (ids.length > 1) for (const id of ids) namesakes.set(id, ids.filter((other) => other !== id).sort())
  }
  return namesakes
}

function netsOf(level: Level, old: Level | undefined, before: Relations['nets']): Relations['nets'] {
  const nets = new Map<string, Net>()
  let same = true
  for (const [id, route] of Object.entries(level.routes)) {
    if (route.kind !== 'network') continue
    const known = before.get(id)
    const kept =
      known &&
      old?.routes[id] === route &&
      route.linkIds.every((l) => old.links[l] === level.links[l]) &&
      known.ids.every((w) => old.waypoints[w] === level.waypoints[w])
    if (kept) nets.set(id, known)
    else {
      const made = waypointGraph(level, { routeIds: new Set([id]) })
      const { graph } = made
      nets.set(id, {
        ...made,
        strong: stronglyConnected(graph),
        loose: weaklyConnected(graph),
        cuts: articulationPoints(graph, made.same),
      })
      same = false
    }
  }
  return same && nets.size === before.size ? before : nets
}

function push<V>(map: Map<string, V[]>, key: string, value: V): void {
  const list = map.get(key)
  if (list) list.push(value)
  else map.set(key, [value])
}
