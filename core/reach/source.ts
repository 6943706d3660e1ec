import { boxOf, exact, type Box2, type Point2 } from '@tidytrail/core/geometry'
import { terrainOf, type Terrain } from '@tidytrail/core/ground'
import { bodyOf, isOpenToAll, type Body, type Cover, type Level } from '@tidytrail/core/level'
import { freeRadius } from './free'

/** Everything a reach map is worked out from, for one profile. Lengths in metres. */
export interface ReachSource {
  readonly terrain: Terrain
  readonly extent: Box2
  readonly cellM: number
  /** What the body can do. */
  readonly body: Body
  readonly radiusM: number
  readonly heightM: number
  /** What is no higher above a floor than this stands in nobody's way. */
  readonly stepM: number
  /** Tangent of the steepest slope. */
  readonly maxRise: number
  /** Floors below this height are too deep to stand on. */
  readonly lowestM: number
  /** Height of the water's surface, −Infinity without water, and how much of it a floating body needs. */
  readonly waterM: number
  readonly draughtM: number
  /** How low and how high a flyer's underside may be above what is below it. */
  readonly bandM: readonly [number, number]
  /** Outlines outside of which this profile may not go; without any, everywhere is open. */
  readonly areas: readonly (readonly Point2[])[]
  /** Outlines within which nobody may go. */
  readonly offLimits: readonly (readonly Point2[])[]
  /** Where what is known by columns only is told more finely. */
  readonly fine: FineAreas
  /** What the areas and the covers off limits are called. */
  readonly areaNames: readonly string[]
  readonly offLimitNames: readonly string[]
}

/** Areas in which every column is parted into `split` × `split`, an odd number. */
export interface FineAreas {
  readonly split: number
  readonly areas: readonly { readonly ring: readonly Point2[]; readonly box: Box2 }[]
}

/** So many fine columns are spent on a profile at most; beyond that they get wider. */
const MOST_FINE = 8_000_000

/** The reach areas of a profile in which finer columns are asked for, and into how many its columns are parted there. */
function fineAreas(level: Level, profileId: string, cellM: number): FineAreas {
  const asked = Object.values(level.reachAreas).filter(
    (a) => a.columnM !== null && a.columnM < cellM && (isOpenToAll(a) || a.profileIds.includes(profileId)),
  )
  const areas = asked.map(({ ring }) => ({ ring, box: boxOf(ring) }))
  if (areas.length === 0) return { split: 1, areas }
  const finest = Math.min(...asked.map((a) => a.columnM!))
  const m2 = areas.reduce((sum, { box }) => sum + (box.maxX - box.minX + 2) * (box.maxY - box.minY + 2), 0)
  const most = Math.sqrt((MOST_FINE * cellM * cellM) / m2)
  // Odd, so that the middle of a column is that of one of its parts.
  const odd = (n: number) => 2 * Math.floor(n / 2) + 1
  const split = Math.min(odd(Math.ceil(cellM / finest - 1e-6)), odd(most) > most ? odd(most) - 2 : odd(most))
  return split >= 3 ? { split, areas } : { split: 1, areas: [] }
}

/** A body's radius in columns, at most: what keeps away from walls is looked for so far around each of them. */
const MOST_COLUMNS_OF_RADIUS = 40

/**
 * Widest columns for a body, as a share of what has to be free about its middle. Every place in a column is then so near
 * to the column's middle that no exact line between the two would leave it free: what the middle stands on, all free
 * places of the column do.
 */
const WIDEST = 0.999 * Math.SQRT2
/** No column is made narrower than this for a slim body, metres. */
const NARROWEST_M = 0.12
/** So many columns are spent on slim bodies whatever the level's own width, and so many times as many as that gives. */
const COLUMNS_FOR_SLIM = 6_000_000
const MORE_FOR_SLIM = 1.5

/**
 * Width of the columns for a body: the level's, but for slim bodies narrower, so that what is exact is told exactly,
 * and for the largest ones no finer than they can be told by.
 */
export function columnWidthFor(radiusM: number, cellM: number, extent: Box2): number {
  const areaM2 = (extent.maxX - extent.minX) * (extent.maxY - extent.minY)
  const most = Math.max(COLUMNS_FOR_SLIM, (MORE_FOR_SLIM * areaM2) / (cellM * cellM))
  const slim = Math.max(WIDEST * freeRadius(radiusM), NARROWEST_M, Math.sqrt(areaM2 / most))
  return Math.max(Math.min(cellM, slim), radiusM / MOST_COLUMNS_OF_RADIUS)
}

/** @throws RangeError when the level has no such profile */
export function reachSource(level: Level, profileId: string): ReachSource {
  const profile = level.profiles[profileId]
  if (!profile) throw new RangeError(`no profile ${profileId} in this level`)
  const { extent, cellM, waterLevelM } = level.settings
  const body = bodyOf(profile.medium)
  const areas = Object.values(level.reachAreas).filter((a) => a.profileIds.includes(profileId))
  const offLimits = Object.values(level.covers).filter((c) => !mayUse(c, profileId))
  const columnM = columnWidthFor(profile.radiusM, cellM, extent)
  return {
    terrain: terrainOf(level),
    extent,
    cellM: columnM,
    fine: fineAreas(level, profileId, columnM),
    body,
    radiusM: profile.radiusM,
    heightM: profile.heightM,
    stepM: body.stands ? profile.stepM : 0,
    maxRise: exact.tan(Math.min(profile.maxSlopeRad, 1.57)),
    lowestM: waterLevelM === null ? -Infinity : waterLevelM - profile.maxWaterDepthM,
    waterM: waterLevelM ?? -Infinity,
    draughtM: profile.draughtM,
    bandM: [Math.min(profile.minAltitudeM, profile.maxAltitudeM), profile.maxAltitudeM],
    areas: areas.map((a) => a.ring),
    offLimits: offLimits.map((c) => c.ring),
    areaNames: areas.map((a) => a.name),
    offLimitNames: offLimits.map((c) => c.name),
  }
}

/** May a profile go onto a cover? */
export function mayUse(cover: Pick<Cover, 'kind' | 'profileIds' | 'nobody'>, profileId: string): boolean {
  return isOpenToAll(cover) ? cover.kind !== 'off-limits' : cover.profileIds.includes(profileId)
}

/** Do two sources ask the same of every place, terrain and fine areas aside? Then only what changed in the terrain matters. */
export function sameRules(a: ReachSource, b: ReachSource): boolean {
  const rings = (p: ReachSource['areas'], q: ReachSource['areas']) =>
    p.length === q.length && p.every((ring, i) => ring === q[i])
  return (
    a.extent.minX === b.extent.minX &&
    a.extent.minY === b.extent.minY &&
    a.extent.maxX === b.extent.maxX &&
    a.extent.maxY === b.extent.maxY &&
    a.cellM === b.cellM &&
    a.body.medium === b.body.medium &&
    a.waterM === b.waterM &&
    a.draughtM === b.draughtM &&
    a.bandM[0] === b.bandM[0] &&
    a.bandM[1] === b.bandM[1] &&
    a.radiusM === b.radiusM &&
    a.heightM === b.heightM &&
    a.stepM === b.stepM &&
    a.maxRise === b.maxRise &&
    a.lowestM === b.lowestM &&
    rings(a.areas, b.areas) &&
    rings(a.offLimits, b.offLimits)
  )
}

/** Where columns are finer, or no longer as fine, by another source. */
export function fineChanges(a: FineAreas, b: FineAreas): Box2[] {
  const only = (p: FineAreas, q: FineAreas) =>
    p.areas.filter(({ ring }) => p.split !== q.split || !q.areas.some((other) => other.ring === ring))
  return [...only(a, b), ...only(b, a)].map(({ box }) => box)
}
