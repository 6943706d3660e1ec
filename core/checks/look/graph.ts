import type { Net, SurveyView } from '@tidytrail/core/survey'
import { spawnersBeside } from './beside'
import type { Notes } from './notes'

/** What is read of who has to do with whom. */
export class LookAtGraph {
  constructor(private readonly notes: Notes) {}

  followers(routeId: string): readonly string[] {
    return this.notes.note('followers', (v) => v.relations.followers.get(routeId)) ?? []
  }

  /** The profiles that are told to follow a route, be it in what they have boarded. */
  bodies(routeId: string): readonly string[] {
    return this.notes.note('bodies', (v) => v.relations.bodies.get(routeId)) ?? []
  }

  /** The spawners whose agents are told by a brief, and those that are told to be in a zone. */
  told(briefId: string): readonly string[] {
    return this.notes.note('told', (v) => v.relations.told.get(briefId)) ?? []
  }
  inZone(zoneId: string): readonly string[] {
    return this.notes.note('inZone', (v) => v.relations.inZone.get(zoneId)) ?? []
  }

  /** Other spawners whose spots are so near that their agents might be in each other's way. */
  beside(spawnerId: string): readonly string[] {
    const read = (v: SurveyView) => spawnersBeside(v.level.spawners, spawnerId).join(' ')
    return this.notes
      .note('spawners', read)
      .split(' ')
      .filter((id) => id !== '')
  }

  users(waypointId: string): readonly { routeId: string; index: number }[] {
    return this.notes.note('users', (v) => v.relations.users.get(waypointId)) ?? []
  }

  /** The networks a link belongs to. */
  owners(linkId: string): readonly string[] {
    return this.notes.note('owners', (v) => v.relations.owners.get(linkId)) ?? []
  }

  linksAt(waypointId: string): readonly string[] {
    return this.notes.note('linksAt', (v) => v.relations.linksAt.get(waypointId)) ?? []
  }

  /** Other routes of the same name. */
  namesakes(routeId: string): readonly string[] {
    return this.notes.note('namesakes', (v) => v.relations.namesakes.get(routeId)) ?? []
  }

  /** Other waypoints at the same place. */
  twins(waypointId: string): readonly string[] {
    return this.notes.note('twins', (v) => v.relations.twins.get(waypointId)) ?? []
  }

  net(routeId: string): Net | undefined {
    return this.notes.note('nets', (v) => v.relations.nets.get(routeId))
  }

  /** All networks; the check runs again whenever any of them changes. */
  nets(): ReadonlyMap<string, Net> {
    return this.notes.note('nets', (v) => v.relations.nets)
  }
}
