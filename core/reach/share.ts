import type { Area } from '@tidytrail/core/level'
import type { ReachMap } from './map'

/** About so many places of an area are looked at. */
const LOOKED_AT = 900

/**
 * How much of the ground of an area somebody can reach, on whichever of its floors: told by places spread evenly over
 * it, about 900 of them.
 * @returns the share of its ground, the floor that can be reached there (square metres, of all floors meant), and a place of it
 */
export function reachedShare(map: ReachMap, { box, holds }: Area) {
  const width = Math.max(1e-6, box.maxX - box.minX)
  const depth = Math.max(1e-6, box.maxY - box.minY)
  const stepM = Math.max(0.05, Math.sqrt((width * depth) / LOOKED_AT))
  const columns = Math.max(1, Math.round(width / stepM))
  const rows = Math.max(1, Math.round(depth / stepM))
  let looked = 0
  let reached = 0
  let floors = 0
  let at: [number, number, number] | undefined
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const x = box.minX + ((i + 0.5) * width) / columns
      const y = box.minY + ((j + 0.5) * depth) / rows
      if (!holds(x, y)) continue
      looked++
      const here = map.reachedFloors(x, y).filter((f) => holds(x, y, map.zOf(f)))
      if (here.length === 0) continue
      reached++
      floors += here.length
      at ??= [x, y, map.zOf(here[0])]
    }
  const eachM2 = (width * depth) / (columns * rows)
  return { share: looked === 0 ? 0 : reached / looked, floorM2: floors * eachM2, at }
}
