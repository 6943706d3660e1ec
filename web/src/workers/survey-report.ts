import { climbOf } from '@tidytrail/core/geometry'
import { CheckedSurvey } from '@tidytrail/core/checks'
import { type Level } from '@tidytrail/core/level'
import { legsOf, legPath, elevationAlong, profilesOfRoute } from '@tidytrail/core/network'
import { type PathAnswer, type ReachMap, type Tile } from '@tidytrail/core/reach'
import type { RoutePaths, SurveyReport, TileDrawing } from './surveyor.protocol'

/** Tells what a survey has worked out, and of all that only what is other than before. */
export class SurveyReporter {
  private readonly drawn = new Map<string, { map: ReachMap; tiles: (Tile | undefined)[]; islands: string[] }>()
  private readonly sent = new Map<string, { profileId: string; paths: readonly PathAnswer[] }>()

  constructor(private readonly survey: CheckedSurvey) {}

  /** Everything that is other than what was last told. @param of the stamp of the level */
  report(current: Level, of: number, tookMs: number): SurveyReport {
    const { survey, drawn, sent } = this
    const profiles: SurveyReport['profiles'] = {}
    const routes: SurveyReport['routes'] = {}
    for (const id of Object.keys(current.profiles)) {
      const map = survey.plannerFor(id)?.map
      if (!map) {
        drawn.delete(id)
        continue
      }
      let before = drawn.get(id)
      const anew = !before || before.map !== map
      if (!before || anew) drawn.set(id, (before = { map, tiles: [], islands: [] }))
      const tiles: Record<number, TileDrawing> = {}
      map.tiles.forEach((tile, k) => {
        const base = map.islands.partBase[k]
        const islands = map.islands.ofPart.subarray(base, base + tile.partSize.length).join()
        if (before.tiles[k] === tile && before.islands[k] === islands) return
        before.tiles[k] = tile
        before.islands[k] = islands
        tiles[k] = {
          rings: tile.outline.rings.map((r) => ({ island: map.islands.ofPart[base + r.part], z: r.z, xy: r.xy })),
          edges: tile.outline.edges,
        }
      })
      profiles[id] = { tiles, anew, islands: map.islands.list.slice(0, 200) }
    }
    for (const id of sent.keys()) {
      if (current.routes[id]) continue
      sent.delete(id)
      routes[id] = null
    }
    for (const [id, route] of Object.entries(current.routes)) {
      if (route.kind === 'network') continue
      const profileId = profilesOfRoute(current, id).find((p) => survey.plannerFor(p))
      const planner = profileId === undefined ? undefined : survey.plannerFor(profileId)
      if (!planner || profileId === undefined) continue
      const paths = legsOf(route).map((leg) => legPath(planner, route, current.waypoints, leg.from, leg.to))
      const before = sent.get(id)
      if (before && before.paths.length === paths.length && before.paths.every((w, i) => w === paths[i])) continue
      const climbM = paths.reduce((sum, w) => sum + (w.found ? climbOf(elevationAlong(planner.map, w.line)) : 0), 0)
      const now: RoutePaths = { profileId, paths, climbM }
      sent.set(id, now)
      routes[id] = now
    }
    return { stamp: of, findings: survey.findings, profiles, routes, tookMs }
  }
}
