import { floorsAt, surfaceWalkable, type Floor, type Terrain } from '@tidytrail/core/ground'

export interface FloodRules {
  sizeX: number
  sizeY: number
  cellM: number
  stepM: number
  heightM: number
}

/**
 * Which floors one can walk to from a place, the slow way: every column asked anew for its floors, every step tried.
 * For bodies without width, on ground that is nowhere too steep. Keys are "column row height in millimetres".
 */
export function flood(terrain: Terrain, from: readonly number[], rules: FloodRules): Set<string> {
  const { cellM, stepM, heightM } = rules
  const columns = Math.round(rules.sizeX / cellM)
  const rows = Math.round(rules.sizeY / cellM)
  const known = new Map<number, Floor[]>()
  const floors = (i: number, j: number): Floor[] => {
    if (i < 0 || j < 0 || i >= columns || j >= rows) return []
    let list = known.get(j * columns + i)
    if (!list) {
      list = floorsAt(terrain, (i + 0.5) * cellM, (j + 0.5) * cellM).filter(
        (f) => f.ceilingM - f.z >= heightM - 1e-6 && surfaceWalkable(terrain, f.surface),
      )
      known.set(j * columns + i, list)
    }
    return list
  }
  const key = (i: number, j: number, z: number) => `${i} ${j} ${Math.round(z * 1000)}`
  const i0 = Math.floor(from[0] / cellM)
  const j0 = Math.floor(from[1] / cellM)
  const start = floors(i0, j0).find((f) => Math.abs(f.z - from[2]) < 1e-6)
  const seen = new Set<string>()
  if (!start) return seen
  const queue = [{ i: i0, j: j0, floor: start }]
  seen.add(key(i0, j0, start.z))
  for (let head = 0; head < queue.length; head++) {
    const { i, j, floor } = queue[head]
    for (const [di, dj] of [
      [1, 0],
      [0, 1],
      [-1, 0],
      [0, -1],
    ]) {
      for (const next of floors(i + di, j + dj)) {
        const rise = Math.abs(next.z - floor.z)
        const headroom = Math.min(next.ceilingM, floor.ceilingM) - Math.max(next.z, floor.z)
        const k = key(i + di, j + dj, next.z)
        if ((rise > stepM + 1e-6 && next.surface !== floor.surface) || headroom < heightM - 1e-6 || seen.has(k))
          continue
        seen.add(k)
        queue.push({ i: i + di, j: j + dj, floor: next })
      }
    }
  }
  return seen
}
