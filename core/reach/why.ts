import { degrees, distanceToRing, exact, ringHolds, type Point3 } from '@tidytrail/core/geometry'
import { floorsAt, GROUND, meshOfSurface, meshSpansAt, sampleHeight, surfaceThing, topAt } from '@tidytrail/core/ground'
import type { ReachMap } from './map'
import { gapToWall, gatherMeshes } from './mesh-columns'
import { DEEP, DRY, LOW, OFF_LIMITS, OUTSIDE, SHALLOW, SHUT, STANDS, STEEP } from './tile'

/** Why a body's middle cannot be at a place, in words with figures; undefined when it can. */
export function whyNotHere(map: ReachMap, [x, y, z]: Point3): string | undefined {
  const { source } = map
  const { terrain, body, waterM } = source
  const toleranceM = Math.max(0.25, source.stepM)
  const spot = map.floorAt(x, y, z, toleranceM)
  if (!spot) return 'outside the level'
  if (map.isReached(spot)) return undefined
  const tile = map.tiles[spot.tile]
  const floorM = tile.z[spot.floor]
  const surface = tile.surface[spot.floor]
  const name = surfaceThing(terrain, surface)?.name ?? 'the ground'
  const walks = body.stands && !body.floats
  if (walks && floorM > z + toleranceM) return surface === GROUND ? 'under the ground' : `inside ${name}`
  switch (tile.stand[spot.floor]) {
    case STANDS:
      return tooClose()
    case STEEP:
      return `too steep (${slope(riseHere())} of at most ${slope(source.maxRise)})`
    case LOW: {
      const floors = floorsAt(terrain, x, y)
      const here = floors.reduce((a, b) => (Math.abs(b.z - floorM) < Math.abs(a.z - floorM) ? b : a))
      const headroom = !body.stands && !body.flies ? here.ceilingM - floorM : here.ceilingM - here.z
      const needed = body.flies ? source.heightM + source.bandM[0] : source.heightM
      return `headroom ${headroom.toFixed(2)} m of ${needed.toFixed(2)} m`
    }
    case DEEP: {
      const deep = `${(waterM - floorM).toFixed(2)} m of at most ${(waterM - source.lowestM).toFixed(2)} m`
      return `water too deep (${deep})`
    }
    case SHALLOW: {
      const bed = floorsAt(terrain, x, y)
        .filter((f) => f.z < waterM && f.ceilingM > waterM)
        .at(-1)
      return `water too shallow (${(waterM - (bed?.z ?? waterM)).toFixed(2)} m of ${source.draughtM.toFixed(2)} m)`
    }
    case DRY:
      return waterM === -Infinity ? 'no water: this level has none' : 'no water here'
    case SHUT:
      return `on top of ${name}, which is not for walking on`
    case OUTSIDE:
      return 'outside the reach areas of this profile'
    case OFF_LIMITS:
      return 'off limits'
    default:
      return 'no floor'
  }

  function riseHere(): number {
    if (surface === GROUND) {
      const sample = new Float64Array(3)
      sampleHeight(terrain.field, x, y, sample)
      return exact.hypot(sample[1], sample[2])
    }
    if (surface > GROUND) return exact.hypot(terrain.solids[surface].riseX, terrain.solids[surface].riseY)
    let rise = Infinity
    let nearest = Infinity
    meshSpansAt(terrain.meshes[meshOfSurface(surface)], x, y, (_base, top, r) => {
      if (Math.abs(top - floorM) >= nearest) return
      nearest = Math.abs(top - floorM)
      rise = r
    })
    return rise
  }

  function tooClose(): string {
    const { radiusM, stepM, heightM, cellM } = source
    let nearest: { name: string; m: number } | undefined
    const offer = (what: string, m: number) => {
      if (!nearest || m < nearest.m) nearest = { name: what, m }
    }
    const box = { minX: x - radiusM, minY: y - radiusM, maxX: x + radiusM, maxY: y + radiusM }
    for (const k of terrain.near(box)) {
      const s = terrain.solids[k]
      if (k === surface || topAt(s, x, y) <= floorM + stepM || s.baseM >= floorM + heightM) continue
      offer(s.name || 'a solid', ringHolds(s.ring, x, y) ? 0 : distanceToRing(s.ring, x, y))
    }
    const around = { x0: x, y0: y, cellM, side: 1 }
    for (const wall of gatherMeshes(terrain, around, radiusM, source.maxRise, () => {})) {
      const m = gapToWall(wall, x, y, floorM + stepM, floorM + heightM)
      if (m < radiusM + cellM) offer(wall.shape.name || 'a mesh', m)
    }
    const of = `of ${radiusM.toFixed(2)} m`
    if (nearest && nearest.m < radiusM + cellM) return `too close to ${nearest.name} (${nearest.m.toFixed(2)} m ${of})`
    return `too close to an edge (${(tile.clearMm[spot!.floor] / 1000).toFixed(2)} m ${of})`
  }
}

const slope = (rise: number) => `${degrees(exact.atan(rise)).toFixed(0)}°`
