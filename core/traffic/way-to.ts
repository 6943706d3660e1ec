import { lanesBeside, mayChange } from './beside'
import { UNLIMITED_MPS } from './watch'
import type { LaneNet, NetLane, NetMove } from './net'

/** Places nearer to each other than this are one, metres. */
const ONE_PLACE_M = 0.05

/** How long it is to a lane, from anywhere on the lanes, seconds; Infinity where no way leads there. */
export interface WayTo {
  /** From the beginning of a way into another lane on. */
  over(moveId: string): number
  /** From so far along a lane on, if it is not left at that very place. */
  along(laneId: string, m: number): number
}

/** A change into the lane beside costs so much, seconds, and takes such a way, metres. */
const CHANGES_S = 4
const CHANGES_M = 40

const known = new WeakMap<LaneNet, Map<string, WayTo>>()

/** The quickest ways to a lane (Dijkstra 1959), at the speeds that are allowed; worked out once for each lane and net. */
export function wayTo(net: LaneNet, laneId: string): WayTo {
  let of = known.get(net)
  if (!of) known.set(net, (of = new Map()))
  let found = of.get(laneId)
  if (!found) of.set(laneId, (found = find(net, laneId)))
  return found
}

function find(net: LaneNet, laneId: string): WayTo {
  const mpsOn = (id: string) => net.lanes.get(id)?.route.speedLimitMps ?? UNLIMITED_MPS
  const takes = (move: NetMove) => move.line.lengthM / Math.max(mpsOn(move.from), mpsOn(move.to))
  /** From where a way comes in to where the next leaves; undefined where that lies behind. */
  const between = (lane: string, fromM: number, toM: number): number | undefined => {
    const { closed, line } = net.lanes.get(lane)!
    const ahead = toM - fromM
    if (ahead >= -ONE_PLACE_M) return Math.max(0, ahead) / mpsOn(lane)
    return closed ? (ahead + line.lengthM) / mpsOn(lane) : undefined
  }
  /** The ways from which a place of a lane is come to: those into the lane, and those into one beside it from which it may be changed in time. */
  const beside = lanesBeside(net)
  const comeTo = (lane: string, toM: number): { move: NetMove; s: number }[] => {
    const found: { move: NetMove; s: number }[] = []
    for (const move of net.into.get(lane) ?? []) {
      const on = between(lane, move.toM, toM)
      if (on !== undefined) found.push({ move, s: on })
    }
    for (const b of beside.get(lane) ?? []) {
      const other = net.lanes.get(b.id)!
      const endM = Math.min(toM, b.toM)
      const begins = b.otherM[0]
      const ends = begins + (endM - b.fromM)
      if (!mayGoOver(other, b.side === 1 ? -1 : 1, begins, ends)) continue
      for (const move of net.into.get(b.id) ?? []) {
        const m = Math.max(begins, move.toM)
        if (m + CHANGES_M > ends) continue
        found.push({ move, s: CHANGES_S + (ends - move.toM + toM - endM) / mpsOn(b.id) })
      }
    }
    return found
  }
  const mayGoOver = (lane: NetLane, side: 1 | -1, fromM: number, toM: number): boolean => {
    for (let m = fromM; m + CHANGES_M <= toM; m += CHANGES_M / 2)
      if (mayChange(lane, side, m, m + CHANGES_M)) return true
    return false
  }
  /** From the beginning of each way; those into the lane itself are the ends that are searched back from. */
  const best = new Map<string, number>()
  const queue: NetMove[] = []
  for (const { move, s } of comeTo(laneId, net.lanes.get(laneId)?.line.lengthM ?? 0)) {
    // On the lane itself one is there; from one beside it there is a change to come.
    best.set(move.id, takes(move) + (move.to === laneId ? 0 : Math.min(s, CHANGES_S)))
    queue.push(move)
  }
  const done = new Set<string>()
  for (;;) {
    // The nearest of those that are not done; there are few at a time.
    let at = -1
    for (let k = 0; k < queue.length; k++) if (at < 0 || best.get(queue[k].id)! < best.get(queue[at].id)!) at = k
    if (at < 0) break
    const [move] = queue.splice(at, 1)
    if (done.has(move.id)) continue
    done.add(move.id)
    for (const { move: before, s: on } of comeTo(move.from, move.fromM)) {
      if (before.to === laneId) continue
      const s = takes(before) + on + best.get(move.id)!
      if (s >= (best.get(before.id) ?? Infinity)) continue
      best.set(before.id, s)
      queue.push(before)
    }
  }
  return {
    over: (id) => best.get(id) ?? Infinity,
    along(lane, m) {
      if (lane === laneId) return 0
      let least = Infinity
      for (const move of net.out.get(lane) ?? []) {
        const here = Math.abs(move.fromM - m) < ONE_PLACE_M
        // What is passed by now is come to again only once round.
        const on = here
          ? net.lanes.get(lane)!.closed
            ? net.lanes.get(lane)!.line.lengthM / mpsOn(lane)
            : undefined
          : between(lane, m, move.fromM)
        if (on !== undefined) least = Math.min(least, on + (best.get(move.id) ?? Infinity))
      }
      return least
    },
  }
}
