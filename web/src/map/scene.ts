import type { Finding } from '@tidytrail/core/checks'
import type { Level } from '@tidytrail/core/level'
import type { RoutePaths } from '../workers/surveyor.protocol'
import type { Suggestion } from '@tidytrail/core/reach'
import type { MeshPlan } from '../stores/assets'

/** An agent as far as it can be pointed at. */
export interface SeenAgent {
  readonly id: string
  readonly x: number
  readonly y: number
}

/** All that is drawn on the map, and that can be pointed at. */
export interface MapScene {
  readonly level: Level
  /** All of the level, where only some of it is drawn. */
  readonly whole: Level
  readonly stage: string
  /** Is a layer of the legend shown? */
  isShown(layer: string): boolean
  readonly chosen: ReadonlySet<string>
  /** The one thing that is chosen, when it is one. */
  readonly alone: string | undefined
  readonly hovered: string | undefined
  /** Routes that are chosen themselves or by one of their stops. */
  readonly chosenRoutes: ReadonlySet<string>
  readonly paths: ReadonlyMap<string, RoutePaths>
  /** How far beside their line routes that share a leg are drawn, pixels. */
  readonly shifts: ReadonlyMap<string, readonly number[]>
  readonly findings: readonly Finding[]
  readonly agents: readonly SeenAgent[]
  readonly suggestions: readonly Suggestion[]
  /** Pictures underlays show, and plans of meshes, by asset. */
  readonly pictures: ReadonlyMap<string, ImageBitmap>
  readonly plans: ReadonlyMap<string, MeshPlan>
}
