import type { Point2, Point3 } from '@tidytrail/core/geometry'
import type { Route } from '@tidytrail/core/level'

/** A lane as a file has it, in the direction it leads. Metres, metres a second. */
export interface MapLane {
  /** What it is called in the file. */
  readonly key: string
  readonly name: string
  readonly use: Route['use']
  readonly points: readonly Point3[]
  readonly widthM: number
  readonly speedLimitMps: number | null
  readonly noChange: Route['noChange']
}

/** Which lane leads into which, by their keys: at one place, or over a way of its own. */
export interface MapJoin {
  readonly from: string
  readonly to: string
  readonly way: readonly Point3[] | undefined
}

/** Lanes of a place, and how they join, as they are read from a file. */
export interface LaneMap {
  readonly lanes: readonly MapLane[]
  readonly joins: readonly MapJoin[]
  /** Of two joins, by where they are among the joins, which gives way to which; empty where nothing is said. */
  readonly priorities: readonly { readonly waits: number; readonly goes: number }[]
  readonly junctions: readonly { readonly name: string; readonly at: Point2; readonly lit: boolean }[]
  readonly drivesOn: 'left' | 'right' | undefined
  readonly repairs: readonly string[]
  readonly wide: readonly [number, number]
}
