import { exact, type Box2, type Point2 } from '@tidytrail/core/geometry'
import { terrainOf, type Terrain } from '@tidytrail/core/ground'
import type { Level } from '@tidytrail/core/level'

/** Everything a reach map is worked out from, for one profile. Lengths in metres. */
export interface ReachSource {
  readonly terrain: Terrain
  readonly extent: Box2
  readonly cellM: number
  readonly radiusM: number
  readonly heightM: number
  readonly stepM: number
  /** Tangent of the steepest slope. */
  readonly maxRise: number
  /** Floors below this height are too deep to stand on. */
  readonly lowestM: number
  /** Outlines outside of which this profile may not go; without any, everywhere is open. */
  readonly areas: readonly (readonly Point2[])[]
  /** Outlines within which nobody may go. */
  readonly offLimits: readonly (readonly Point2[])[]
}

/** @throws RangeError when the level has no such profile */
export function reachSource(level: Level, profileId: string): ReachSource {
  const profile = level.profiles[profileId]
  if (!profile) throw new RangeError(`no profile ${profileId} in this level`)
  const { extent, cellM, waterLevelM } = level.settings
  return {
    terrain: terrainOf(level),
    extent,
    cellM,
    radiusM: profile.radiusM,
    heightM: profile.heightM,
    stepM: profile.stepM,
    maxRise: exact.tan(Math.min(profile.maxSlopeRad, 1.57)),
    lowestM: waterLevelM === null ? -Infinity : waterLevelM - profile.maxWaterDepthM,
    areas: Object.values(level.reachAreas)
      .filter((a) => a.profileIds.includes(profileId))
      .map((a) => a.ring),
    offLimits: Object.values(level.covers)
      .filter((c) => c.kind === 'off-limits')
      .map((c) => c.ring),
  }
}

/** Do two sources ask the same of every place, terrain aside? Then only what changed in the terrain matters. */
export function sameRules(a: ReachSource, b: ReachSource): boolean {
  const rings = (p: ReachSource['areas'], q: ReachSource['areas']) =>
    p.length === q.length && p.every((ring, i) => ring === q[i])
  return (
    a.extent.minX === b.extent.minX &&
    a.extent.minY === b.extent.minY &&
    a.extent.maxX === b.extent.maxX &&
    a.extent.maxY === b.extent.maxY &&
    a.cellM === b.cellM &&
    a.radiusM === b.radiusM &&
    a.heightM === b.heightM &&
    a.stepM === b.stepM &&
    a.maxRise === b.maxRise &&
    a.lowestM === b.lowestM &&
    rings(a.areas, b.areas) &&
    rings(a.offLimits, b.offLimits)
  )
}
