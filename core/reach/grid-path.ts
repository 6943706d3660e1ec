import FlatQueue from 'flatqueue'
import type { ReachMap, Spot } from './map'
import { DIR_X, DIR_Y, NONE, TILE } from './tile'

/** The reached floor one steps to in a direction, or undefined. */
export function stepFrom(map: ReachMap, spot: Spot, d: number): Spot | undefined {
  const link = map.tiles[spot.tile].links[spot.floor * 4 + d]
  if (link === NONE) return undefined
  const i = (spot.column % TILE) + DIR_X[d]
  const j = Math.floor(spot.column / TILE) + DIR_Y[d]
  const tile = spot.tile + (i < 0 ? -1 : i >= TILE ? 1 : 0) + (j < 0 ? -map.tilesX : j >= TILE ? map.tilesX : 0)
  const column = ((j + TILE) % TILE) * TILE + ((i + TILE) % TILE)
  const next = map.tiles[tile]
  const floor = next.start[column] + link
  return next.reach[floor] ? { tile, column, floor } : undefined
}

/**
 * A path column by column, in eight directions (A*, Hart, Nilsson and Raphael 1968). Slow and sure: the way out when
 * the corners do not connect two places of one island, and what the tests compare with.
 */
export function gridPath(map: ReachMap, start: Spot, end: Spot): Spot[] | undefined {
  const key = (s: Spot) => s.tile * 65536 + s.floor
  const goal = key(end)
  const gx = map.middleX(end)
  const gy = map.middleY(end)
  const ahead = (s: Spot) => {
    const dx = Math.abs(map.middleX(s) - gx)
    const dy = Math.abs(map.middleY(s) - gy)
    return Math.max(dx, dy) + (Math.SQRT2 - 1) * Math.min(dx, dy)
  }
  const nodes = new Map<number, { spot: Spot; cost: number; parent: number; closed: boolean }>()
  const queue = new FlatQueue<number>()
  nodes.set(key(start), { spot: start, cost: 0, parent: -1, closed: false })
  queue.push(key(start), ahead(start))
  const { cellM } = map.source
  while (queue.length > 0) {
    const id = queue.pop()!
    const node = nodes.get(id)!
    if (node.closed) continue
    node.closed = true
    if (id === goal) {
      const spots: Spot[] = []
      for (let k = id; k >= 0; k = nodes.get(k)!.parent) spots.push(nodes.get(k)!.spot)
      return spots.reverse()
    }
    for (let d = 0; d < 4; d++) {
      const straight = stepFrom(map, node.spot, d)
      if (!straight) continue
      relax(straight, node.cost + cellM, id)
      const side = stepFrom(map, node.spot, (d + 1) % 4)
      const slant = side && stepFrom(map, straight, (d + 1) % 4)
      const same = slant && stepFrom(map, side, d)
      if (slant && same && key(slant) === key(same)) relax(slant, node.cost + cellM * Math.SQRT2, id)
    }
  }
  return undefined

  function relax(spot: Spot, cost: number, parent: number): void {
    const id = key(spot)
    const old = nodes.get(id)
    if (old && (old.closed || old.cost <= cost)) return
    nodes.set(id, { spot, cost, parent, closed: false })
    queue.push(id, cost + ahead(spot))
  }
}
