import { growBox, mergeBoxes, type Box2 } from '@tidytrail/core/geometry'
import { floorsAt, terrainChanges, terrainOf, type Floor, type Terrain } from '@tidytrail/core/ground'
import { pointerKeys, type Collection, type Level, type PatchOp } from '@tidytrail/core/level'
import { legsOf, legPath, LegPlanner, profilesInUse } from '@tidytrail/core/network'
import { ReachMap, reachSource, TileBuilder, type PathAnswer } from '@tidytrail/core/reach'
import { Relating, type Relations } from './relations'

/** How far an update has come. */
export interface SurveyProgress {
  readonly done: number
  readonly total: number
  /** The boxes of all tiles the update rebuilds. */
  readonly boxes: () => Box2[]
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
  private readonly legs = new Map<string, readonly PathAnswer[]>()

  /** The ways over the reach map of a profile; undefined when nobody uses it, or it does not walk. */
  plannerFor = (profileId: string): LegPlanner | undefined => this.planners.get(profileId)

  /** Profiles somebody looks at though nobody in the level has them yet. */
  also: readonly string[] = []

  /** Brings everything up to date at once. @param patch what leads here from the level of the last call, if known */
  update(level: Level, patch?: readonly PatchOp[]): void {
    for (const _ of this.updating(level, patch)) void _
  }

  /**
   * Brings everything up to date in steps of a tile each. It may be abandoned between two steps, when a newer level
   * has come; the next update then makes up for it.
   */
  *updating(level: Level, patch?: readonly PatchOp[]): Generator<SurveyProgress> {
    if (patch && this.touched) for (const op of patch) this.touched.push(op.path)
    else this.touched = undefined
    const terrain = terrainOf(level)
    const profiles = [...new Set([...profilesInUse(level), ...this.also.filter((id) => level.profiles[id])])].sort()
    for (const id of this.planners.keys()) if (!profiles.includes(id)) this.planners.delete(id)
    const jobs = profiles.map((id) => {
      const source = reachSource(level, id)
      const known = this.planners.get(id)
      const work = known?.map.planFor(source)
      if (known && work) return { id, planner: known, work, fresh: false }
      const planner = new LegPlanner(new ReachMap(source))
      return { id, planner, work: planner.map.planFor(source)!, fresh: true }
    })
    const total = jobs.reduce((n, job) => n + job.work.tiles.length, 0)
    let done = 0
    const boxes = () => mergeBoxes(jobs.flatMap((job) => job.work.tiles.map((k) => job.planner.map.tileBox(k))))
    for (const { planner, work } of jobs) {
      if (work.tiles.length === 0) continue
      const builder = new TileBuilder(work.source)
      for (const k of work.tiles) {
        planner.map.buildTile(builder, k)
        yield { done: ++done, total, boxes }
      }
    }
    for (const { id, planner, work, fresh } of jobs) {
      const { changed } = work
      planner.map.finish(work)
      if (changed === 'everywhere') planner.forget('everywhere')
      else {
        const margin = work.source.radiusM + 3 * work.source.cellM
        planner.forget(mergeBoxes(changed.map((b) => growBox(b, margin))))
      }
      if (fresh) this.pending = 'everywhere'
      else this.addPending(changed, work.source.radiusM + 3 * work.source.cellM)
      this.planners.set(id, planner)
    }
    for (const [id, planner] of this.planners) {
      this.addPending(planner.usePassages(level.passages, id, level.profiles[id]), 0)
    }
    const before = this.view?.terrain
    if (before && before !== terrain) this.addPending(terrainChanges(before, terrain), 0)
    this.relating.update(level, this.touchedIds()?.('waypoints'))
    this.level = level
    this.view = this.viewOf(level, terrain)
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

  /** Ways of whole routes, each worked out once a run; a list that comes out the same is kept. */
  private legsIn(level: Level): SurveyView['legs'] {
    const seen = new Set<string>()
    return (profileId, routeId) => {
      const key = `${profileId} ${routeId}`
      const planner = this.planners.get(profileId)
      const route = level.routes[routeId]
      const before = this.legs.get(key)
      if (seen.has(key)) return before
      seen.add(key)
      if (!planner || !route) {
        this.legs.delete(key)
        return undefined
      }
      const now = legsOf(route).map((leg) => legPath(planner, route, level.waypoints, leg.from, leg.to))
      if (before && before.length === now.length && before.every((path, i) => path === now[i])) return before
      this.legs.set(key, now)
      return now
    }
  }

  private addPending(changed: readonly Box2[] | 'everywhere', margin: number): void {
    if (changed === 'everywhere' || this.pending === 'everywhere') this.pending = 'everywhere'
    else this.pending = mergeBoxes([...this.pending, ...changed.map((b) => growBox(b, margin))])
  }
}
