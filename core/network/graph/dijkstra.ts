import type { Graph } from './graph'
import { NodeHeap } from './heap'

/** What it costs to get everywhere, and from where one comes. */
export interface Distances {
  /** Cost from the nearest start; Infinity where nothing leads. */
  readonly cost: Float64Array
  /** The edge, by its place in the rows, that each node is reached by; −1 for starts and what is out of reach. */
  readonly by: Int32Array
  /** The node before; −1 for starts and what is out of reach. */
  readonly before: Int32Array
}

/**
 * What it costs to get from some nodes to all others (Dijkstra 1959).
 * @param most nodes that would cost more are left at Infinity
 */
export function dijkstra(graph: Graph, starts: readonly number[], most = Infinity): Distances {
  const { nodeCount, first, to, cost: edgeCost } = graph
  const cost = new Float64Array(nodeCount).fill(Infinity)
  const by = new Int32Array(nodeCount).fill(-1)
  const before = new Int32Array(nodeCount).fill(-1)
  const heap = new NodeHeap(nodeCount)
  for (const s of starts) {
    cost[s] = 0
    heap.push(s, 0)
  }
  while (heap.size > 0) {
    const n = heap.pop()
    for (let e = first[n]; e < first[n + 1]; e++) {
      const m = to[e]
      const c = cost[n] + edgeCost[e]
      if (c >= cost[m] || c > most) continue
      cost[m] = c
      by[m] = e
      before[m] = n
      heap.push(m, c)
    }
  }
  return { cost, by, before }
}
