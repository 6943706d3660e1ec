import { growBox, type Box2 } from '@tidytrail/core/geometry'
import { terrainChanges, terrainOf, type Terrain } from '@tidytrail/core/ground'
import type { Level } from '@tidytrail/core/level'
import { LegPlanner, profilesInUse } from '@tidytrail/core/network'
import { ReachMap, reachSource, TileBuilder } from '@tidytrail/core/reach'
import type { CheckView } from './check'
import type { Finding } from './finding'
import { CheckRunner } from './runner'

/** How far an update has come. */
export interface SurveyProgress {
  readonly done: number
  readonly total: number
}

/** Everything worked out from a level, kept up to date edit by edit: reach maps, ways and findings. */
export class Survey {
  level: Level | undefined
  findings: readonly Finding[] = []
  private readonly planners = new Map<string, LegPlanner>()
  private readonly runner = new CheckRunner()
  private terrain: Terrain | undefined
  /** Changes of the terrain no checks have run for yet. */
  private pending: Box2[] | 'everywhere' = 'everywhere'
  private followers: CheckView['followers'] = new Map()
  private users: CheckView['users'] = new Map()

  /** The ways over the reach map of a profile; undefined when nobody uses it, or it does not walk. */
  plannerFor = (profileId: string): LegPlanner | undefined => this.planners.get(profileId)

  /** Brings everything up to date at once. */
  update(level: Level): readonly Finding[] {
    for (const _ of this.updating(level)) void _
    return this.findings
  }

  /**
   * Brings everything up to date in steps of a tile each. It may be abandoned between two steps, when a newer level
   * has come; the next update then makes up for it.
   */
  *updating(level: Level): Generator<SurveyProgress> {
    const terrain = terrainOf(level)
    const profiles = profilesInUse(level)
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
    for (const { planner, work } of jobs) {
      if (work.tiles.length === 0) continue
      const builder = new TileBuilder(work.source)
      for (const k of work.tiles) {
        planner.map.buildTile(builder, k)
        yield { done: ++done, total }
      }
    }
    for (const { id, planner, work, fresh } of jobs) {
      const changed = fresh ? 'everywhere' : terrainChanges(planner.map.source.terrain, work.source.terrain)
      planner.map.finish(work)
      if (changed === 'everywhere') planner.forget('everywhere')
      else {
        const margin = work.source.radiusM + 3 * work.source.cellM
        planner.forget(changed.map((b) => growBox(b, margin)))
      }
      if (fresh) this.pending = 'everywhere'
      else this.addPending(changed, work.source.radiusM + 3 * work.source.cellM)
      this.planners.set(id, planner)
    }
    if (this.terrain && this.terrain !== terrain) this.addPending(terrainChanges(this.terrain, terrain), 0)
    this.terrain = terrain
    this.relate(level)
    this.level = level
    const view: CheckView = {
      level,
      terrain,
      plannerFor: this.plannerFor,
      followers: this.followers,
      users: this.users,
    }
    this.findings = this.runner.run(view, this.pending)
    this.pending = []
  }

  private addPending(changed: Box2[] | 'everywhere', margin: number): void {
    if (changed === 'everywhere' || this.pending === 'everywhere') this.pending = 'everywhere'
    else this.pending.push(...changed.map((b) => growBox(b, margin)))
  }

  /** Works out who follows and uses what; entries that come out the same keep their identity. */
  private relate(level: Level): void {
    const before = this.level
    if (!before || before.spawners !== level.spawners || before.briefs !== level.briefs) {
      const followers = new Map<string, string[]>()
      for (const id of Object.keys(level.spawners).sort()) {
        const brief = level.briefs[level.spawners[id].briefId ?? '']
        for (const stepId of brief?.order ?? []) {
          const step = brief.steps[stepId]
          if (step.kind === 'follow-route' && step.routeId) push(followers, step.routeId, id)
        }
      }
      this.followers = keepEqual(this.followers, followers, (a, b) => a === b)
    }
    if (!before || before.routes !== level.routes) {
      const users = new Map<string, { routeId: string; index: number }[]>()
      for (const [routeId, route] of Object.entries(level.routes)) {
        route.order.forEach((stopId, index) => push(users, route.stops[stopId].waypointId, { routeId, index }))
      }
      this.users = keepEqual(this.users, users, (a, b) => a.routeId === b.routeId && a.index === b.index)
    }
  }
}

function push<V>(map: Map<string, V[]>, key: string, value: V): void {
  const list = map.get(key)
  if (list) list.push(value)
  else map.set(key, [value])
}

/** The new lists, but with the old object wherever a list came out the same. */
function keepEqual<V>(
  before: ReadonlyMap<string, readonly V[]>,
  after: Map<string, V[]>,
  same: (a: V, b: V) => boolean,
): ReadonlyMap<string, readonly V[]> {
  const out = new Map<string, readonly V[]>()
  for (const [key, list] of after) {
    const old = before.get(key)
    out.set(key, old && old.length === list.length && old.every((v, i) => same(v, list[i])) ? old : list)
  }
  return out
}
