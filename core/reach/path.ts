import { distance2, lengthOf, type Point3 } from '@tidytrail/core/geometry'
import FlatQueue from 'flatqueue'
import { CornerGraph } from './corners'
import type { FoundPath, PathAnswer } from './found-path'
import { gridPath, type PathPlace } from './grid-path'
import type { ReachMap, Spot } from './map'
import { PassageNet, type Stand } from './passage-net'
import type { UsablePassage } from './passages'
import { Shadows } from './shadows'
import { StraightWalker } from './sight'

/** Finds any-angle shortest paths over one reach map. Keep one for as long as the map lives. */
export class PathFinder {
  private readonly walker: StraightWalker
  private readonly corners: CornerGraph
  private cost = new Float64Array(0)
  private parent = new Int32Array(0)
  /** Query number in which a corner was last met, and last closed. */
  private met = new Int32Array(0)
  private closed = new Int32Array(0)
  private query = 0
  private readonly queue = new FlatQueue<number>()
  private net: PassageNet | undefined
  /** What hides corners from the start, and from the end. */
  private readonly fromStart: Shadows
  private readonly fromEnd: Shadows

  constructor(private readonly map: ReachMap) {
    this.walker = new StraightWalker(map)
    this.corners = new CornerGraph(map, this.walker)
    this.fromStart = new Shadows(map, this.walker)
    this.fromEnd = new Shadows(map, this.walker)
  }

  /**
   * The passages to be used from now on.
   * @param speedMps what a second in a passage is worth in metres walked
   */
  usePassages(passages: readonly UsablePassage[], speedMps: number): void {
    this.net =
      passages.length > 0 ? new PassageNet(this.map, passages, speedMps, (a, b) => this.direct(a, b)) : undefined
  }

  /** The shortest way from one place to another, over passages where that is quicker; or why there is none. */
  find(from: Point3, to: Point3): PathAnswer {
    const { map } = this
    const start = map.reachedAt(from[0], from[1], from[2])
    if (!start) return { found: false, why: 'start-off-reach', stopsAt: null }
    const end = map.reachedAt(to[0], to[1], to[2])
    if (!end) return { found: false, why: 'end-off-reach', stopsAt: this.stopsAt(from, start, to) }
    const a = { spot: start, at: this.placeOn(start, from) }
    const b = { spot: end, at: this.placeOn(end, to) }
    const onFoot = this.direct(a, b)
    const through = this.net?.find(a, b, onFoot ? lengthOf(onFoot) : Infinity)
    if (through) return through
    return onFoot ? found(onFoot) : { found: false, why: 'apart', stopsAt: this.stopsAt(from, start, to) }
  }

  /** The shortest way without passages, corner by corner; undefined when the two lie on different islands. */
  private direct(a: Stand, b: Stand): Point3[] | undefined {
    const { map } = this
    if (map.islandOf(a.spot) !== map.islandOf(b.spot)) return undefined
    if (this.walker.walk(a.spot, a.at[0], a.at[1], b.at[0], b.at[1]) && this.walker.endedOn(b.spot)) return [a.at, b.at]
    const places = this.search(a, b, false) ?? this.search(a, b, true) ?? gridPath(map, a.spot, b.spot)
    return places && this.pullTight(places, a, b)
  }

  /** Height of the floor the last straight walk ended on, metres. */
  endedAt = 0

  /** Where a straight walk from one place towards another has to stop; the far end when it need not. */
  straight(from: Point3, to: Point3): { clear: boolean; at: Point3 } {
    const start = this.map.reachedAt(from[0], from[1], from[2])
    if (!start) return { clear: false, at: from }
    const a = this.placeOn(start, from)
    const clear = this.walker.walk(start, a[0], a[1], to[0], to[1])
    this.endedAt = this.map.zOf(this.walker.here())
    return { clear, at: clear ? to : this.endOfWalk(a, to) }
  }

  private stopsAt(from: Point3, start: Spot, to: Point3): Point3 {
    const a = this.placeOn(start, from)
    this.walker.walk(start, a[0], a[1], to[0], to[1])
    return this.endOfWalk(a, to)
  }

  private endOfWalk(a: Point3, to: Point3): Point3 {
    const t = this.walker.share
    return [a[0] + (to[0] - a[0]) * t, a[1] + (to[1] - a[1]) * t, this.map.zOf(this.walker.here())]
  }

  /** The place itself when the body can be just there, otherwise the nearest it can be in the floor's column. */
  private placeOn(spot: Spot, at: Point3): Point3 {
    const { map } = this
    const half = map.source.cellM / 2 + 1e-9
    const over = Math.abs(at[0] - map.middleX(spot)) <= half && Math.abs(at[1] - map.middleY(spot)) <= half
    return over ? [at[0], at[1], map.zOf(spot)] : map.placeOn(spot)
  }

  private prepare(): void {
    const { corners } = this
    if (corners.sync() || corners.size > this.cost.length) {
      this.cost = new Float64Array(corners.size)
      this.parent = new Int32Array(corners.size)
      this.met = new Int32Array(corners.size)
      this.closed = new Int32Array(corners.size)
      this.query = 0
    }
  }

  /**
   * A* over the corners, from the start's floor to the end's (Hart, Nilsson and Raphael 1968); sight is tested late.
   * @param everywhere begin with every corner of the island, not only those near the start
   */
  private search(from: Stand, to: Stand, everywhere: boolean): PathPlace[] | undefined {
    this.prepare()
    const { cost, parent, met, closed, queue, corners } = this
    const query = ++this.query
    const { spot: start, at: a } = from
    const { at: b } = to
    const island = this.map.islandOf(start)
    const ahead = (x: number, y: number) => Math.sqrt((x - b[0]) * (x - b[0]) + (y - b[1]) * (y - b[1]))
    // Entries: 2n for a corner reached from another, 2n + 1 for one hoped to be seen from the start, −1 − n for the
    // end seen from corner n.
    queue.clear()
    this.fromStart.standAt(a[0], a[1])
    this.fromEnd.standAt(b[0], b[1])
    corners.eachNear(a[0], a[1], island, everywhere, (n, x, y) => {
      const dx = x - a[0]
      const dy = y - a[1]
      if (corners.taut(n, dx, dy)) queue.push(2 * n + 1, Math.sqrt(dx * dx + dy * dy) + ahead(x, y))
    })
    let best = Infinity
    while (queue.length > 0) {
      const entry = queue.pop()!
      if (entry < 0) return this.trace(-1 - entry, from, to)
      const n = entry >> 1
      if (closed[n] === query) continue
      const x = corners.x(n)
      const y = corners.y(n)
      if (entry & 1) {
        if (!this.sees(this.fromStart, from, n)) continue
        cost[n] = Math.sqrt((x - a[0]) * (x - a[0]) + (y - a[1]) * (y - a[1]))
        parent[n] = -1
      }
      closed[n] = query
      const p = parent[n]
      const cameX = x - (p < 0 ? a[0] : corners.x(p))
      const cameY = y - (p < 0 ? a[1] : corners.y(p))
      const goalCost = cost[n] + ahead(x, y)
      if (goalCost < best && corners.bends(n, cameX, cameY, b[0] - x, b[1] - y) && this.sees(this.fromEnd, to, n)) {
        best = goalCost
        queue.push(-1 - n, goalCost)
      }
      const neighbours = corners.neighbours(n, island)
      for (let q = 0; q < neighbours.length; q++) {
        const m = neighbours[q]
        if (closed[m] === query) continue
        const mx = corners.x(m)
        const my = corners.y(m)
        if (!corners.bends(n, cameX, cameY, mx - x, my - y)) continue
        const next = cost[n] + Math.sqrt((mx - x) * (mx - x) + (my - y) * (my - y))
        if (met[m] === query && next >= cost[m]) continue
        met[m] = query
        cost[m] = next
        parent[m] = n
        const f = next + ahead(mx, my)
        if (f < best) queue.push(2 * m, f)
      }
    }
    return undefined
  }

  /** Can one walk straight from a place to a corner? */
  private sees(shadows: Shadows, { spot, at }: Stand, n: number): boolean {
    const { corners, walker } = this
    const x = corners.x(n)
    const y = corners.y(n)
    if (shadows.hides(x, y)) return false
    if (walker.walk(spot, at[0], at[1], x, y)) return walker.endedOn(corners.spot(n))
    shadows.remember()
    return false
  }

  private trace(last: number, a: Stand, b: Stand): PathPlace[] {
    const { corners } = this
    const places = [placeOf(b)]
    for (let n = last; n >= 0; n = this.parent[n])
      places.push({ spot: corners.spot(n), x: corners.x(n), y: corners.y(n) })
    places.push(placeOf(a))
    return places.reverse()
  }

  /** Drops every corner that can be walked past straight. */
  private pullTight(through: readonly PathPlace[], a: Stand, b: Stand): Point3[] {
    const { map, walker } = this
    const places = [placeOf(a), ...through.slice(1, -1), placeOf(b)]
    const kept = [0]
    let at = 0
    while (at < places.length - 1) {
      let next = at + 1
      for (let probe = at + 2; probe < places.length; probe++) {
        const { spot, x, y } = places[probe]
        if (!(walker.walk(places[at].spot, places[at].x, places[at].y, x, y) && walker.endedOn(spot))) break
        next = probe
      }
      kept.push(next)
      at = next
    }
    return kept.map((k) => [places[k].x, places[k].y, map.zOf(places[k].spot)])
  }
}

const placeOf = ({ spot, at }: Stand): PathPlace => ({ spot, x: at[0], y: at[1] })

function found(line: Point3[]): FoundPath {
  return { found: true, line, lengthM: lengthOf(line), uses: [] }
}

/** Time a way takes at a speed, its passages taken in their own time, seconds. */
export function travelTimeS(path: FoundPath, speedMps: number): number {
  let walkedM = path.lengthM
  let seconds = 0
  for (const use of path.uses) {
    walkedM -= distance2(path.line[use.at], path.line[use.at + 1])
    seconds += use.takesS
  }
  return Math.max(0, walkedM) / speedMps + seconds
}
