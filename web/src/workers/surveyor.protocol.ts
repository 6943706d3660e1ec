import type { Finding, Fix } from '@tidytrail/core/checks'
import type { Box2, Point3 } from '@tidytrail/core/geometry'
import type { Level, PatchOp, Route } from '@tidytrail/core/level'
import type { Elevation, GraphEdge, RouteMeasures, TimeField } from '@tidytrail/core/network'
import type { Island, IslandGap, PathAnswer, SuggestedPost, Suggestion } from '@tidytrail/core/reach'
import type { SpawnPreview } from '@tidytrail/core/rehearsal'
import type { LookedUp } from '../stores/assets'
import type { ListNews } from './list-news'
import type { Rehearser, RunListener } from './rehearsal.protocol'
import type { Offers } from './trying'

/** A tile of the reach map as it is drawn. */
export interface TileDrawing {
  readonly rings: readonly { readonly island: number; readonly z: number; readonly xy: Float32Array }[]
  readonly edges: readonly Float32Array[]
}

/** The tiles of a profile's reach that are other than before, or all where it is `anew`. */
export interface ProfileReach {
  readonly tiles: Record<number, TileDrawing>
  readonly anew: boolean
  readonly islands: readonly Island[]
}

/** The ways of a route's legs, in order. */
export interface RoutePaths {
  readonly profileId: string
  readonly paths: readonly PathAnswer[]
  /** All height gained on the way, metres. */
  readonly climbM: number
}

/** What the surveyor tells after a level has been worked through; `stamp` is the level's. */
export interface SurveyReport {
  readonly stamp: number
  /** The findings, told by what is other than in the report before. */
  readonly findings: ListNews<Finding>
  readonly profiles: Record<string, ProfileReach>
  /** Routes whose ways changed; null where there is none any more. */
  readonly routes: Record<string, RoutePaths | null>
  readonly tookMs: number
}

export interface SurveyListener extends RunListener {
  /** The survey of the level could not be brought to an end; it does not go on by itself. */
  failed(why: string): void
  report(report: SurveyReport): void
  /** The reach that is looked at, or as much of it as there is, while the rest is still being worked out. */
  picture(stamp: number, profileId: string, reach: ProfileReach): void
  /** Which ways out of findings help on the level of a stamp, as far as they have been tried since this was last told. */
  offers(stamp: number, offers: Offers): void
  /** How far an update has come; with the boxes it is rebuilding when it begins. */
  progress(stamp: number, done: number, total: number, boxes?: readonly Box2[]): void
}

export interface LegAnswer {
  readonly path: PathAnswer
  readonly climbM: number
  readonly why: string | undefined
  /** Seconds at each gait of the profile, over covers and through passages. */
  readonly times: Readonly<Record<string, number>>
  /** What would join the two sides, where nothing does. */
  readonly help: Suggestion | undefined
}

/** What is known of one island beside its area. */
export interface IslandFacts {
  /** Routes and spawners that lie on it, by id. */
  readonly users: readonly string[]
  /** Where it comes nearest to another. */
  readonly gap: IslandGap | undefined
}

/** Floors of a reach map to be drawn as a stipple: x, y, z and island of each. */
export interface Stipple {
  readonly places: Float32Array
  readonly islands: Uint16Array
}

/** What can be reached from a waypoint over the graph, by direction and profile. */
export interface Connection {
  readonly fromId: string
  readonly toId: string | undefined
  /** Seconds to every waypoint that can be reached. */
  readonly seconds: Readonly<Record<string, number>>
  /** The same over the plain, for contour rings. */
  readonly field: TimeField | undefined
  /** Waypoints with a link or leg; strongly connected parts of more than one; parts that hang together at all. */
  readonly total: number
  readonly parts: number
  readonly weaklyConnected: number
  /** The strongly connected part each waypoint belongs to, the largest being 0. */
  readonly strongPart: Readonly<Record<string, number>>
  readonly deadEnds: readonly string[]
  readonly cutNodes: readonly string[]
  readonly bridges: readonly GraphEdge[]
  /** The shortest way to the other waypoint over the graph, and over the reach map. */
  readonly overGraph:
    | {
        readonly ids: readonly string[]
        readonly lines: readonly (readonly Point3[])[]
        readonly metres: number
        readonly seconds: number
      }
    | undefined
  readonly overReach:
    { readonly line: readonly Point3[]; readonly metres: number; readonly seconds: number } | undefined
}

/** A route from the side, and its figures. */
export interface RouteFacts {
  readonly profileId: string
  readonly elevation: Elevation
  readonly measures: RouteMeasures
}

/** What is known of the cast before anything runs. */
export interface CastFacts {
  /** By spawners: those that have a body and a reach. */
  readonly spawners: Readonly<Record<string, SpawnPreview>>
  /** By zones: which share of their ground those who are in it can reach, by whom that is told, and how many square metres. */
  readonly zones: Readonly<Record<string, { share: number; floorM2: number; profileId: string }>>
}

/** The surveyor as the main thread sees it: a mirror of the level, and questions about it. */
export interface Surveyor extends Rehearser {
  /**
   * Fixes are tried while there is nothing else to do; while the thread is to be spared for a rehearsal, only those of what
   * is drawn for one.
   */
  hush(on: boolean): void
  start(listener: SurveyListener): void
  setLevel(level: Level, stamp: number): void
  patch(ops: PatchOp[], stamp: number): void
  /** Takes an imported thing in; what has been made of a mesh is given back. */
  give(hash: string, bytes: Uint8Array): LookedUp | undefined
  /** Works the reach of these profiles out even while nobody in the level has them. */
  watch(profileIds: readonly string[]): void
  /** Whose reach and which place is looked at: it is worked out before all else. */
  look(profileId: string | undefined, x: number, y: number): void
  /** The way between two places for a profile, with the reason where there is none. */
  path(profileId: string, from: Point3, to: Point3, legs?: Route['legs']): LegAnswer | undefined
  /** Why a profile cannot stand somewhere; undefined when it can. */
  whyNot(profileId: string, at: Point3): { reached: boolean; text: string; island: number } | undefined
  /** The side view and figures of a route, for the profile that follows it. */
  facts(routeId: string): RouteFacts | undefined
  /** The ways out of a finding that help, all of them tried; undefined when the level is being worked through or has no such finding. */
  waysOut(key: string): Fix[] | undefined
  /** Does a fix of a finding help on the level as it is now? Undefined where that cannot be told at once. */
  helps(key: string, fix: Fix): boolean | undefined
  /** The fixes that mend as many of some findings as can be, in turn; undefined while the level is being worked through. */
  mendable(keys: readonly string[]): Fix[] | undefined
  connect(profileId: string, fromId: string, toId: string | undefined): Connection | undefined
  /** Pairs of waypoints that see each other within a distance. */
  inSight(profileId: string, waypointIds: readonly string[], withinM: number): [string, string][]
  /** Links of a network that can go, each way through the others being at most so many times as long. */
  spare(routeId: string, stretch: number): string[]
  /** Facts about the largest islands of a profile, in their order. */
  islands(profileId: string): readonly IslandFacts[]
  /** Places where a profile could jump or drop from island to island. */
  suggest(profileId: string): readonly Suggestion[]
  /** What spawners will do with a seed, and how much of the zones can be reached. */
  cast(seed: number): CastFacts | undefined
  /** Places in a zone that would do as posts. */
  suggestPosts(zoneId: string, most: number): readonly SuggestedPost[]
  /** The reach of a profile as dots about so many metres apart. */
  stipple(profileId: string, everyM: number): Stipple | undefined
}
