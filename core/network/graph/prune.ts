import { NodeHeap } from './heap'

export interface PrunableLink {
  readonly from: number
  readonly to: number
  readonly cost: number
  readonly twoWay: boolean
}

/**
 * Which links of a network to keep, so that for each one dropped there is still a way through the others that costs at
 * most `stretch` times as much: the greedy spanner (Althöfer, Das, Dobkin, Joseph and Soares 1993), shortest first.
 * @param stretch at least 1; with 1 only links go that are no shorter than a way round
 * @returns ascending numbers of the links to keep
 * @throws RangeError for a stretch below 1
 */
export function pruneLinks(nodeCount: number, links: readonly PrunableLink[], stretch: number): number[] {
  if (!(stretch >= 1)) throw new RangeError(`expected a stretch of at least 1, got ${stretch}`)
  const order = links.map((_, k) => k).sort((a, b) => links[a].cost - links[b].cost || a - b)
  // Rows that grow: the newest edge of each node, and the one before each edge.
  const newest = new Int32Array(nodeCount).fill(-1)
  const older: number[] = []
  const ends: number[] = []
  const costs: number[] = []
  const add = (a: number, b: number, cost: number) => {
    older.push(newest[a])
    newest[a] = ends.length
    ends.push(b)
    costs.push(cost)
  }
  const best = new Float64Array(nodeCount).fill(Infinity)
  const touched: number[] = []
  const heap = new NodeHeap(nodeCount)
  /** Is there already a way from a to b for at most so much? */
  const within = (a: number, b: number, most: number): boolean => {
    for (const n of touched) best[n] = Infinity
    touched.length = 0
    heap.clear()
    best[a] = 0
    touched.push(a)
    heap.push(a, 0)
    while (heap.size > 0) {
      const n = heap.pop()
      if (n === b) return true
      for (let e = newest[n]; e >= 0; e = older[e]) {
        const c = best[n] + costs[e]
        if (c > most || c >= best[ends[e]]) continue
        if (best[ends[e]] === Infinity) touched.push(ends[e])
        best[ends[e]] = c
        heap.push(ends[e], c)
      }
    }
    return false
  }
  const kept: number[] = []
  for (const k of order) {
    const { from, to, cost, twoWay } = links[k]
    const most = cost * stretch * (1 + 1e-12)
    if (within(from, to, most) && (!twoWay || within(to, from, most))) continue
    kept.push(k)
    add(from, to, cost)
    if (twoWay) add(to, from, cost)
  }
  return kept.sort((a, b) => a - b)
}
