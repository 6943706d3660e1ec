/**
 * A directed graph in compressed sparse rows: the edges out of node n are those from `first[n]` up to `first[n + 1]`.
 * Laid out once and never changed.
 */
export interface Graph {
  readonly nodeCount: number
  readonly edgeCount: number
  /** nodeCount + 1 row starts. */
  readonly first: Uint32Array
  /** The node each edge leads to, and what it costs (not negative, of any one unit). */
  readonly to: Uint32Array
  readonly cost: Float64Array
  /** The number each edge had when it was given. */
  readonly given: Uint32Array
  /** Flat x, y pairs of the nodes, metres; empty where they have no place. */
  readonly xy: Float64Array
}

export interface EdgeList {
  readonly nodeCount: number
  readonly from: ArrayLike<number>
  readonly to: ArrayLike<number>
  readonly cost: ArrayLike<number>
  readonly xy?: Float64Array
}

/**
 * Lays a list of edges out by rows.
 * @throws RangeError when an edge names a node there is none of, or costs less than nothing
 */
export function makeGraph({ nodeCount, from, to, cost, xy = new Float64Array(0) }: EdgeList): Graph {
  const edgeCount = from.length
  if (to.length !== edgeCount || cost.length !== edgeCount)
    throw new RangeError(`expected ${edgeCount} ends and costs, got ${to.length} and ${cost.length}`)
  const first = new Uint32Array(nodeCount + 1)
  for (let e = 0; e < edgeCount; e++) {
    if (!(from[e] < nodeCount && to[e] < nodeCount && from[e] >= 0 && to[e] >= 0))
      throw new RangeError(`edge ${e} joins ${from[e]} and ${to[e]} of ${nodeCount} nodes`)
    if (!(cost[e] >= 0)) throw new RangeError(`edge ${e} costs ${cost[e]}`)
    first[from[e] + 1]++
  }
  for (let n = 0; n < nodeCount; n++) first[n + 1] += first[n]
  const fill = first.slice(0, nodeCount)
  const rows = { to: new Uint32Array(edgeCount), cost: new Float64Array(edgeCount), given: new Uint32Array(edgeCount) }
  for (let e = 0; e < edgeCount; e++) {
    const k = fill[from[e]]++
    rows.to[k] = to[e]
    rows.cost[k] = cost[e]
    rows.given[k] = e
  }
  return { nodeCount, edgeCount, first, ...rows, xy }
}

/** The same graph with every edge turned round. */
export function reversed(graph: Graph): Graph {
  const { nodeCount, edgeCount, first, to, cost, given, xy } = graph
  const from = new Uint32Array(edgeCount)
  for (let n = 0; n < nodeCount; n++) from.fill(n, first[n], first[n + 1])
  const back = makeGraph({ nodeCount, from: to, to: from, cost, xy })
  return { ...back, given: back.given.map((k) => given[k]) }
}
