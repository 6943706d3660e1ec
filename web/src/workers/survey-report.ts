import { climbOf } from '@tidytrail/core/geometry'
import { CheckedSurvey, type Finding } from '@tidytrail/core/checks'
import { type Level } from '@tidytrail/core/level'
import { elevationAlong, profilesOfRoute } from '@tidytrail/core/network'
import { type PathAnswer, type ReachMap, type Tile } from '@tidytrail/core/reach'
import { ListTeller } from './list-news'
import type { ProfileReach, RoutePaths, SurveyReport, TileDrawing } from './surveyor.protocol'

/** What has been told of a profile's reach: of which version of its map, and the islands of the parts of each tile. */
interface Drawn {
  readonly map: ReachMap
  version: number
  readonly tiles: (Tile | undefined)[]
  readonly islands: (readonly number[])[]
}

/** Tells what a survey has worked out, and of all that only what is other than before. */
export class SurveyReporter {
  private readonly findings = new ListTeller<Finding>()
  private readonly drawn = new Map<string, Drawn>()
  private readonly sent = new Map<string, { profileId: string; paths: readonly PathAnswer[] }>()

  constructor(private readonly survey: CheckedSurvey) {}

  /** What is other about the reach of a profile whose map is ready, though not all of the level has been worked through. */
  ready(profileId: string): ProfileReach | undefined {
    const map = this.survey.plannerFor(profileId)?.map
    return map && this.reach(profileId, map)
  }

  /** As much of a reach as there is of a map that is being made for the first time; its islands are not told apart yet. */
  soFar(profileId: string, map: ReachMap): ProfileReach | undefined {
    const before = this.drawn.get(profileId)
    return before && before.map !== map ? undefined : this.reach(profileId, map, () => 0)
  }

  /** Tiles of a reach map that have not been told of as they are. @param islandOf the island of a part of a tile */
  private reach(profileId: string, map: ReachMap, islandOf = islandsOf(map)): ProfileReach {
    let before = this.drawn.get(profileId)
    const anew = !before || before.map !== map
    if (!before || anew) this.drawn.set(profileId, (before = { map, version: 0, tiles: [], islands: [] }))
    const tiles: Record<number, TileDrawing> = {}
    if (map.version === 0 || before.version !== map.version) {
      map.tiles.forEach((tile, k) => {
        const parts = tile.partSize.length
        const was = before.tiles[k] === tile ? before.islands[k] : undefined
        let same = was !== undefined
        for (let part = 0; part < parts && same; part++) same = was![part] === islandOf(k, part)
        if (same) return
        before.tiles[k] = tile
        before.islands[k] = Array.from({ length: parts }, (_, part) => islandOf(k, part))
        tiles[k] = {
          rings: tile.outline.rings.map((r) => ({ island: islandOf(k, r.part), z: r.z, xy: r.xy })),
          edges: tile.outline.edges,
        }
      })
      before.version = map.version
    }
    return { tiles, anew, islands: map.islands.list.slice(0, 200) }
  }

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
      profiles[id] = this.reach(id, map)
    }
    for (const id of sent.keys()) {
      if (current.routes[id]) continue
      sent.delete(id)
      routes[id] = null
    }
    for (const [id, route] of Object.entries(current.routes)) {
      if (route.kind === 'network') continue
      const profileId = profilesOfRoute(current, id).find((p) => survey.plannerFor(p))
      const paths = profileId === undefined ? undefined : survey.view?.legs(profileId, id)
      if (!paths || profileId === undefined || sent.get(id)?.paths === paths) continue
      const { map } = survey.plannerFor(profileId)!
      const climbM = paths.reduce((sum, w) => sum + (w.found ? climbOf(elevationAlong(map, w.line)) : 0), 0)
      const now: RoutePaths = { profileId, paths, climbM }
      sent.set(id, now)
      routes[id] = now
    }
    return { stamp: of, findings: this.findings.news(survey.findings), profiles, routes, tookMs }
  }
}

/** Which island each part of each tile of a finished map is on. */
const islandsOf =
  ({ islands }: ReachMap) =>
  (tile: number, part: number): number =>
    islands.ofPart[islands.partBase[tile] + part]
