import { distance2, lengthOf, type Point3 } from '@tidytrail/core/geometry'
import FlatQueue from 'flatqueue'
import type { ReachMap, Spot } from './map'
import type { UsablePassage } from './passages'
import type { FoundPath, PassageUse } from './found-path'

/** Somebody's place on the reach map. */
export interface Stand {
  readonly spot: Spot
  readonly at: Point3
}

/** One end of a passage that can be entered there. */
interface Entrance extends Stand {
  readonly passage: UsablePassage
  readonly exit: Stand
  readonly island: number
  readonly exitIsland: number
}

/**
 * Ways over several passages: shortest paths between entrances (Dijkstra 1959) with what has to be walked in between
 * worked out only when it could matter, the straight distance standing in for it until then.
 */
export class PassageNet {
  private readonly entrances: readonly Entrance[]
  /** What is walked from one passage's exit to another's entrance: worked out once. */
  private readonly between = new Map<number, Point3[] | undefined>()
  /** Is some passage quicker than the straight line? Otherwise no way costs less than straight to its end. */
  private readonly quick: boolean

  constructor(
    private readonly map: ReachMap,
    passages: readonly UsablePassage[],
    private readonly speedMps: number,
    private readonly walk: (a: Stand, b: Stand) => Point3[] | undefined,
  ) {
    this.quick = passages.some((p) => p.takesS * speedMps < distance2(p.from, p.to))
    this.entrances = passages.flatMap((passage) => {
      const from = { spot: passage.fromSpot, at: passage.from }
      const to = { spot: passage.toSpot, at: passage.to }
      const entrance = (a: Stand, b: Stand): Entrance => ({
        ...a,
        passage,
        exit: b,
        island: map.islandOf(a.spot),
        exitIsland: map.islandOf(b.spot),
      })
      return passage.twoWay ? [entrance(from, to), entrance(to, from)] : [entrance(from, to)]
    })
  }

  /** A way over at least one passage that costs less than another known one, metres; undefined when there is none. */
  find(start: Stand, end: Stand, lessThanM: number): FoundPath | undefined {
    const { entrances } = this
    const n = entrances.length
    const endIsland = this.map.islandOf(end.spot)
    const cost = new Float64Array(n).fill(Infinity)
    const cameFrom = new Int32Array(n).fill(-1)
    const done = new Uint8Array(n)
    const lines: (Point3[] | undefined)[] = []
    let best = lessThanM
    let last = -1
    let lastLine: Point3[] | undefined
    // Entries stand for a walk from the exit of passage u (−1: the start) to entrance v (n: the end), tried or not.
    const queue = new FlatQueue<number>()
    const width = n + 1
    /** The least it can still cost from an entrance on (A*, Hart, Nilsson and Raphael 1968). */
    const ahead = new Float64Array(n + 1)
    if (!this.quick) {
      for (let v = 0; v < n; v++)
        ahead[v] = entrances[v].passage.takesS * this.speedMps + distance2(entrances[v].exit.at, end.at)
    }
    const costs = new Map<number, number>()
    const offer = (u: number, v: number, sure: boolean, value: number) => {
      const f = value + ahead[v]
      if (f >= best) return
      const entry = (((u + 1) * width + v) << 1) | (sure ? 1 : 0)
      costs.set(entry, value)
      queue.push(entry, f)
    }
    const spread = (u: number, from: Stand, island: number, soFar: number) => {
      for (let v = 0; v < n; v++) {
        if (done[v] || entrances[v].island !== island) continue
        if (u >= 0 && entrances[v].passage === entrances[u].passage) continue
        offer(u, v, false, soFar + distance2(from.at, entrances[v].at))
      }
      if (u >= 0 && island === endIsland) offer(u, n, false, soFar + distance2(from.at, end.at))
    }
    const exitCost = (u: number) => (u < 0 ? 0 : cost[u] + entrances[u].passage.takesS * this.speedMps)
    const walks = new Map<number, Point3[]>()
    spread(-1, start, this.map.islandOf(start.spot), 0)
    while (queue.length > 0) {
      if (queue.peekValue()! >= best) break
      const entry = queue.pop()!
      const value = costs.get(entry)!
      const sure = (entry & 1) === 1
      const key = entry >> 1
      const u = Math.floor(key / width) - 1
      const v = key % width
      if (v < n && done[v]) continue
      if (!sure) {
        const line = this.walkBetween(u, v, start, end)
        if (!line) continue
        walks.set(key, line)
        offer(u, v, true, exitCost(u) + lengthOf(line))
        continue
      }
      const line = walks.get(key)!
      if (v === n) {
        best = value
        last = u
        lastLine = line
        break
      }
      done[v] = 1
      cost[v] = value
      cameFrom[v] = u
      lines[v] = line
      spread(v, entrances[v].exit, entrances[v].exitIsland, exitCost(v))
    }
    return last < 0 || !lastLine ? undefined : this.trace(last, lastLine, cameFrom, lines)
  }

  private walkBetween(u: number, v: number, start: Stand, end: Stand): Point3[] | undefined {
    const { entrances } = this
    const from = u < 0 ? start : entrances[u].exit
    const to = v === entrances.length ? end : entrances[v]
    if (u < 0 || v === entrances.length) return this.walk(from, to)
    const key = u * entrances.length + v
    if (!this.between.has(key)) this.between.set(key, this.walk(from, to))
    return this.between.get(key)
  }

  private trace(
    last: number,
    lastLine: Point3[],
    cameFrom: Int32Array,
    lines: readonly (Point3[] | undefined)[],
  ): FoundPath {
    const order: number[] = []
    for (let v = last; v >= 0; v = cameFrom[v]) order.unshift(v)
    const line: Point3[] = []
    const uses: PassageUse[] = []
    for (const v of order) {
      const { passage } = this.entrances[v]
      line.push(...lines[v]!)
      uses.push({ passageId: passage.id, kind: passage.kind, at: line.length - 1, takesS: passage.takesS })
    }
    line.push(...lastLine)
    return { found: true, line, lengthM: lengthOf(line), uses }
  }
}
