import { boxOf, exact, wrapAngle } from '@tidytrail/core/geometry'
import Flatbush from 'flatbush'
import type { Stretch } from './conflicts'
import { directionAt, OVER_M, placeAt, type MeasuredLine } from './measured-line'
import type { LaneNet, NetLane } from './net'

/** A lane that leads the same way beside another, over a stretch of it. Metres along the one and the other. */
export interface Beside {
  /** The lane beside. */
  readonly id: string
  /** On which side it lies: 1 to the left, −1 to the right. */
  readonly side: 1 | -1
  readonly fromM: number
  readonly toM: number
  /** Places along the lane, evenly far apart, and where along the other each lies, and how far to the side. */
  readonly stepM: number
  readonly otherM: readonly number[]
  readonly apartM: readonly number[]
}

/** It is looked every so often whether there is a lane beside, metres. */
const EVERY_M = 4
/** Lanes lie beside each other whose middles are as far apart as half of both widths, give or take this share. */
const SHARE = 0.4
/** They lead the same way as long as they differ by less than this, radians. */
const ALONG_RAD = 0.26
/** A stretch shorter than this is of no use to change over, metres. */
const LEAST_M = 12

const known = new WeakMap<MeasuredLine, WeakMap<MeasuredLine, { widthM: number; found: readonly Beside[] }>>()
const ofNets = new WeakMap<LaneNet['lanes'], ReadonlyMap<string, readonly Beside[]>>()

/** The lanes beside every lane that lead the same way, by its id. */
export function lanesBeside(net: LaneNet): ReadonlyMap<string, readonly Beside[]> {
  const before = ofNets.get(net.lanes)
  if (before) return before
  const lanes = [...net.lanes.values()]
  const found = new Map<string, readonly Beside[]>()
  if (lanes.length > 1) {
    const boxes = lanes.map(({ line, route }) => boxOf(line.places, 2 + route.widthM))
    const index = new Flatbush(lanes.length)
    for (const { minX, minY, maxX, maxY } of boxes) index.add(minX, minY, maxX, maxY)
    index.finish()
    lanes.forEach((a, i) => {
      const { minX, minY, maxX, maxY } = boxes[i]
      const all = index
        .search(minX, minY, maxX, maxY)
        .sort((p, q) => p - q)
        .flatMap((j) => (j === i ? [] : besideKnown(a, lanes[j])))
      if (all.length > 0) found.set(a.id, all)
    })
  }
  ofNets.set(net.lanes, found)
  return found
}

function besideKnown(a: NetLane, b: NetLane): readonly Beside[] {
  const widthM = widthOf(a, b)
  let of = known.get(a.line)
  if (!of) known.set(a.line, (of = new WeakMap()))
  let found = of.get(b.line)
  if (found?.widthM !== widthM) of.set(b.line, (found = { widthM, found: besideOf(a, b) }))
  return found.found
}

const widthOf = (a: NetLane, b: NetLane): number => ((a.route.widthM || 3) + (b.route.widthM || 3)) / 2

/** The stretches of one lane along which another lies beside it. */
export function besideOf(a: NetLane, b: NetLane): Beside[] {
  const widthM = widthOf(a, b)
  const count = Math.max(1, Math.round(a.line.lengthM / EVERY_M))
  const stepM = a.line.lengthM / count
  const found: Beside[] = []
  let run: { side: 1 | -1; from: number; otherM: number[]; apartM: number[] } | undefined
  const close = () => {
    if (run && (run.otherM.length - 1) * stepM >= LEAST_M) {
      const fromM = run.from * stepM
      const toM = fromM + (run.otherM.length - 1) * stepM
      found.push({ id: b.id, side: run.side, fromM, toM, stepM, otherM: run.otherM, apartM: run.apartM })
    }
    run = undefined
  }
  for (let k = 0; k <= count; k++) {
    const foot = footOn(a, b, k * stepM, widthM)
    const goesOn = foot && run && run.side === foot.side && foot.otherM >= run.otherM[run.otherM.length - 1]
    if (!goesOn) close()
    if (!foot) continue
    if (!run) run = { side: foot.side, from: k, otherM: [], apartM: [] }
    run.otherM.push(foot.otherM)
    run.apartM.push(foot.apartM)
  }
  close()
  return found
}

/** The place of one lane that lies square beside a place of another, if there is one as far apart as lanes are. */
function footOn(a: NetLane, b: NetLane, m: number, widthM: number) {
  const [x, y, z] = placeAt(a.line, m)
  const rad = directionAt(a.line, m)
  const { places, s } = b.line
  const [ux, uy] = [exact.cos(rad), exact.sin(rad)]
  let best: { side: 1 | -1; otherM: number; apartM: number } | undefined
  for (let k = 1; k < places.length; k++) {
    const [p, q] = [places[k - 1], places[k]]
    // Where a square line through the place cuts this piece.
    const from = (p[0] - x) * ux + (p[1] - y) * uy
    const to = (q[0] - x) * ux + (q[1] - y) * uy
    if (to <= from || from > 1e-6 || to < -1e-6) continue
    const share = Math.min(1, Math.max(0, -from / (to - from)))
    const px = p[0] + (q[0] - p[0]) * share
    const py = p[1] + (q[1] - p[1]) * share
    const left = (py - y) * ux - (px - x) * uy
    const apartM = Math.abs(left)
    if (apartM < (1 - SHARE) * widthM || apartM > (1 + SHARE) * widthM || apartM >= (best?.apartM ?? Infinity)) continue
    if (Math.abs(z - (p[2] + (q[2] - p[2]) * share)) >= OVER_M) continue
    if (Math.abs(wrapAngle(exact.atan2(q[1] - p[1], q[0] - p[0]) - rad)) > ALONG_RAD) continue
    best = { side: left > 0 ? 1 : -1, otherM: s[k - 1] + (s[k] - s[k - 1]) * share, apartM }
  }
  return best
}

/** Where along the lane beside a place of this one lies, and how far to the side; undefined beyond the stretch. */
export function placeBeside(of: Beside, m: number): { otherM: number; apartM: number } | undefined {
  if (m < of.fromM || m > of.toM) return undefined
  const at = (m - of.fromM) / of.stepM
  const k = Math.min(of.otherM.length - 2, Math.floor(at))
  const share = Math.min(1, at - k)
  const between = (list: readonly number[]) => list[k] + (list[k + 1] - list[k]) * share
  return { otherM: between(of.otherM), apartM: between(of.apartM) }
}

/** May those who drive along a lane change to a side somewhere between two places of it? */
export function mayChange({ route }: NetLane, side: 1 | -1, fromM: number, toM: number): boolean {
  return !route.noChange.some(
    (s) => s.fromM < toM && s.toM > fromM && (s.side === 'both' || (s.side === 'left') === (side === 1)),
  )
}

/** The stretches of a lane from which it may be gone over into one beside it, or from there into it. Metres along the lane. */
export function stretchesOfChange(net: LaneNet, lane: NetLane, of: Beside): Stretch[] {
  const other = net.lanes.get(of.id)
  const back = other && (lanesBeside(net).get(of.id) ?? []).find((b) => b.id === lane.id)
  const found: Stretch[] = []
  for (let k = 0; k + 1 < of.otherM.length; k++) {
    const fromM = of.fromM + k * of.stepM
    const toM = fromM + of.stepM
    const may =
      mayChange(lane, of.side, fromM + 0.01, toM - 0.01) ||
      (back !== undefined && mayChange(other!, back.side, of.otherM[k] + 0.01, of.otherM[k + 1] - 0.01))
    if (!may) continue
    const before = found[found.length - 1]
    if (before && before.toM > fromM - 1e-6) found[found.length - 1] = { fromM: before.fromM, toM }
    else found.push({ fromM, toM })
  }
  return found
}

/** A lane ends where one beside it leads on by this much, or into others, metres; and beside it as late as that. */
const LEADS_ON_M = 20
const LATE_M = 15

/** Does a lane end while one beside it leads on, with nothing said about its end: so that whoever is on it has to change over? */
export function endsBeside(net: LaneNet, laneId: string): boolean {
  const lane = net.lanes.get(laneId)
  if (!lane || lane.closed || lane.route.atEnd !== 'unsaid' || net.out.has(laneId)) return false
  return (lanesBeside(net).get(laneId) ?? []).some((b) => {
    if (b.toM < lane.line.lengthM - LATE_M || !mayChange(lane, b.side, b.toM - LATE_M, b.toM)) return false
    const other = net.lanes.get(b.id)!
    return other.line.lengthM - b.otherM[b.otherM.length - 1] > LEADS_ON_M + LATE_M || net.out.has(b.id) || other.closed
  })
}
