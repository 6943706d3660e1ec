import type { Point3 } from '@tidytrail/core/geometry'
import type { Finding } from '@tidytrail/core/checks'
import type { Level, PatchOp } from '@tidytrail/core/level'
import type { Island, PathAnswer } from '@tidytrail/core/reach'

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
  progress(stamp: number, done: number, total: number): void
}

export type LegAnswer = { readonly way: PathAnswer; readonly climbM: number; readonly why: string | undefined }

/** The surveyor as the main thread sees it: a mirror of the level, and questions about it. */
export interface Surveyor {
  start(listener: SurveyListener): void
  setLevel(level: Level, stamp: number): void
  patch(ops: PatchOp[], stamp: number): void
  /** The way between two places for a profile, with the reason where there is none. */
  path(profileId: string, from: Point3, to: Point3): LegAnswer | undefined
  /** Why a profile cannot stand somewhere; undefined when it can. */
  whyNot(profileId: string, at: Point3): { reached: boolean; text: string; island: number } | undefined
}
