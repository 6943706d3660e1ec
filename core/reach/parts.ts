import { DIR_X, DIR_Y, NONE, NO_PART, TILE, TILE_SHIFT, type Tile } from './tile'

const stack = new Int32Array(TILE * TILE * 16)

/** Floors of the tile that are joined to one another inside it. */
export function findParts(tile: Pick<Tile, 'start' | 'links' | 'reach'>): { part: Uint16Array; partSize: Uint32Array } {
  const { start, links, reach } = tile
  const part = new Uint16Array(reach.length).fill(NO_PART)
  const columnOf = new Uint16Array(reach.length)
  for (let c = 0; c < TILE * TILE; c++) for (let f = start[c]; f < start[c + 1]; f++) columnOf[f] = c
  const sizes: number[] = []
  for (let seed = 0; seed < reach.length; seed++) {
    if (reach[seed] === 0 || part[seed] !== NO_PART) continue
    const p = sizes.length
    let size = 0
    let top = 0
    stack[top++] = seed
    part[seed] = p
    while (top > 0) {
      const f = stack[--top]
      size++
      const c = columnOf[f]
      const i = c & (TILE - 1)
      const j = c >> TILE_SHIFT
      for (let d = 0; d < 4; d++) {
        const link = links[f * 4 + d]
        if (link === NONE) continue
        const ni = i + DIR_X[d]
        const nj = j + DIR_Y[d]
        if (((ni | nj) & ~(TILE - 1)) !== 0) continue
        const g = start[(nj << TILE_SHIFT) + ni] + link
        if (reach[g] === 0 || part[g] !== NO_PART) continue
        part[g] = p
        stack[top++] = g
      }
    }
    sizes.push(size)
  }
  return { part, partSize: Uint32Array.from(sizes) }
}
