import type { Graph } from './graph'

/** Nodes by the part they belong to. Parts are numbered from 0, the largest first. */
export interface Parts {
  readonly of: Uint32Array
  /** Nodes in each part. */
  readonly sizes: readonly number[]
}

/**
 * Strongly connected parts: within one, every node can be reached from every other (Tarjan 1972), walked without
 * recursion so that long chains do no harm.
 */
export function stronglyConnected({ nodeCount, first, to }: Graph): Parts {
  const index = new Uint32Array(nodeCount)
  const low = new Uint32Array(nodeCount)
  const part = new Uint32Array(nodeCount)
  const next = first.slice(0, nodeCount)
  const onStack = new Uint8Array(nodeCount)
  const stack: number[] = []
  const call: number[] = []
  let count = 0
  let serial = 0
  for (let root = 0; root < nodeCount; root++) {
    if (index[root] > 0) continue
    call.push(root)
    while (call.length > 0) {
      const n = call[call.length - 1]
      if (index[n] === 0) {
        index[n] = low[n] = ++serial
        stack.push(n)
        onStack[n] = 1
      }
      let deeper = false
      while (next[n] < first[n + 1]) {
        const m = to[next[n]]
        if (index[m] === 0) {
          call.push(m)
          deeper = true
          break
        }
        if (onStack[m]) low[n] = Math.min(low[n], low[m])
        next[n]++
      }
      if (deeper) continue
      call.pop()
      if (low[n] === index[n]) {
        for (let m = -1; m !== n;) {
          m = stack.pop()!
          onStack[m] = 0
          part[m] = count
        }
        count++
      }
    }
  }
  return bySize(part, count)
}

/** Parts that hang together when direction does not matter. */
export function weaklyConnected({ nodeCount, first, to }: Graph): Parts {
  const root = Uint32Array.from({ length: nodeCount }, (_, n) => n)
  const find = (n: number): number => {
    while (root[n] !== n) n = root[n] = root[root[n]]
    return n
  }
  for (let n = 0; n < nodeCount; n++) {
    for (let e = first[n]; e < first[n + 1]; e++) {
      const a = find(n)
      const b = find(to[e])
      if (a !== b) root[Math.max(a, b)] = Math.min(a, b)
    }
  }
  const number = new Map<number, number>()
  const part = new Uint32Array(nodeCount)
  for (let n = 0; n < nodeCount; n++) {
    const r = find(n)
    if (!number.has(r)) number.set(r, number.size)
    part[n] = number.get(r)!
  }
  return bySize(part, number.size)
}

function bySize(part: Uint32Array, count: number): Parts {
  const sizes = new Array<number>(count).fill(0)
  const firstNode = new Array<number>(count).fill(Infinity)
  part.forEach((p, n) => {
    sizes[p]++
    firstNode[p] = Math.min(firstNode[p], n)
  })
  const order = sizes.map((_, p) => p).sort((a, b) => sizes[b] - sizes[a] || firstNode[a] - firstNode[b])
  const renumbered = new Uint32Array(count)
  order.forEach((p, k) => (renumbered[p] = k))
  return { of: part.map((p) => renumbered[p]), sizes: order.map((p) => sizes[p]) }
}

/** Where a graph is weakest when direction does not matter. */
export interface Cuts {
  /** Nodes whose loss parts what hung together. */
  readonly nodes: readonly number[]
  /** Edges, by the number they were given with, whose loss does. Edges that join the same two nodes guard each other. */
  readonly bridges: readonly number[]
}

/**
 * Cut nodes and bridges (Hopcroft and Tarjan 1973), walked without recursion.
 * @param same edges given under these numbers are one and the same both ways; by default each is one of its own
 */
export function articulationPoints(graph: Graph, same: (given: number) => number = (e) => e): Cuts {
  const { nodeCount, edgeCount, first, to, given } = graph
  // Undirected rows: every edge at both its ends, each pair of ways once.
  const degree = new Uint32Array(nodeCount + 1)
  const once = new Set<number>()
  const ends: number[] = []
  for (let n = 0; n < nodeCount; n++) {
    for (let e = first[n]; e < first[n + 1]; e++) {
      const key = same(given[e])
      if (to[e] === n || once.has(key)) continue
      once.add(key)
      ends.push(n, to[e], key)
      degree[n + 1]++
      degree[to[e] + 1]++
    }
  }
  for (let n = 0; n < nodeCount; n++) degree[n + 1] += degree[n]
  const fill = degree.slice(0, nodeCount)
  const other = new Uint32Array(2 * edgeCount)
  const name = new Uint32Array(2 * edgeCount)
  for (let k = 0; k < ends.length; k += 3) {
    const [a, b, key] = [ends[k], ends[k + 1], ends[k + 2]]
    other[fill[a]] = b
    name[fill[a]++] = key
    other[fill[b]] = a
    name[fill[b]++] = key
  }
  const index = new Uint32Array(nodeCount)
  const low = new Uint32Array(nodeCount)
  const came = new Float64Array(nodeCount).fill(-1)
  const next = degree.slice(0, nodeCount)
  const cut = new Uint8Array(nodeCount)
  const bridges: number[] = []
  let serial = 0
  for (let root = 0; root < nodeCount; root++) {
    if (index[root] > 0) continue
    const call = [root]
    let children = 0
    while (call.length > 0) {
      const n = call[call.length - 1]
      if (index[n] === 0) index[n] = low[n] = ++serial
      let deeper = false
      while (next[n] < degree[n + 1]) {
        const k = next[n]++
        const m = other[k]
        if (name[k] === came[n]) continue
        if (index[m] > 0) {
          low[n] = Math.min(low[n], index[m])
          continue
        }
        came[m] = name[k]
        call.push(m)
        deeper = true
        break
      }
      if (deeper) continue
      call.pop()
      if (call.length === 0) break
      const up = call[call.length - 1]
      low[up] = Math.min(low[up], low[n])
      if (low[n] > index[up]) bridges.push(came[n])
      if (up === root) children++
      else if (low[n] >= index[up]) cut[up] = 1
    }
    if (children > 1) cut[root] = 1
  }
  const nodes: number[] = []
  for (let n = 0; n < nodeCount; n++) if (cut[n]) nodes.push(n)
  return { nodes, bridges: bridges.sort((a, b) => a - b) }
}
