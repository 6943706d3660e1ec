import { distanceToBox, growBox, mergeBoxes, type Box2, type Point3 } from '@tidytrail/core/geometry'
import { floorsAt, terrainChanges, terrainOf, type Floor, type Terrain } from '@tidytrail/core/ground'
import { pointerKeys, type Collection, type Level, type PatchOp, type Route } from '@tidytrail/core/level'
import { legsOf, legPath, LegPlanner, profilesInUse } from '@tidytrail/core/network'
import { ReachMap, reachSource, TileBuilder, type PathAnswer, type ReachWork } from '@tidytrail/core/reach'
import { Relating, type Relations } from './relations'
import { TileQueue, type TileAid } from './tile-queue'

/** How far an update has come. */
export interface SurveyProgress {
  readonly done: number
  readonly total: number
  /** The boxes of all tiles the update rebuilds. */
  readonly boxes: () => Box2[]
  /** The profile whose reach map has just come to its end, the others' being still under way. */
  readonly ready?: string
  /** The map that is being made for a profile, tile by tile. */
  readonly mapOf: (profileId: string) => ReachMap | undefined
}

/** All that is known of a level beside itself: its terrain, the ways over each profile's reach, who has to do with whom. */
export interface SurveyView {
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

/** Ids of a collection's things that may have changed; undefined when nobody knows. */
export type Touched = (collection: Collection) => readonly string[] | undefined

/** What has changed since somebody last asked. */
export interface SurveyChanges {
  /** Where the terrain or a reach map changed. */
  readonly where: readonly Box2[] | 'everywhere'
  /** The things that may have changed, where that is known. */
  readonly touched: Touched | undefined
}

/** A reach map an update brings up to date. */
interface MapJob {
  readonly id: string
  readonly planner: LegPlanner
  readonly work: ReachWork
  /** Is it a map of its own, and none that was known? */
  readonly fresh: boolean
  /** Tiles still to come. */
  left: number
  builder: TileBuilder | undefined
}

/** The ways of a route, and what they were looked up from. */
interface KnownLegs {
  readonly ways: readonly PathAnswer[]
  readonly planner: LegPlanner
  readonly route: Route
  waypoints: Level['waypoints']
  /** Where its stops were, in order. */
  readonly places: readonly Point3[]
  mark: LegPlanner['mark']
}

/** So few tiles are built in no particular order: all come at once. */
const FEW_TILES = 24

/** Everything worked out from a level, kept up to date edit by edit: reach maps, paths and relations. */
export class Survey {
  level: Level | undefined
  view: SurveyView | undefined
  private readonly planners = new Map<string, LegPlanner>()
  /** Changes of the terrain nobody has asked for yet. */
  private pending: Box2[] | 'everywhere' = 'everywhere'
  /** Paths of the patches nobody has asked for yet; undefined when they are not known. */
  private touched: string[] | undefined
  private readonly relating = new Relating()
  private readonly legs = new Map<string, KnownLegs>()

  /** The ways over the reach map of a profile; undefined when nobody uses it, or it does not walk. */
  plannerFor = (profileId: string): LegPlanner | undefined => this.planners.get(profileId)

  /** Profiles somebody looks at though nobody in the level has them yet. */
  also: readonly string[] = []

  /** The profile and the place that are looked at, whose tiles are built before others. */
  looked: { readonly profileId: string; readonly x: number; readonly y: number } | undefined

  /** Brings everything up to date at once. @param patch what leads here from the level of the last call, if known */
  update(level: Level, patch?: readonly PatchOp[]): void {
    for (const _ of this.updating(level, patch)) void _
  }

  /**
   * Brings everything up to date in steps of a tile each. It may be abandoned between two steps, when a newer level
   * has come; the next update then makes up for it.
   * @param aid another thread that knows just this level and builds tiles of it too
   */
  *updating(level: Level, patch?: readonly PatchOp[], aid?: TileAid): Generator<SurveyProgress> {
    if (patch && this.touched) for (const op of patch) this.touched.push(op.path)
    else this.touched = undefined
    const terrain = terrainOf(level)
    const jobs = this.plan(level)
    const queue = new TileQueue(
      jobs.flatMap((map) => map.work.tiles.map((tile) => ({ map, profileId: map.id, tile }))),
      aid,
    )
    const total = queue.left
    const boxes = () => mergeBoxes(jobs.flatMap((job) => job.work.tiles.map((k) => job.planner.map.tileBox(k))))
    const mapOf = (profileId: string) => jobs.find((job) => job.id === profileId)?.planner.map
    const progress = (ready?: string) => ({ done: total - queue.left, total, boxes, mapOf, ready })
    for (const job of jobs) if (job.left === 0) this.finish(level, job)
    for (let next = queue.next(); next; next = queue.next()) {
      const { map: job, tile } = next
      job.planner.map.buildTile((job.builder ??= new TileBuilder(job.work.source)), tile)
      queue.done(next)
      yield progress(this.countDown(level, job))
      for (const { job: came, built } of queue.come()) {
        came.map.planner.map.putTile(came.tile, built)
        const ready = this.countDown(level, came.map)
        if (ready) yield progress(ready)
      }
    }
    const before = this.view?.terrain
    if (before && before !== terrain) this.addPending(terrainChanges(before, terrain), 0)
    this.relating.update(level, this.touchedIds()?.('waypoints'))
    if (this.level && this.level.routes !== level.routes)
      for (const key of this.legs.keys()) if (!level.routes[key.split(' ')[1]]) this.legs.delete(key)
    this.level = level
    this.view = this.viewOf(level, terrain)
  }

  /** The reach maps a level needs and what is to be done about each: the one looked at first, and of each what is seen. */
  private plan(level: Level): MapJob[] {
    const { looked } = this
    const profiles = [...new Set([...profilesInUse(level), ...this.also.filter((id) => level.profiles[id])])].sort()
    for (const id of this.planners.keys()) if (!profiles.includes(id)) this.planners.delete(id)
    if (looked && profiles.includes(looked.profileId)) {
      profiles.splice(profiles.indexOf(looked.profileId), 1)
      profiles.unshift(looked.profileId)
    }
    return profiles.map((id) => {
      const source = reachSource(level, id)
      const known = this.planners.get(id)
      const keptWork = known?.map.planFor(source)
      const planner = known && keptWork ? known : new LegPlanner(new ReachMap(source))
      const work = keptWork ?? planner.map.planFor(source)!
      if (looked && work.tiles.length > FEW_TILES) {
        const away = new Map(work.tiles.map((k) => [k, distanceToBox(planner.map.tileBox(k), looked.x, looked.y)]))
        work.tiles.sort((a, b) => away.get(a)! - away.get(b)! || a - b)
      }
      return { id, planner, work, fresh: planner !== known, left: work.tiles.length, builder: undefined }
    })
  }

  /** One more tile of a map is there. @returns the profile, when it was the last */
  private countDown(level: Level, job: MapJob): string | undefined {
    if (--job.left > 0) return undefined
    this.finish(level, job)
    return job.id
  }

  /** All tiles of a map are there: it answers for the new level. */
  private finish(level: Level, { id, planner, work, fresh }: MapJob): void {
    const margin = work.source.radiusM + 3 * work.source.cellM
    planner.map.finish(work)
    if (work.changed === 'everywhere') planner.forget('everywhere')
    else planner.forget(mergeBoxes(work.changed.map((b) => growBox(b, margin))))
    if (fresh) this.pending = 'everywhere'
    else this.addPending(work.changed, margin)
    this.planners.set(id, planner)
    this.addPending(planner.usePassages(level.passages, id, level.profiles[id]), 0)
  }

  /** What brings back the reach maps that are known now, where others have taken their place. */
  protected remember(): () => void {
    const planners = [...this.planners]
    return () => {
      this.planners.clear()
      for (const [id, planner] of planners) this.planners.set(id, planner)
    }
  }

  /** What has changed since this was last asked. */
  takeChanges(): SurveyChanges {
    const changes = { where: this.pending, touched: this.touchedIds() }
    this.pending = []
    this.touched = []
    return changes
  }

  /** Reads from the paths of the patches since the last run which things they touched. */
  private touchedIds(): Touched | undefined {
    const { touched } = this
    if (!touched) return undefined
    return (collection) => {
      const ids = new Set<string>()
      for (const path of touched) {
        const [top, id] = pointerKeys(path)
        if (top === undefined || (top === collection && id === undefined)) return undefined
        if (top === collection) ids.add(id)
      }
      return [...ids]
    }
  }

  private viewOf(level: Level, terrain: Terrain): SurveyView {
    // Many look at the same places one after the other; until the next update it is remembered what is there.
    const known = new Map<number, Map<number, Floor[]>>()
    const remembered = (x: number, y: number): Floor[] => {
      let row = known.get(x)
      if (!row) known.set(x, (row = new Map()))
      let floors = row.get(y)
      if (!floors) row.set(y, (floors = floorsAt(terrain, x, y)))
      return floors
    }
    return {
      level,
      terrain,
      floorsAt: remembered,
      plannerFor: this.plannerFor,
      legs: this.legsIn(level),
      relations: this.relating.now,
    }
  }

  /** Ways of whole routes, each looked up once a run; a list that comes out the same is kept. */
  private legsIn(level: Level): SurveyView['legs'] {
    const seen = new Set<string>()
    return (profileId, routeId) => {
      const key = `${profileId} ${routeId}`
      const planner = this.planners.get(profileId)
      const route = level.routes[routeId]
      const before = this.legs.get(key)
      if (seen.has(key)) return before?.ways
      seen.add(key)
      if (!planner || !route) {
        this.legs.delete(key)
        return undefined
      }
      const { waypoints } = level
      const { mark } = planner
      if (before?.planner === planner && before.route === route && planner.hasKept(before.mark, before.ways)) {
        const { order, stops } = route
        const stay = (at: Point3, i: number) => waypoints[stops[order[i]].waypointId].at === at
        if (before.waypoints === waypoints || before.places.every(stay)) {
          before.waypoints = waypoints
          before.mark = mark
          return before.ways
        }
      }
      const now = legsOf(route).map((leg) => legPath(planner, route, waypoints, leg.from, leg.to))
      const same = before && before.ways.length === now.length && before.ways.every((path, i) => path === now[i])
      const ways = same ? before.ways : now
      const places = route.order.map((s) => waypoints[route.stops[s].waypointId].at)
      this.legs.set(key, { ways, planner, route, waypoints, places, mark })
      return ways
    }
  }

  private addPending(changed: readonly Box2[] | 'everywhere', margin: number): void {
    if (changed === 'everywhere' || this.pending === 'everywhere') this.pending = 'everywhere'
    else this.pending = mergeBoxes([...this.pending, ...changed.map((b) => growBox(b, margin))])
  }
}
