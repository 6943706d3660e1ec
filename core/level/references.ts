import { LevelError } from './error'
import type { Level } from './schema'

/** One reference from a thing to another: where it stands, what it names, and where that should be. */
export interface Reference {
  at: string
  id: string
  in: 'waypoints' | 'links' | 'routes' | 'profiles' | 'factions' | 'briefs' | 'zones' | 'markers' | 'stops' | 'steps'
  found: boolean
}

/** Every reference in the level. */
export function* references(level: Level): Generator<Reference> {
  const ref = (at: string, id: string | null, where: keyof Level & Reference['in']): Reference[] =>
    id === null ? [] : [{ at, id, in: where, found: Object.hasOwn(level[where], id) }]

  for (const [id, w] of Object.entries(level.waypoints)) yield* ref(`waypoints.${id}.markerId`, w.markerId, 'markers')
  for (const [id, l] of Object.entries(level.links)) {
    yield* ref(`links.${id}.fromId`, l.fromId, 'waypoints')
    yield* ref(`links.${id}.toId`, l.toId, 'waypoints')
  }
  for (const [id, r] of Object.entries(level.routes)) {
    for (const [stopId, s] of Object.entries(r.stops)) {
      yield* ref(`routes.${id}.stops.${stopId}.waypointId`, s.waypointId, 'waypoints')
    }
    yield* ordered(`routes.${id}`, r.order, r.stops, 'stops')
    for (const [i, linkId] of r.linkIds.entries()) yield* ref(`routes.${id}.linkIds.${i}`, linkId, 'links')
  }
  for (const [id, p] of Object.entries(level.posts)) yield* ref(`posts.${id}.zoneId`, p.zoneId, 'zones')
  for (const [id, f] of Object.entries(level.factions)) {
    for (const [i, other] of f.hostileTo.entries()) yield* ref(`factions.${id}.hostileTo.${i}`, other, 'factions')
  }
  for (const [id, b] of Object.entries(level.briefs)) {
    for (const [stepId, s] of Object.entries(b.steps)) {
      if (s.kind === 'follow-route') yield* ref(`briefs.${id}.steps.${stepId}.routeId`, s.routeId, 'routes')
    }
    yield* ordered(`briefs.${id}`, b.order, b.steps, 'steps')
  }
  for (const [id, s] of Object.entries(level.spawners)) {
    yield* ref(`spawners.${id}.profileId`, s.profileId, 'profiles')
    yield* ref(`spawners.${id}.factionId`, s.factionId, 'factions')
    yield* ref(`spawners.${id}.briefId`, s.briefId, 'briefs')
  }
  for (const where of ['passages', 'reachAreas', 'covers', 'routes'] as const) {
    for (const [id, thing] of Object.entries(level[where])) {
      for (const [i, p] of thing.profileIds.entries()) yield* ref(`${where}.${id}.profileIds.${i}`, p, 'profiles')
    }
  }
  for (const [id, j] of Object.entries(level.junctions)) {
    for (const [i, lane] of j.laneIds.entries()) yield* ref(`junctions.${id}.laneIds.${i}`, lane, 'routes')
  }
}

/** An order must name each of its things exactly once. */
function* ordered(at: string, order: string[], things: object, where: 'stops' | 'steps'): Generator<Reference> {
  const seen = new Set<string>()
  for (const [i, id] of order.entries()) {
    yield { at: `${at}.order.${i}`, id, in: where, found: Object.hasOwn(things, id) && !seen.has(id) }
    seen.add(id)
  }
  for (const id of Object.keys(things)) {
    if (!seen.has(id)) yield { at: `${at}.${where}.${id}`, id, in: where, found: false }
  }
}

/** @throws LevelError naming the first reference that leads nowhere */
export function assertReferences(level: Level): void {
  for (const r of references(level)) {
    if (r.found) continue
    const why =
      r.in === 'stops' || r.in === 'steps'
        ? `${r.id} must stand exactly once among the ${r.in} and in their order`
        : `refers to ${r.id}, which is not among the ${r.in}`
    throw new LevelError('dangling-reference', r.at, why)
  }
}
