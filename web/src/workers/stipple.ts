import { TILE, type ReachMap } from '@tidytrail/core/reach'
import type { Stipple } from './surveyor.protocol'

const MOST_DOTS = 400_000

/** The reached floors of a map, one in so many, as places to be dotted. */
export function stipple(map: ReachMap, everyM: number): Stipple {
  const { extent, cellM } = map.source
  let step = Math.max(1, Math.round(everyM / cellM))
  while ((map.columns / step) * (map.rows / step) > MOST_DOTS) step++
  const places: number[] = []
  const islands: number[] = []
  map.tiles.forEach((tile, k) => {
    for (let column = 0; column < TILE * TILE; column++) {
      const i = tile.i0 + (column % TILE)
      const j = tile.j0 + Math.floor(column / TILE)
      // Every other row is shifted by half, as in a printed stipple.
      const row = Math.floor(j / step)
      if (j % step !== 0 || (i + (row % 2) * Math.floor(step / 2)) % step !== 0) continue
      for (let f = tile.start[column]; f < tile.start[column + 1]; f++) {
        if (!tile.reach[f]) continue
        places.push(extent.minX + (i + 0.5) * cellM, extent.minY + (j + 0.5) * cellM, tile.z[f])
        islands.push(map.islands.ofPart[map.islands.partBase[k] + tile.part[f]])
      }
    }
  })
  return { places: Float32Array.from(places), islands: Uint16Array.from(islands, (n) => Math.min(65535, n)) }
}
