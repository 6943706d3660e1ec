import { defineEdit } from '../edit'
import { collectionOf, type Collection, type ThingOf } from '../kinds'
import type { Level } from '../schema'

/** One word for a thing of each collection. */
export const THING_WORD: Record<Collection, string> = {
  solids: 'solid',
  meshes: 'mesh',
  underlays: 'underlay',
  covers: 'cover',
  reachAreas: 'reach area',
  profiles: 'profile',
  passages: 'passage',
  waypoints: 'waypoint',
  links: 'link',
  routes: 'route',
  junctions: 'junction',
  markers: 'marker',
  zones: 'zone',
  posts: 'post',
  factions: 'faction',
  briefs: 'brief',
  spawners: 'spawner',
  waivers: 'waiver',
}

/** What a thing is called: its name where it has one, otherwise its kind. */
export function nameOf(level: Level, id: string): string {
  const collection = collectionOf(level, id)
  if (!collection) return id
  const thing = level[collection][id] as { name?: string }
  return thing.name?.trim() || THING_WORD[collection]
}

type AddArgs = { [C in Collection]: { in: C; id: string; thing: ThingOf<C> } }[Collection]

/** Put a new thing into its collection. */
export const addThing = defineEdit<AddArgs>(
  (_level, { in: collection }) => `Add a ${THING_WORD[collection]}`,
  (draft, { in: collection, id, thing }) => {
    ;(draft[collection] as Record<string, unknown>)[id] = thing
  },
)

type ChangeArgs = {
  [C in Collection]: { in: C; changes: Record<string, Partial<ThingOf<C>>> }
}[Collection]

/** Set some properties of one or many things of a collection. Ids that no longer exist are passed over. */
export const changeThings = defineEdit<ChangeArgs>(
  (level, { in: collection, changes }) => {
    const ids = Object.keys(changes)
    return ids.length === 1 ? `Change ${nameOf(level, ids[0])}` : `Change ${ids.length} ${THING_WORD[collection]}s`
  },
  (draft, { in: collection, changes }) => {
    const things = draft[collection] as Record<string, object>
    for (const [id, set] of Object.entries(changes)) if (things[id]) Object.assign(things[id], set)
  },
)

/**
 * Take things out, of whatever kind. What referred to them is told: a brief that followed a removed route keeps its
 * step with no route in it, and waypoints and links that only a removed route used go with it.
 */
export const removeThings = defineEdit<{ ids: string[] }>(
  (level, { ids }) => (ids.length === 1 ? `Delete ${nameOf(level, ids[0])}` : `Delete ${ids.length} things`),
  (draft, { ids }) => {
    const gone = new Set(ids)
    const candidates = new Set<string>()
    for (const id of ids) {
      const route = draft.routes[id]
      if (!route) continue
      for (const stop of Object.values(route.stops)) candidates.add(stop.waypointId)
      const elsewhere = new Set(Object.entries(draft.routes).flatMap(([r, o]) => (gone.has(r) ? [] : o.linkIds)))
      for (const linkId of route.linkIds) {
        if (elsewhere.has(linkId)) continue
        gone.add(linkId)
        delete draft.links[linkId]
      }
    }
    for (const id of ids) {
      const collection = collectionOf(draft as Level, id)
      if (collection) delete (draft[collection] as Record<string, unknown>)[id]
    }
    for (const route of Object.values(draft.routes)) {
      const lost = Object.keys(route.stops).filter((s) => gone.has(route.stops[s].waypointId))
      for (const stopId of lost) delete route.stops[stopId]
      if (lost.length > 0) route.order = route.order.filter((s) => !lost.includes(s))
    }
    const used = new Set<string>()
    for (const route of Object.values(draft.routes)) {
      for (const stop of Object.values(route.stops)) used.add(stop.waypointId)
    }
    for (const link of Object.values(draft.links)) {
      used.add(link.fromId)
      used.add(link.toId)
    }
    for (const waypointId of candidates) {
      if (used.has(waypointId)) continue
      gone.add(waypointId)
      delete draft.waypoints[waypointId]
    }
    for (const [id, link] of Object.entries(draft.links)) {
      if (!gone.has(link.fromId) && !gone.has(link.toId)) continue
      gone.add(id)
      delete draft.links[id]
    }
    for (const waypoint of Object.values(draft.waypoints)) {
      if (waypoint.markerId && gone.has(waypoint.markerId)) waypoint.markerId = null
    }
    for (const route of Object.values(draft.routes)) {
      if (route.linkIds.some((l) => gone.has(l))) route.linkIds = route.linkIds.filter((l) => !gone.has(l))
    }
    for (const post of Object.values(draft.posts)) if (post.zoneId && gone.has(post.zoneId)) post.zoneId = null
    for (const faction of Object.values(draft.factions)) {
      if (faction.hostileTo.some((f) => gone.has(f))) faction.hostileTo = faction.hostileTo.filter((f) => !gone.has(f))
    }
    for (const spawner of Object.values(draft.spawners)) {
      if (spawner.profileId && gone.has(spawner.profileId)) spawner.profileId = null
      if (spawner.factionId && gone.has(spawner.factionId)) spawner.factionId = null
      if (spawner.briefId && gone.has(spawner.briefId)) spawner.briefId = null
    }
    for (const brief of Object.values(draft.briefs)) {
      for (const step of Object.values(brief.steps)) {
        if (step.kind === 'follow-route' && step.routeId && gone.has(step.routeId)) step.routeId = null
      }
    }
    for (const thing of [
      ...Object.values(draft.passages),
      ...Object.values(draft.reachAreas),
      ...Object.values(draft.covers),
      ...Object.values(draft.routes),
    ]) {
      if (thing.profileIds.some((p) => gone.has(p))) thing.profileIds = thing.profileIds.filter((p) => !gone.has(p))
    }
    for (const junction of Object.values(draft.junctions)) {
      if (junction.laneIds.some((l) => gone.has(l))) junction.laneIds = junction.laneIds.filter((l) => !gone.has(l))
    }
  },
)
