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
  const columnOf = new Uint16Array(tile.reach.length)
  for (let c = 0; c < TILE * TILE; c++) columnOf.fill(c, tile.start[c], tile.start[c + 1])
  return free.size === 0 ? plainParts(tile, columnOf) : heldParts(tile, columnOf, free)
}

/** Parts where every column is free or not as a whole: most tiles, so in a loop of its own that asks nothing else. */
function plainParts(
  { start, links, reach }: Pick<Tile, 'start' | 'links' | 'reach'>,
  columnOf: Uint16Array,
): { part: Uint16Array; partSize: Uint32Array } {
  const part = new Uint16Array(reach.length).fill(NO_PART)
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

/** Parts where some columns are free in part only: these are joined where what is free of them meets on their sides. */
function heldParts(
  tile: Pick<Tile, 'start' | 'links' | 'reach' | 'held'>,
  columnOf: Uint16Array,
  free: ReadonlyMap<number, FreeParts>,
): { part: Uint16Array; partSize: Uint32Array } {
  const { start, links, reach } = tile
  const { more } = tile.held
  const floors = reach.length
  const part = new Uint16Array(floors + more.floor.length).fill(NO_PART)
  const firstMore = new Map<number, number>()
  more.floor.forEach((f, k) => {
    if (!firstMore.has(f)) firstMore.set(f, k)
  })
  const partial = new Uint8Array(floors)
  for (const f of free.keys()) partial[f] = 1
  const sizes: number[] = []
  const beyond: number[] = []
  const note = (ofG: number) => void beyond.push(ofG)
  for (let seed = 0; seed < part.length; seed++) {
    if (part[seed] !== NO_PART || reach[seed < floors ? seed : more.floor[seed - floors]] === 0) continue
    const p = sizes.length
    let size = 0
    let top = 0
    part[seed] = p
    stack[top++] = seed
    while (top > 0) {
      const place = stack[--top]
      const f = place < floors ? place : more.floor[place - floors]
      if (place < floors) size++
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
        if (reach[g] === 0) continue
        if ((partial[f] | partial[g]) === 0) {
          if (part[g] !== NO_PART) continue
          part[g] = p
          stack[top++] = g
          continue
        }
        // The first part of a floor is the floor itself; others are kept after all floors.
        const ofF = place < floors ? 0 : place - floors - firstMore.get(f)! + 1
        beyond.length = 0
        eachPartBeyond(partial[f] ? free.get(f) : undefined, ofF, d, partial[g] ? free.get(g) : undefined, note)
        for (const ofG of beyond) {
          const next = ofG === 0 ? g : floors + firstMore.get(g)! + ofG - 1
          if (part[next] !== NO_PART) continue
          part[next] = p
          stack[top++] = next
        }
      }
    }
    sizes.push(size)
  }
  return { part, partSize: Uint32Array.from(sizes) }
}
