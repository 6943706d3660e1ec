import { degrees, distanceToSegment, exact, type Point3 } from '@tidytrail/core/geometry'
import { floorsAt, GROUND, meshOfSurface, meshSpansAt, sampleHeight, surfaceThing } from '@tidytrail/core/ground'
import { AREA, COVER, EXTENT, FINE, heldPart, MESH, RIM } from './bars'
import { freeRadius, halfRise } from './free'
import type { ReachMap, Spot } from './map'
import { gapToWall, gatherMeshes } from './mesh-columns'
import type { ReachSource } from './source'
import { DEEP, DRY, LOW, OFF_LIMITS, OUTSIDE, SHALLOW, SHUT, STANDS, STEEP } from './tile'

/** Why a body's middle cannot be at a place, in words with figures; undefined when it can. */
export function whyNotHere(map: ReachMap, [x, y, z]: Point3): string | undefined {
  const { source } = map
  const { terrain, body, waterM } = source
  const toleranceM = Math.max(0.25, source.stepM)
  const spot = map.floorAt(x, y, z, toleranceM)
  if (!spot) return 'outside the level'
  const tile = map.tiles[spot.tile]
  const floorM = tile.z[spot.floor]
  const surface = tile.surface[spot.floor]
  const name = surfaceThing(terrain, surface)?.name ?? 'the ground'
  const walks = body.stands && !body.floats
  if (walks && floorM > z + toleranceM) return surface === GROUND ? 'under the ground' : `inside ${name}`
  if (map.isFree(spot, x, y)) return undefined
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
    const of = `of ${radiusM.toFixed(2)} m`
    const line = nearestLine(map, spot!, x, y)
    if (line && line.m < freeRadius(radiusM)) {
      const within = line.withinM > 0 ? `, within ${line.withinM.toFixed(2)} m` : ''
      return `too close to ${line.name} (${line.m.toFixed(2)} m ${of}${within})`
    }
    // What is left is known by columns only, and said to be.
    const within = `within ${cellM.toFixed(2)} m`
    let nearest: { name: string; m: number } | undefined
    const around = { x0: x, y0: y, cellM, side: 1 }
    for (const wall of gatherMeshes(terrain, around, radiusM + cellM, source.maxRise, () => {})) {
      if (wall.upright) continue
      const m = gapToWall(wall, x, y, floorM + stepM, floorM + heightM)
      if (m < radiusM + cellM && !(nearest && nearest.m <= m)) nearest = { name: wall.shape.name || 'a mesh', m }
    }
    if (nearest) return `too close to ${nearest.name} (${nearest.m.toFixed(2)} m ${of}, ${within})`
    return `too close to an edge (${(tile.clearMm[spot!.floor] / 1000).toFixed(2)} m ${of}, ${within})`
  }
}

const part = new Float64Array(4)

/** A line that holds a body off: what it belongs to, how far it is, and to what that is known; 0 when exactly. Metres. */
export interface NearLine {
  readonly name: string
  readonly m: number
  readonly withinM: number
}

/** The line nearest to a place in a floor's column; undefined when none is near. */
export function nearestLine(map: ReachMap, spot: Spot, x: number, y: number): NearLine | undefined {
  const { source } = map
  const tile = map.tiles[spot.tile]
  const { index, from, by, bars } = tile.held
  const k = index.length > 0 ? index[spot.floor] - 1 : -1
  if (k < 0) return undefined
  const z = tile.z[spot.floor]
  const half = halfRise(source, tile.surface[spot.floor])
  let best = -1
  let m = Infinity
  for (let b = from[k]; b < from[k + 1]; b++) {
    if (!heldPart(bars, by[b], z - half, z + half, part)) continue
    const here = distanceToSegment(x, y, part[0], part[1], part[2], part[3])
    if (here >= m) continue
    m = here
    best = by[b]
  }
  if (best < 0) return undefined
  const withinM = bars.kind[best] === FINE ? source.cellM / source.fine.split : 0
  return { name: lineName(source, bars.kind[best], bars.owner[best]), m, withinM }
}

function lineName(source: ReachSource, kind: number, owner: number): string {
  switch (kind) {
    case EXTENT:
      return 'the edge of the level'
    case AREA:
      return `the edge of ${source.areaNames[owner] || 'its reach area'}`
    case COVER:
      return source.offLimitNames[owner] || 'what is off limits'
    case MESH:
      return source.terrain.meshes[owner].name || 'a mesh'
    case FINE:
      return owner < 0 ? 'an edge' : source.terrain.meshes[owner].name || 'a mesh'
    default: {
      const name = source.terrain.solids[owner].name || 'a solid'
      return kind === RIM ? `the edge of ${name}` : name
    }
  }
}

const slope = (rise: number) => `${degrees(exact.atan(rise)).toFixed(0)}°`
