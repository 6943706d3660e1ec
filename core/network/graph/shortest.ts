import { reversed, type Graph } from './graph'
import { NodeHeap } from './heap'
import { dijkstra } from './dijkstra'

export interface ShortestWay {
  /** The nodes from start to end, both among them. */
  readonly nodes: readonly number[]
  /** The edges between them, by the number each was given with. */
  readonly edges: readonly number[]
  readonly cost: number
}

/** How many landmarks a search looks at: those that promise most for its two ends. */
const LOOKED_AT = 4

/**
 * Shortest ways over one graph: A* (Hart, Nilsson and Raphael 1968) with the straight distance as its heuristic or, once
 * prepared, with distances from and to landmarks and the triangle inequality (Goldberg and Harrelson 2005). What is
 * found is always a shortest way. One finder serves one graph; a search allocates nothing but its answer.
 */
export class ShortestPaths {
  private readonly cost: Float64Array
  private readonly by: Int32Array
  private readonly before: Int32Array
  /** The number of the search that last met a node. */
  private readonly met: Uint32Array
  private readonly heap: NodeHeap
  private search = 0
  /** Least that an edge costs for each metre between its ends: what makes the straight distance an admissible heuristic. */
  private readonly perMetre: number
  /** Costs from and to each landmark, a row of all nodes each. */
  private landmarks: { from: Float64Array; to: Float64Array }[] = []
  private readonly active: { from: Float64Array; to: Float64Array; fromEnd: number; toEnd: number }[] = []
  /** Nodes the last search looked at. */
  settled = 0

  constructor(readonly graph: Graph) {
    const { nodeCount } = graph
    this.cost = new Float64Array(nodeCount)
    this.by = new Int32Array(nodeCount)
    this.before = new Int32Array(nodeCount)
    this.met = new Uint32Array(nodeCount)
    this.heap = new NodeHeap(nodeCount)
    this.perMetre = leastPerMetre(graph)
  }

  /** Chooses landmarks, each as far as can be from those before, and works out what it costs from and to them. */
  prepare(count = 12): void {
    const { graph } = this
    const back = reversed(graph)
    this.landmarks = []
    if (graph.nodeCount === 0) return
    const nearest = new Float64Array(graph.nodeCount).fill(Infinity)
    let next = farthest(dijkstra(graph, [0]).cost)
    for (let k = 0; k < Math.min(count, graph.nodeCount); k++) {
      const from = dijkstra(graph, [next]).cost
      this.landmarks.push({ from, to: dijkstra(back, [next]).cost })
      for (let n = 0; n < nearest.length; n++) nearest[n] = Math.min(nearest[n], from[n])
      next = farthest(nearest)
    }
  }

  /** The cheapest way, or undefined when nothing leads there. @throws RangeError for nodes there are none of */
  find(from: number, to: number): ShortestWay | undefined {
    const { graph, cost, by, before, met, heap } = this
    const { nodeCount, first, to: ends, cost: edgeCost } = graph
    if (!(from >= 0 && from < nodeCount && to >= 0 && to < nodeCount))
      throw new RangeError(`no nodes ${from} and ${to} among ${nodeCount}`)
    const search = ++this.search
    this.choose(from, to)
    heap.clear()
    this.settled = 0
    cost[from] = 0
    by[from] = before[from] = -1
    met[from] = search
    heap.push(from, this.heuristic(from, to))
    while (heap.size > 0) {
      const n = heap.pop()
      this.settled++
      if (n === to) return this.trace(to)
      const here = cost[n]
      for (let e = first[n]; e < first[n + 1]; e++) {
        const m = ends[e]
        const c = here + edgeCost[e]
        if (met[m] === search && c >= cost[m]) continue
        met[m] = search
        cost[m] = c
        by[m] = e
        before[m] = n
        heap.push(m, c + this.heuristic(m, to))
      }
    }
    return undefined
  }

  /** A bound below what it costs from a node to the end. */
  private heuristic(node: number, to: number): number {
    const { active, graph, perMetre } = this
    let best = 0
    if (active.length > 0) {
      for (let k = 0; k < active.length; k++) {
        const { from, to: towards, fromEnd, toEnd } = active[k]
        const ahead = fromEnd - from[node]
        const behind = towards[node] - toEnd
        // What a landmark does not reach gives no bound: Infinity less Infinity is not a number and loses here.
        if (ahead > best && ahead < Infinity) best = ahead
        if (behind > best && behind < Infinity) best = behind
      }
      return best
    }
    if (perMetre === 0) return 0
    const { xy } = graph
    const dx = xy[2 * node] - xy[2 * to]
    const dy = xy[2 * node + 1] - xy[2 * to + 1]
    // A hair less, so that rounding never makes it inadmissible.
    return perMetre * Math.sqrt(dx * dx + dy * dy) * (1 - 1e-12)
  }

  /** The landmarks with the highest bounds for the two ends. */
  private choose(from: number, to: number): void {
    this.active.length = 0
    const rated = this.landmarks.map((mark) => {
      const bounds = [mark.from[to] - mark.from[from], mark.to[from] - mark.to[to]].filter((b) => b < Infinity)
      return { mark, bound: Math.max(0, ...bounds) }
    })
    rated.sort((a, b) => b.bound - a.bound)
    for (const { mark } of rated.slice(0, LOOKED_AT))
      this.active.push({ ...mark, fromEnd: mark.from[to], toEnd: mark.to[to] })
  }

  private trace(to: number): ShortestWay {
    const nodes: number[] = []
    const edges: number[] = []
    for (let n = to; n >= 0; n = this.before[n]) {
      nodes.push(n)
      if (this.by[n] >= 0) edges.push(this.graph.given[this.by[n]])
    }
    return { nodes: nodes.reverse(), edges: edges.reverse(), cost: this.cost[to] }
  }
}

/** The node that costs most, of those that can be reached; the first that cannot when there is one. */
function farthest(cost: Float64Array): number {
  let best = 0
  for (let n = 0; n < cost.length; n++) {
    if (cost[n] === Infinity) return n
    if (cost[n] > cost[best]) best = n
  }
  return best
}

function leastPerMetre({ nodeCount, first, to, cost, xy }: Graph): number {
  if (xy.length === 0) return 0
  let least = Infinity
  for (let n = 0; n < nodeCount; n++) {
    for (let e = first[n]; e < first[n + 1]; e++) {
      const dx = xy[2 * n] - xy[2 * to[e]]
      const dy = xy[2 * n + 1] - xy[2 * to[e] + 1]
      const metres = Math.sqrt(dx * dx + dy * dy)
      if (metres > 0) least = Math.min(least, cost[e] / metres)
    }
  }
  return least === Infinity ? 0 : least
}
