import { boxesMeet, boxOf, growBox, type Box2, type Point3 } from '@tidytrail/core/geometry'
import { surfaceThing, type Floor, type SolidShape, type Terrain } from '@tidytrail/core/ground'
import { COLLECTIONS, type Collection, type Level, type ThingOf } from '@tidytrail/core/level'
import { profileAlong, type LegPlanner } from '@tidytrail/core/network'
import { catchEnd, type CaughtEnd, type FoundPath, type PathAnswer, type ReachMap } from '@tidytrail/core/reach'
import type { Finding, Severity, Stage } from './finding'
import { RELATIONS, type Net, type Relation, type Relations } from './relations'

/** A rule a level is held against. One file each in `list/`. */
export interface Check {
  readonly id: string
  readonly stage: Stage
  readonly severity: Severity
  /** What the rule is, in a sentence for people. */
  readonly sentence: string
  /** The collection it looks at one thing of at a time. */
  readonly each: Collection
  run(look: Look, id: string): Omit<Finding, 'check' | 'stage' | 'severity'>[]
}

/** What a check may see: the level, its terrain, and the ways over each profile's reach. */
export interface CheckView {
  readonly level: Level
  readonly terrain: Terrain
  /** The floors of the terrain at a place, lowest first. */
  floorsAt(x: number, y: number): Floor[]
  plannerFor(profileId: string): LegPlanner | undefined
  /** The ways of all legs of a route; the same list while none of them changed. */
  legs(profileId: string, routeId: string): readonly PathAnswer[] | undefined
  /** Who has to do with whom; each the same object while nothing about it changed. */
  readonly relations: Relations
}

const SAME_PLACE_M = 0.05
/** Code of the water's surface among surfaces. */
export const WATER = -1_000_000_000

/** What a look may have read beside places: a change in none of these leaves it as true as it was. */
export type Source = Relation | 'reach' | 'settings' | Collection

const SOURCES: readonly Source[] = [...RELATIONS, 'reach', 'settings', ...COLLECTIONS]
const BITS = new Map(SOURCES.map((source, n) => [source, 1 << n]))
export const sourceBit = (source: Source): number => BITS.get(source)!

/**
 * The eyes of a check. Everything it is asked for is noted down, so that the runner can tell whether any of it has
 * changed since.
 */
export class Look {
  private seen: { source: number; read: (view: CheckView) => unknown; value: unknown }[] | undefined
  /** The box of all places looked at. */
  private box: Box2 | undefined
  /** Where it looked beside single things, as bits. */
  sources = 0
  /** Ids of the single things it looked at beside its own. */
  things: string[] | undefined

  constructor(
    private readonly view: CheckView,
    private readonly own: string,
  ) {}

  private note<T>(source: Source, read: (view: CheckView) => T): T {
    const value = read(this.view)
    const bit = sourceBit(source)
    this.sources |= bit
    ;(this.seen ??= []).push({ source: bit, read, value })
    return value
  }

  private noteBox(box: Box2): void {
    const b = this.box
    this.box = b
      ? {
          minX: Math.min(b.minX, box.minX),
          minY: Math.min(b.minY, box.minY),
          maxX: Math.max(b.maxX, box.maxX),
          maxY: Math.max(b.maxY, box.maxY),
        }
      : box
  }

  thing<C extends Collection>(collection: C, id: string): ThingOf<C> | undefined {
    // The runner itself watches the thing a check is about.
    if (id !== this.own) (this.things ??= []).push(id)
    return this.view.level[collection][id] as ThingOf<C> | undefined
  }

  /** All things of a collection; the check runs again whenever any of them changes. */
  all<C extends Collection>(collection: C): Level[C] {
    return this.note(collection, (v) => v.level[collection])
  }

  followers(routeId: string): readonly string[] {
    return this.note('followers', (v) => v.relations.followers.get(routeId)) ?? []
  }

  users(waypointId: string): readonly { routeId: string; index: number }[] {
    return this.note('users', (v) => v.relations.users.get(waypointId)) ?? []
  }

  /** The networks a link belongs to. */
  owners(linkId: string): readonly string[] {
    return this.note('owners', (v) => v.relations.owners.get(linkId)) ?? []
  }

  linksAt(waypointId: string): readonly string[] {
    return this.note('linksAt', (v) => v.relations.linksAt.get(waypointId)) ?? []
  }

  /** Other routes of the same name. */
  namesakes(routeId: string): readonly string[] {
    return this.note('namesakes', (v) => v.relations.namesakes.get(routeId)) ?? []
  }

  /** Other waypoints at the same place. */
  twins(waypointId: string): readonly string[] {
    return this.note('twins', (v) => v.relations.twins.get(waypointId)) ?? []
  }

  net(routeId: string): Net | undefined {
    return this.note('nets', (v) => v.relations.nets.get(routeId))
  }

  /** All networks; the check runs again whenever any of them changes. */
  nets(): ReadonlyMap<string, Net> {
    return this.note('nets', (v) => v.relations.nets)
  }

  settings(): Level['settings'] {
    return this.note('settings', (v) => v.level.settings)
  }

  /** What something can rest on at a place, lowest first: floors, and the water's surface where there is water. */
  floors(x: number, y: number): Floor[] {
    this.noteBox(growBox({ minX: x, minY: y, maxX: x, maxY: y }, SAME_PLACE_M))
    const floors = this.view.floorsAt(x, y)
    const waterM = this.note('settings', (v) => v.level.settings.waterLevelM)
    if (waterM === null) return floors
    const bed = floors.findIndex((f) => f.z < waterM && f.ceilingM > waterM)
    if (bed < 0) return floors
    const { ceilingM } = floors[bed]
    return [
      ...floors.slice(0, bed),
      { ...floors[bed], ceilingM: waterM },
      { z: waterM, ceilingM, surface: WATER },
      ...floors.slice(bed + 1),
    ]
  }

  /** The solids whose outline may meet a box. */
  solidsIn(box: Box2): readonly SolidShape[] {
    this.noteBox(box)
    const { terrain } = this.view
    return terrain.near(box).map((k) => terrain.solids[k])
  }

  /** What a surface is called, with the id of what it belongs to; undefined for the ground. */
  surface(surface: number): { id: string; name: string } | undefined {
    return surface === WATER ? { id: '', name: 'the water' } : surfaceThing(this.view.terrain, surface)
  }

  /** The reach map of a profile, to be asked about places within a distance of (x, y). */
  reach(profileId: string, [x, y]: Point3, withinM: number): ReachMap | undefined {
    this.noteBox(growBox({ minX: x, minY: y, maxX: x, maxY: y }, withinM))
    return this.note('reach', (v) => v.plannerFor(profileId)?.map)
  }

  /** The island a place is on; noted, so that a change anywhere that joins or parts islands is seen. */
  island(profileId: string, place: Point3): number | undefined {
    return this.note('reach', (v) => {
      const map = v.plannerFor(profileId)?.map
      const spot = map?.reachedAt(...place)
      return map && spot ? map.islandOf(spot) : undefined
    })
  }

  /** How many islands a profile's reach has; undefined while it has no reach map. */
  islandCount(profileId: string): number | undefined {
    return this.note('reach', (v) => v.plannerFor(profileId)?.map.islands.list.length)
  }

  /** What an end of a passage catches on the reach map of a profile. */
  caught(profileId: string, at: Point3, catchM: number): CaughtEnd | undefined {
    const map = this.reach(profileId, at, catchM + 6)
    return map && catchEnd(map, at, catchM)
  }

  /** Once through a passage, can a profile get back to where it came from by whatever way? */
  canReturn(profileId: string, passageId: string): boolean {
    return this.note('reach', (v) => {
      const planner = v.plannerFor(profileId)
      const passage = planner?.passages.find((p) => p.id === passageId)
      return !planner || !passage || planner.joins(passage.toSpot, passage.fromSpot)
    })
  }

  way(profileId: string, from: Point3, to: Point3, legs: 'found' | 'drawn'): PathAnswer | undefined {
    return this.note('reach', (v) => v.plannerFor(profileId)?.way(from, to, legs))
  }

  /** The ways of all legs of a route, in order; undefined while the profile has no reach map. */
  legs(profileId: string, routeId: string): readonly PathAnswer[] | undefined {
    return this.note('reach', (v) => v.legs(profileId, routeId))
  }

  /** The floors walked on along a way, about every so many metres. */
  heightsAlong(profileId: string, way: FoundPath, everyM: number): readonly Point3[] {
    this.noteBox(boxOf(way.line, everyM))
    const map = this.view.plannerFor(profileId)?.map
    return map ? profileAlong(map, way.line, everyM, way.uses) : way.line
  }

  /** Did it look at any place? */
  get places(): boolean {
    return this.box !== undefined
  }

  /** Did it look at a place within one of the boxes? */
  saw(changed: readonly Box2[] | 'everywhere'): boolean {
    if (!this.box) return false
    if (changed === 'everywhere') return true
    for (const box of changed) if (boxesMeet(box, this.box)) return true
    return false
  }

  /** Would reading again from the sources that changed give the same? */
  stillReads(view: CheckView, stale: number): boolean {
    if ((this.sources & stale) === 0 || !this.seen) return true
    for (const { source, read, value } of this.seen) if ((stale & source) !== 0 && read(view) !== value) return false
    return true
  }
}
