import { makeGraph, ShortestPaths } from '@tidytrail/core/network'
import { chance } from '@tidytrail/core/testing'
import KDBush from 'kdbush'
import createGraph from 'ngraph.graph'
import path from 'ngraph.path'
import { quantile, report, timed } from './measure'

const NODES = 100_000
const EDGES = 300_000
const QUERIES = 200
const SIDE_M = 10_000

/** Nodes strewn over ten kilometres, each joined both ways to the nearest of those it is not joined to yet. */
function strewn() {
  const next = chance(41)
  const xy = Float64Array.from({ length: 2 * NODES }, () => next() * SIDE_M)
  const index = new KDBush(NODES)
  for (let n = 0; n < NODES; n++) index.add(xy[2 * n], xy[2 * n + 1])
  index.finish()
  const metres = (a: number, b: number) => Math.hypot(xy[2 * a] - xy[2 * b], xy[2 * a + 1] - xy[2 * b + 1])
  const seen = new Set<number>()
  const from: number[] = []
  const to: number[] = []
  const cost: number[] = []
  for (let round = 0; from.length < 2 * EDGES; round++) {
    for (let n = 0; n < NODES && from.length < 2 * EDGES; n++) {
      const near = index
        .within(xy[2 * n], xy[2 * n + 1], 60 + 30 * round)
        .filter((m) => m !== n && !seen.has(Math.min(m, n) * NODES + Math.max(m, n)))
        .sort((a, b) => metres(n, a) - metres(n, b))
      if (near.length === 0) continue
      const m = near[0]
      seen.add(Math.min(m, n) * NODES + Math.max(m, n))
      const c = metres(n, m) * (1 + next())
      from.push(n, m)
      to.push(m, n)
      cost.push(c, c)
    }
  }
  return { xy, from, to, cost, metres }
}

/** Shortest ways beside ngraph.path's A* on the same graph, with the same hope. */
export function benchNetwork(): void {
  const { xy, from, to, cost, metres } = strewn()
  const made = timed(() => makeGraph({ nodeCount: NODES, from, to, cost, xy }))
  const ours = new ShortestPaths(made.value)
  const theirs = createGraph<undefined, number>()
  for (let n = 0; n < NODES; n++) theirs.addNode(n)
  for (let e = 0; e < from.length; e += 2) theirs.addLink(from[e], to[e], cost[e])
  const aStar = path.aStar(theirs, {
    distance: (_a, _b, link) => link.data,
    heuristic: (a, b) => metres(a.id as number, b.id as number),
  })
  const next = chance(7)
  const pairs = Array.from({ length: QUERIES }, () => [Math.floor(next() * NODES), Math.floor(next() * NODES)])
  const costs: number[][] = [[], [], []]
  const run = (k: number, find: (a: number, b: number) => number) =>
    pairs.map(([a, b]) => {
      const { ms, value } = timed(() => find(a, b))
      costs[k].push(value)
      return ms
    })
  const plain = run(0, (a, b) => ours.find(a, b)?.cost ?? Infinity)
  const prepare = timed(() => ours.prepare(16))
  const prepared = run(1, (a, b) => ours.find(a, b)?.cost ?? Infinity)
  const reference = run(2, (a, b) => {
    const nodes = aStar.find(a, b).map((n) => n.id as number)
    if (nodes.length === 0) return a === b ? 0 : Infinity
    let sum = 0
    for (let k = 1; k < nodes.length; k++)
      sum += (theirs.getLink(nodes[k], nodes[k - 1]) ?? theirs.getLink(nodes[k - 1], nodes[k]))!.data
    return sum
  })
  const off = costs[0].filter(
    (c, k) => Math.abs(c - costs[1][k]) > 1e-6 * c || (c < Infinity && costs[2][k] < c * (1 - 1e-9)),
  ).length
  if (off > 0) throw new Error(`${off} of ${QUERIES} shortest ways differ`)
  const mean = (list: number[]) => list.reduce((a, b) => a + b, 0) / list.length
  const what = `${NODES.toLocaleString('en')} nodes, ${EDGES.toLocaleString('en')} edges both ways`
  report({ what: `graph of ${what}, laid out`, measured: made.ms, unit: 'ms' })
  report({ what: 'landmarks of that graph, prepared', measured: prepare.ms, unit: 'ms' })
  report({
    what: 'shortest path, prepared: times as fast as ngraph.path',
    measured: mean(reference) / mean(prepared),
    unit: '×',
    budget: 10,
    less: false,
    reference: `mean ${mean(prepared).toFixed(2)} ms, median ${quantile(prepared, 0.5).toFixed(2)} ms; ngraph.path A* mean ${mean(reference).toFixed(1)} ms`,
  })
  report({
    what: 'shortest path, unprepared: times as fast as ngraph.path',
    measured: mean(reference) / mean(plain),
    unit: '×',
    budget: 1,
    less: false,
    reference: `mean ${mean(plain).toFixed(2)} ms`,
  })
}
