import { boxesMeet, growBox, type Box2, type Point3 } from '@tidytrail/core/geometry'
import { floorsAt, type Floor, type Terrain } from '@tidytrail/core/ground'
import type { Collection, Level, ThingOf } from '@tidytrail/core/level'
import type { LegPlanner } from '@tidytrail/core/network'
import type { PathAnswer, ReachMap } from '@tidytrail/core/reach'
import type { Finding, Severity, Stage } from './finding'

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
  plannerFor(profileId: string): LegPlanner | undefined
  /** Spawners by the route their brief names, from the whole level; the same object while no brief or spawner changed. */
  readonly followers: ReadonlyMap<string, readonly string[]>
  /** Routes by the waypoints they stop at; the same object while no route changed. */
  readonly users: ReadonlyMap<string, readonly { routeId: string; index: number }[]>
}

const SAME_PLACE_M = 0.05

/**
 * The eyes of a check. Everything it is asked for is noted down, so that the runner can tell whether any of it has
 * changed since.
 */
export class Look {
  private readonly seen: [read: (view: CheckView) => unknown, value: unknown][] = []
  private box: Box2 | undefined

  constructor(private readonly view: CheckView) {}

  private note<T>(read: (view: CheckView) => T): T {
    const value = read(this.view)
    this.seen.push([read, value])
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
    return this.note((v) => v.level[collection][id] as ThingOf<C> | undefined)
  }

  /** All things of a collection; the check runs again whenever any of them changes. */
  all<C extends Collection>(collection: C): Level[C] {
    return this.note((v) => v.level[collection])
  }

  followers(routeId: string): readonly string[] {
    return this.note((v) => v.followers.get(routeId)) ?? []
  }

  users(waypointId: string): readonly { routeId: string; index: number }[] {
    return this.note((v) => v.users.get(waypointId)) ?? []
  }

  /** The floors at a place, lowest first. */
  floors(x: number, y: number): Floor[] {
    this.noteBox(growBox({ minX: x, minY: y, maxX: x, maxY: y }, SAME_PLACE_M))
    return floorsAt(this.view.terrain, x, y)
  }

  solidName(index: number): string {
    return this.view.terrain.solids[index]?.name || 'a solid'
  }

  solidId(index: number): string | undefined {
    return this.view.terrain.solids[index]?.id
  }

  /** The reach map of a profile, to be asked about places within a distance of (x, y). */
  reach(profileId: string, [x, y]: Point3, withinM: number): ReachMap | undefined {
    this.noteBox(growBox({ minX: x, minY: y, maxX: x, maxY: y }, withinM))
    const read = (v: CheckView) => v.plannerFor(profileId)?.map
    return this.note(read)
  }

  /** The island a place is on; noted, so that a change anywhere that joins or parts islands is seen. */
  island(profileId: string, place: Point3): number | undefined {
    return this.note((v) => {
      const map = v.plannerFor(profileId)?.map
      const spot = map?.reachedAt(...place)
      return map && spot ? map.islandOf(spot) : undefined
    })
  }

  way(profileId: string, from: Point3, to: Point3, legs: 'found' | 'drawn'): PathAnswer | undefined {
    return this.note((v) => v.plannerFor(profileId)?.way(from, to, legs))
  }

  /** Would looking again see the same? */
  stillTrue(view: CheckView, changed: readonly Box2[] | 'everywhere'): boolean {
    if (this.box) {
      if (changed === 'everywhere') return false
      for (const box of changed) if (boxesMeet(box, this.box)) return false
    }
    for (const [read, value] of this.seen) if (read(view) !== value) return false
    return true
  }
}
