import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { chance } from '@tidytrail/core/testing'
import {
  articulationPoints,
  weaklyConnected,
  makeGraph,
  pruneLinks,
  ShortestPaths,
  dijkstra,
  stronglyConnected,
  type Graph,
} from '.'

/** A random directed graph with places; costs at least the straight distance, some edges doubled. */
const graphs = fc
  .record({
    n: fc.integer({ min: 1, max: 14 }),
    places: fc.array(fc.tuple(fc.nat(100), fc.nat(100)), { minLength: 14, maxLength: 14 }),
    edges: fc.array(fc.tuple(fc.nat(999), fc.nat(999), fc.double({ min: 1, max: 3, noNaN: true })), { maxLength: 40 }),
    place: fc.boolean(),
  })
  .map(({ n, places, edges, place }) => {
    const xy = Float64Array.from(places.slice(0, n).flat())
    const from = edges.map(([a]) => a % n)
    const to = edges.map(([, b]) => b % n)
    const cost = edges.map(([, , f], k) =>
      place ? f * Math.hypot(xy[2 * from[k]] - xy[2 * to[k]], xy[2 * from[k] + 1] - xy[2 * to[k] + 1]) : f,
    )
    return { n, from, to, cost, graph: makeGraph({ nodeCount: n, from, to, cost, xy: place ? xy : undefined }) }
  })

/** Costs between all nodes, slow and obvious (Floyd 1962, Warshall 1962). */
function allCosts(n: number, from: number[], to: number[], cost: number[], without = -1): number[][] {
  const d = Array.from({ length: n }, (_, i) => Array.from({ length: n }, (_, j) => (i === j ? 0 : Infinity)))
  from.forEach((a, k) => (d[a][to[k]] = Math.min(d[a][to[k]], cost[k])))
  for (let k = 0; k < n; k++) {
    if (k === without) continue
    for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) d[i][j] = Math.min(d[i][j], d[i][k] + d[k][j])
  }
  return d
}

describe('shortest ways', () => {
  it('cost what the slow way says, with and without landmarks, and their edges add up', () => {
    fc.assert(
      fc.property(graphs, fc.integer({ min: 0, max: 5 }), ({ n, from, to, cost, graph }, landmarks) => {
        const finder = new ShortestPaths(graph)
        if (landmarks > 0) finder.prepare(landmarks)
        const slow = allCosts(n, from, to, cost)
        for (let a = 0; a < n; a++) {
          expect([...dijkstra(graph, [a]).cost].map((c) => +c.toFixed(6))).toEqual(slow[a].map((c) => +c.toFixed(6)))
          for (let b = 0; b < n; b++) {
            const path = finder.find(a, b)
            if (!path) {
              expect(slow[a][b]).toBe(Infinity)
              continue
            }
            expect(path.cost).toBeCloseTo(slow[a][b], 9)
            expect([path.nodes[0], path.nodes.at(-1)]).toEqual([a, b])
            path.edges.forEach((e, k) => expect([from[e], to[e]]).toEqual([path.nodes[k], path.nodes[k + 1]]))
            expect(path.edges.reduce((sum, e) => sum + cost[e], 0)).toBeCloseTo(path.cost, 9)
          }
        }
      }),
    )
  })

  it('look at far fewer nodes with landmarks than without on a big grid with a wall', () => {
    const side = 60
    const from: number[] = []
    const to: number[] = []
    const join = (a: number, b: number) => (from.push(a, b), to.push(b, a))
    for (let y = 0; y < side; y++)
      for (let x = 0; x < side; x++) {
        // A wall in the middle, open at the top only.
        if (x + 1 < side && (x !== side / 2 || y === side - 1)) join(y * side + x, y * side + x + 1)
        if (y + 1 < side) join(y * side + x, (y + 1) * side + x)
      }
    const xy = Float64Array.from({ length: 2 * side * side }, (_, k) =>
      k % 2 ? Math.floor(k / 2 / side) : (k / 2) % side,
    )
    // Costs that differ, so that there are not thousands of shortest ways to choose among.
    const next = chance(5)
    const cost: number[] = []
    for (let k = 0; k < from.length; k += 2) cost.push(...new Array<number>(2).fill(1 + next()))
    const finder = new ShortestPaths(makeGraph({ nodeCount: side * side, from, to, cost, xy }))
    const plain = finder.find(5, side - 6)!
    const looked = finder.settled
    finder.prepare()
    expect(finder.find(5, side - 6)!.cost).toBeCloseTo(plain.cost, 9)
    expect(finder.settled).toBeLessThan(looked / 3)
  })

  it('refuse nodes there are none of, and edges that lead nowhere or cost less than nothing', () => {
    const graph = makeGraph({ nodeCount: 2, from: [0], to: [1], cost: [1] })
    expect(() => new ShortestPaths(graph).find(0, 2)).toThrow('no nodes 0 and 2 among 2')
    expect(() => makeGraph({ nodeCount: 2, from: [0], to: [2], cost: [1] })).toThrow('edge 0 joins 0 and 2 of 2 nodes')
    expect(() => makeGraph({ nodeCount: 2, from: [0], to: [1], cost: [-1] })).toThrow('costs -1')
  })
})

/** How many parts there are when direction does not matter, without a node or an edge. */
function pieces(n: number, from: number[], to: number[], lessNode = -1, lessEdge = -1): number {
  const open = from.map((a, k) => k !== lessEdge && a !== lessNode && to[k] !== lessNode)
  const both = [from, to].flatMap((list) => list.filter((_, k) => open[k]))
  const back = [to, from].flatMap((list) => list.filter((_, k) => open[k]))
  const d = allCosts(
    n,
    both,
    back,
    both.map(() => 1),
  )
  const seen = new Set(d.map((row) => row.map((c) => c < Infinity).join()))
  return seen.size - (lessNode >= 0 ? 1 : 0)
}

describe('parts', () => {
  it('are those in which everything can reach everything, and those that hang together at all', () => {
    fc.assert(
      fc.property(graphs, ({ n, from, to, cost, graph }) => {
        const d = allCosts(n, from, to, cost)
        const strong = stronglyConnected(graph)
        const loose = weaklyConnected(graph)
        for (let a = 0; a < n; a++)
          for (let b = 0; b < n; b++)
            expect(strong.of[a] === strong.of[b]).toBe(d[a][b] < Infinity && d[b][a] < Infinity)
        expect(loose.sizes.length).toBe(pieces(n, from, to))
        for (const { of, sizes } of [strong, loose]) {
          expect(sizes).toEqual(sizes.map((_, p) => of.filter((q) => q === p).length))
          expect([...sizes]).toEqual([...sizes].sort((a, b) => b - a))
        }
      }),
    )
  })

  it('fall apart exactly at the cut nodes and bridges', () => {
    fc.assert(
      fc.property(graphs, ({ n, from, to, graph }) => {
        const whole = pieces(n, from, to)
        const cuts = articulationPoints(graph)
        const alone = (v: number) => from.every((a, k) => (a !== v && to[k] !== v) || a === to[k])
        for (let v = 0; v < n; v++)
          expect(cuts.nodes.includes(v)).toBe(pieces(n, from, to, v) > whole - (alone(v) ? 1 : 0))
        from.forEach((_, k) => expect(cuts.bridges.includes(k)).toBe(pieces(n, from, to, -1, k) > whole))
      }),
    )
  })

  it('of a chain of a hundred thousand nodes are found without running out of stack', () => {
    const n = 100_000
    const from = Array.from({ length: n - 1 }, (_, k) => k)
    const graph: Graph = makeGraph({ nodeCount: n, from, to: from.map((k) => k + 1), cost: from.map(() => 1) })
    expect(stronglyConnected(graph).sizes).toHaveLength(n)
    expect(weaklyConnected(graph).sizes).toEqual([n])
    expect(articulationPoints(graph).bridges).toHaveLength(n - 1)
  })
})

describe('pruning', () => {
  it('keeps its promise on every way, and keeps nothing that is not needed for it', () => {
    const stretches = fc.double({ min: 1, max: 3, noNaN: true })
    fc.assert(
      fc.property(graphs, stretches, fc.boolean(), ({ n, from, to, cost }, stretch, twoWay) => {
        const links = from.map((a, k) => ({ from: a, to: to[k], cost: cost[k], twoWay })).filter((l) => l.from !== l.to)
        const kept = pruneLinks(n, links, stretch)
        const costs = (list: typeof links) =>
          allCosts(
            n,
            list.flatMap((l) => (twoWay ? [l.from, l.to] : [l.from])),
            list.flatMap((l) => (twoWay ? [l.to, l.from] : [l.to])),
            list.flatMap((l) => (twoWay ? [l.cost, l.cost] : [l.cost])),
          )
        const before = costs(links)
        const after = costs(kept.map((k) => links[k]))
        for (let a = 0; a < n; a++)
          for (let b = 0; b < n; b++) expect(after[a][b]).toBeLessThanOrEqual(before[a][b] * stretch * (1 + 1e-9))
        for (const k of kept) {
          const shorter = costs(kept.filter((j) => j !== k && links[j].cost <= links[k].cost).map((j) => links[j]))
          const { from: a, to: b, cost: c } = links[k]
          const spare = shorter[a][b] <= c * stretch && (!twoWay || shorter[b][a] <= c * stretch)
          // Of links that cost the same the one given first counts as the shorter.
          if (spare) expect(kept.some((j) => j > k && links[j].cost === c)).toBe(true)
        }
      }),
    )
  })

  it('refuses a stretch below one', () => {
    expect(() => pruneLinks(2, [], 0.9)).toThrow('at least 1, got 0.9')
  })
})
