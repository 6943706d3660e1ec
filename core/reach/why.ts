import { degrees, distanceToRing, exact, ringHolds, type Point3 } from '@tidytrail/core/geometry'
import { sampleHeight, topAt } from '@tidytrail/core/ground'
import type { ReachMap } from './map'
import { DEEP, LOW, OFF_LIMITS, OUTSIDE, SHUT, STANDS, STEEP } from './tile'

/** Why a body's middle cannot be at a place, in words with figures; undefined when it can. */
export function whyNotHere(map: ReachMap, [x, y, z]: Point3): string | undefined {
  const { source } = map
  const spot = map.floorAt(x, y, z, Math.max(0.25, source.stepM))
  if (!spot) return 'outside the level'
  if (map.isReached(spot)) return undefined
  const tile = map.tiles[spot.tile]
  const floorM = tile.z[spot.floor]
  const surface = tile.surface[spot.floor]
  const solids = source.terrain.solids
  if (floorM > z + Math.max(0.25, source.stepM))
    return surface < 0 ? 'under the ground' : `inside ${label(solids[surface].name)}`
  switch (tile.stand[spot.floor]) {
    case STANDS:
      return tooClose()
    case STEEP: {
      const sample = new Float64Array(3)
      sampleHeight(source.terrain.field, x, y, sample)
      const rise =
        surface < 0 ? exact.hypot(sample[1], sample[2]) : exact.hypot(solids[surface].riseX, solids[surface].riseY)
      return `too steep (${slope(rise)} of at most ${slope(source.maxRise)})`
    }
    case LOW: {
      const above = solids
        .filter((s) => ringHolds(s.ring, x, y) && s.baseM > floorM)
        .reduce((low, s) => Math.min(low, s.baseM), Infinity)
      return `headroom ${(above - floorM).toFixed(2)} m of ${source.heightM.toFixed(2)} m`
    }
    case DEEP:
      return `water too deep (floor at ${floorM.toFixed(2)} m, lowest ${source.lowestM.toFixed(2)} m)`
    case SHUT:
      return `on top of ${label(solids[surface].name)}, which is not for walking on`
    case OUTSIDE:
      return 'outside the reach areas of this profile'
    case OFF_LIMITS:
      return 'off limits'
    default:
      return 'no floor'
  }

  function tooClose(): string {
    const { radiusM, stepM, heightM } = source
    let nearest: { name: string; m: number } | undefined
    for (const k of source.terrain.near({
      minX: x - radiusM,
      minY: y - radiusM,
      maxX: x + radiusM,
      maxY: y + radiusM,
    })) {
      const s = solids[k]
      if (k === surface || topAt(s, x, y) <= floorM + stepM || s.baseM >= floorM + heightM) continue
      const m = distanceToRing(s.ring, x, y)
      if (!nearest || m < nearest.m) nearest = { name: s.name, m }
    }
    const of = `of ${radiusM.toFixed(2)} m`
    if (nearest && nearest.m < radiusM + source.cellM)
      return `too close to ${label(nearest.name)} (${nearest.m.toFixed(2)} m ${of})`
    return `too close to an edge (${(tile.clearMm[spot!.floor] / 1000).toFixed(2)} m ${of})`
  }
}

const slope = (rise: number) => `${degrees(exact.atan(rise)).toFixed(0)}°`
const label = (name: string) => name || 'a solid'
