import { wrapAngle } from '@tidytrail/core/geometry'
import type { Junction } from '@tidytrail/core/level'
import { THROUGH_RAD } from './joins'
import {
  firstBySide,
  pairKey,
  pairsOf,
  waysOf,
  whoYields,
  yieldIn,
  yieldOf,
  yieldsBetween,
  yieldsTo,
  type JunctionParts,
  type Pair,
  type Way,
} from './junction'
import type { LaneNet } from './net'

/** How much a way has the right of way by itself, the more the greater: through before turning, towards the kerb before across. */
function rankOf(way: Way, drivesOn: 'left' | 'right'): number {
  if (!way.isLink) return 3
  if (Math.abs(way.turnRad) < THROUGH_RAD) return 2
  return way.turnRad > 0 === (drivesOn === 'left') ? 1 : 0
}

/**
 * Who gives way to whom, as it mostly is: those of the lesser road to those of the main one, who turns across to who
 * comes towards; along equal roads priority is from one side. The main road is the one whose lanes lead straight
 * through without a link, or else is faster, has more lanes, or comes first.
 * @param stops do those of the lesser road stand still first?
 * @returns what has been said already and stays, and what is added
 */
export function usualYields(level: JunctionParts, net: LaneNet, junction: Junction, stops = false): Junction['yields'] {
  const pairs = pairsOf(level, net, { ...junction, control: junction.control === 'signals' ? 'signals' : 'none' })
  const { drivesOn } = level.settings
  const main = mainApproaches(net, waysOf(level, net, junction))
  const given = yieldsBetween(junction)
  const yields = junction.yields.filter((y) => whoYields(y) && yieldsTo(y))
  for (const { a, b, settled } of pairs) {
    if (settled.by !== 'nothing' || given.has(pairKey(a.id, b.id)) || given.has(pairKey(b.id, a.id))) continue
    const first = goesFirst(a, b, main, drivesOn)
    const [who, to] = first === a.id ? [b, a] : [a, b]
    const fromMinor = main.has(to.from) && !main.has(who.from)
    yields.push(yieldOf(who, to, stops && fromMinor))
  }
  return yields
}

function goesFirst(a: Way, b: Way, main: ReadonlySet<string>, drivesOn: 'left' | 'right'): string {
  const [ma, mb] = [main.has(a.from), main.has(b.from)]
  if (ma !== mb) return ma ? a.id : b.id
  const [ra, rb] = [rankOf(a, drivesOn), rankOf(b, drivesOn)]
  const facing = Math.abs(wrapAngle(b.inRad - a.inRad)) > Math.PI - 0.9
  if (facing && ra !== rb) return ra > rb ? a.id : b.id
  return firstBySide(a, b, drivesOn) ?? (ra === rb ? (a.id < b.id ? a.id : b.id) : ra > rb ? a.id : b.id)
}

/** The lanes of the main road: the first approach and those that face it. */
function mainApproaches(net: LaneNet, ways: readonly Way[]): Set<string> {
  const throughs = ways.filter((w) => !w.isLink)
  if (throughs.length > 0) return new Set(throughs.map((w) => w.from))
  const approaches = [...new Set(ways.map((w) => w.from))]
  const headed = (id: string) => ways.find((w) => w.from === id)!.inRad
  const beside = (id: string) =>
    approaches.filter((o) => Math.abs(wrapAngle(headed(o) - headed(id))) < THROUGH_RAD).length
  const opposed = (id: string) =>
    approaches.some((o) => Math.abs(wrapAngle(headed(o) - headed(id))) > Math.PI - THROUGH_RAD)
  const score = (id: string) => {
    const { speedLimitMps, widthM } = net.lanes.get(id)!.route
    return (opposed(id) ? 1000 : 0) + 10 * (speedLimitMps ?? 14) + 5 * beside(id) + widthM
  }
  const best = [...approaches].sort((p, q) => score(q) - score(p) || (p < q ? -1 : 1))[0]
  if (best === undefined) return new Set()
  const along = (id: string) => {
    const off = Math.abs(wrapAngle(headed(id) - headed(best)))
    return off < THROUGH_RAD || off > Math.PI - THROUGH_RAD
  }
  return new Set(approaches.filter(along))
}

/** A round of ways each of which gives way to the next, so that nobody may ever go; undefined when there is none. */
export function yieldRing(pairs: readonly Pair[]): string[] | undefined {
  const to = new Map<string, string[]>()
  for (const pair of pairs) {
    const waits = yieldIn(pair)
    if (waits) to.set(waits.own.id, [...(to.get(waits.own.id) ?? []), waits.other.id])
  }
  const done = new Set<string>()
  for (const start of to.keys()) {
    if (done.has(start)) continue
    // Depth first, with the way that led here.
    const path: string[] = []
    const on = new Set<string>()
    const stack: { id: string; next: number }[] = [{ id: start, next: 0 }]
    path.push(start)
    on.add(start)
    while (stack.length > 0) {
      const top = stack[stack.length - 1]
      const other = (to.get(top.id) ?? [])[top.next++]
      if (other === undefined) {
        stack.pop()
        on.delete(path.pop()!)
        done.add(top.id)
      } else if (on.has(other)) return path.slice(path.indexOf(other))
      else if (!done.has(other)) {
        stack.push({ id: other, next: 0 })
        path.push(other)
        on.add(other)
      }
    }
  }
  return undefined
}
