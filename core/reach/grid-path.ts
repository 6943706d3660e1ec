import type { Point2 } from '@tidytrail/core/geometry'
import FlatQueue from 'flatqueue'
import { partsOf } from './free'
import type { FreeParts } from './free-parts'
import type { ReachMap, Spot } from './map'
import { DIR_X, DIR_Y, NONE, TILE } from './tile'

/** The floor one steps to in a direction, reached or not; undefined when there is none. */
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

/** A place a path leads over, and the floor it lies on. */
export interface PathPlace {
  readonly spot: Spot
  readonly x: number
  readonly y: number
}

interface Node {
  readonly spot: Spot
  /** Which of the free parts of its column. */
  readonly part: number
  readonly x: number
  readonly y: number
  readonly cost: number
  readonly parent: string
  closed: boolean
}

/**
 * A path from column to column through the gaps between them (A*, Hart, Nilsson and Raphael 1968). Slow and sure: the
 * way out when the corners do not connect two places of one island, and what the tests compare with.
 */
export function gridPath(map: ReachMap, start: Spot, end: Spot): PathPlace[] | undefined {
  const { source } = map
  const known = new Map<number, FreeParts | undefined>()
  const freeOf = (s: Spot): FreeParts | undefined => {
    const { held } = map.tiles[s.tile]
    if (held.index.length === 0 || held.index[s.floor] === 0) return undefined
    const key = s.tile * 65536 + s.floor
    if (!known.has(key)) known.set(key, partsOf(source, map.tiles[s.tile], s.column, s.floor))
    return known.get(key)
  }
  const partOf = (s: Spot) =>
    s.more === undefined ? 0 : s.more - map.tiles[s.tile].held.more.floor.indexOf(s.floor) + 1
  const key = (s: Spot, part: number) => `${s.tile} ${s.floor} ${part}`
  const [gx, gy] = map.placeOn(end)
  const goal = key(end, partOf(end))
  const ahead = (x: number, y: number) => Math.sqrt((x - gx) * (x - gx) + (y - gy) * (y - gy))
  const nodes = new Map<string, Node>()
  const queue = new FlatQueue<string>()
  const [sx, sy] = map.placeOn(start)
  const first = key(start, partOf(start))
  nodes.set(first, { spot: start, part: partOf(start), x: sx, y: sy, cost: 0, parent: '', closed: false })
  queue.push(first, ahead(sx, sy))
  while (queue.length > 0) {
    const id = queue.pop()!
    const node = nodes.get(id)!
    if (node.closed) continue
    node.closed = true
    if (id === goal) {
      const places: PathPlace[] = [{ spot: end, x: gx, y: gy }]
      for (let k = id; k !== ''; k = nodes.get(k)!.parent) places.push(nodes.get(k)!)
      return places.reverse()
    }
    const mine = freeOf(node.spot)
    for (let d = 0; d < 4; d++) {
      const next = stepFrom(map, node.spot, d)
      if (!next) continue
      const theirs = freeOf(next)
      if (!mine && !theirs) {
        const [x, y] = map.placeOn(next)
        relax(next, 0, x, y, node, id)
        continue
      }
      for (const s of mine?.sides ?? whole(map, node.spot, d)) {
        if (s.side !== d || (mine && s.part !== node.part)) continue
        for (const t of theirs?.sides ?? whole(map, next, (d + 2) % 4)) {
          const from = Math.max(s.from, t.from)
          const to = Math.min(s.to, t.to)
          if (t.side !== (d + 2) % 4 || to - from < 1e-3) continue
          const [x, y] = crossing(map, next, d, (from + to) / 2)
          relax(next, t.part, x, y, node, id)
        }
      }
    }
  }
  return undefined

  function relax(spot: Spot, part: number, x: number, y: number, from: Node, parent: string): void {
    const id = key(spot, part)
    const cost = from.cost + Math.sqrt((x - from.x) * (x - from.x) + (y - from.y) * (y - from.y))
    const old = nodes.get(id)
    if (old && (old.closed || old.cost <= cost)) return
    nodes.set(id, { spot, part, x, y, cost, parent, closed: false })
    queue.push(id, cost + ahead(x, y))
  }
}

/** The whole of one side of a column, as if it were a gap. */
function whole(map: ReachMap, spot: Spot, side: number): FreeParts['sides'] {
  const { cellM } = map.source
  const from = (side % 2 === 0 ? map.middleY(spot) : map.middleX(spot)) - cellM / 2
  return [{ side, from, to: from + cellM, part: 0 }]
}

/** The place on the near side of a column one enters it at. */
function crossing(map: ReachMap, spot: Spot, d: number, along: number): Point2 {
  const half = (map.source.cellM / 2) * (1 - 1e-6)
  return d % 2 === 0 ? [map.middleX(spot) - DIR_X[d] * half, along] : [along, map.middleY(spot) - DIR_Y[d] * half]
}
