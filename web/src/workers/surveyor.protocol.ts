import type { Finding } from '@tidytrail/core/checks'
import type { Box2, Point3 } from '@tidytrail/core/geometry'
import type { Level, PatchOp } from '@tidytrail/core/level'
import type { Island, IslandGap, PathAnswer, Suggestion } from '@tidytrail/core/reach'
import type { LookedUp } from '../stores/assets'

/** A tile of the reach map as it is drawn. */
export interface TileDrawing {
  readonly rings: readonly { readonly island: number; readonly z: number; readonly xy: Float32Array }[]
  readonly edges: readonly Float32Array[]
}

/** The ways of a route's legs, in order. */
export interface RouteWays {
  readonly profileId: string
  readonly ways: readonly PathAnswer[]
  /** All height gained on the way, metres. */
  readonly climbM: number
}

/** What the surveyor tells after a level has been worked through; `stamp` is the level's. */
export interface SurveyReport {
  readonly stamp: number
  readonly findings: readonly Finding[]
  readonly profiles: Record<string, { tiles: Record<number, TileDrawing>; anew: boolean; islands: readonly Island[] }>
  /** Routes whose ways changed; null where there is none any more. */
  readonly routes: Record<string, RouteWays | null>
  readonly tookMs: number
}

export interface SurveyListener {
  report(report: SurveyReport): void
  /** How far an update has come; with the boxes it is rebuilding when it begins. */
  progress(stamp: number, done: number, total: number, boxes?: readonly Box2[]): void
}

export interface LegAnswer {
  readonly way: PathAnswer
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

/** The surveyor as the main thread sees it: a mirror of the level, and questions about it. */
export interface Surveyor {
  start(listener: SurveyListener): void
  setLevel(level: Level, stamp: number): void
  patch(ops: PatchOp[], stamp: number): void
  /** Takes an imported thing in; what has been made of a mesh is given back. */
  give(hash: string, bytes: Uint8Array): LookedUp | undefined
  /** Works the reach of these profiles out even while nobody in the level has them. */
  watch(profileIds: readonly string[]): void
  /** The way between two places for a profile, with the reason where there is none. */
  path(profileId: string, from: Point3, to: Point3): LegAnswer | undefined
  /** Why a profile cannot stand somewhere; undefined when it can. */
  whyNot(profileId: string, at: Point3): { reached: boolean; text: string; island: number } | undefined
  /** Facts about the largest islands of a profile, in their order. */
  islands(profileId: string): readonly IslandFacts[]
  /** Places where a profile could jump or drop from island to island. */
  suggest(profileId: string): readonly Suggestion[]
  /** The reach of a profile as dots about so many metres apart. */
  stipple(profileId: string, everyM: number): Stipple | undefined
}
