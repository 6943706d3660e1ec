import { eachPartBeyond } from './free'
import type { FreeParts } from './free-parts'
import { DIR_X, DIR_Y, NONE, NO_PART, TILE, TILE_SHIFT, type Tile } from './tile'

const stack = new Int32Array(TILE * TILE * 16)

/**
 * Floors of the tile that are joined to one another inside it.
 * @param free what is left of the columns that have exact lines near
 */
export function findParts(
  tile: Pick<Tile, 'start' | 'links' | 'reach' | 'held'>,
  free: ReadonlyMap<number, FreeParts>,
): { part: Uint16Array; partSize: Uint32Array } {
  const { start, links, reach } = tile
  const { more } = tile.held
  const floors = reach.length
  const part = new Uint16Array(floors + more.floor.length).fill(NO_PART)
  const columnOf = new Uint16Array(floors)
  for (let c = 0; c < TILE * TILE; c++) for (let f = start[c]; f < start[c + 1]; f++) columnOf[f] = c
  const firstMore = new Map<number, number>()
  more.floor.forEach((f, k) => {
    if (!firstMore.has(f)) firstMore.set(f, k)
  })
  /** The place of a floor's part: the floor itself for the first, then those kept apart. */
  const placeOf = (f: number, ofF: number) => (ofF === 0 ? f : floors + firstMore.get(f)! + ofF - 1)
  const sizes: number[] = []
  let top = 0
  let p = 0
  const take = (place: number) => {
    if (part[place] !== NO_PART) return
    part[place] = p
    stack[top++] = place
  }
  for (let seed = 0; seed < part.length; seed++) {
    const seedFloor = seed < floors ? seed : more.floor[seed - floors]
    if (reach[seedFloor] === 0 || part[seed] !== NO_PART) continue
    p = sizes.length
    let size = 0
    take(seed)
    while (top > 0) {
      const place = stack[--top]
      const f = place < floors ? place : more.floor[place - floors]
      if (place < floors) size++
      const c = columnOf[f]
      const i = c & (TILE - 1)
      const j = c >> TILE_SHIFT
      const mine = free.size > 0 ? free.get(f) : undefined
      for (let d = 0; d < 4; d++) {
        const link = links[f * 4 + d]
        if (link === NONE) continue
        const ni = i + DIR_X[d]
        const nj = j + DIR_Y[d]
        if (((ni | nj) & ~(TILE - 1)) !== 0) continue
        const g = start[(nj << TILE_SHIFT) + ni] + link
        if (reach[g] === 0) continue
        const theirs = free.size > 0 ? free.get(g) : undefined
        if (!mine && !theirs) {
          if (part[g] !== NO_PART) continue
          part[g] = p
          stack[top++] = g
          continue
        }
        const ofF = place < floors ? 0 : place - floors - firstMore.get(f)! + 1
        eachPartBeyond(mine, ofF, d, theirs, (ofG) => take(placeOf(g, ofG)))
      }
    }
    sizes.push(size)
  }
  return { part, partSize: Uint32Array.from(sizes) }
}
