import type { Level } from '@tidytrail/core/level'
import type * as THREE from 'three'
import type { RoutePaths } from '../workers/surveyor.protocol'
import type { OverlookTools } from './tools'

/** What a part of the Overlook may look at beside the level. */
export interface OverlookContext {
  readonly paths: ReadonlyMap<string, RoutePaths>
}

/** The name of objects whose faces belong to several things. */
export const OF_A_PART = 'of a part'

/** One part of the Overlook, made anew when something it reads has changed. */
export interface OverlookPart {
  /** All it reads, to be compared with what it read before. */
  reads(level: Level, context: OverlookContext): readonly unknown[]
  build(tools: OverlookTools, level: Level, context: OverlookContext): THREE.Object3D | undefined
  /** The edges of those of its things that are chosen. */
  edges?(tools: OverlookTools, level: Level, ids: ReadonlySet<string>): THREE.Object3D | undefined
  /** The thing a face of it is of, where its objects do not bear ids as their names. */
  ownerOf?(face: number): string | undefined
}
