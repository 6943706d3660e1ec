import { exact, wrapAngle } from '@tidytrail/core/geometry'
import KDBush from 'kdbush'
import type { LaneNet, NetLane } from './net'

/** Tips of lanes belong together within so much, and with so much between their directions: metres, radians. */
const TOGETHER_M = 15
const TOGETHER_RAD = 0.7
/** Lanes beside one another are looked for so many widths aside. */
const BESIDE_WIDTHS = 1.5

interface Tip {
  readonly lane: number
  readonly start: boolean
  readonly x: number
  readonly y: number
  /** The direction in which one would come out of the lane at this tip. */
  readonly outRad: number
}

/** Two lanes that go on into one another, the same way as drawn or one against the other, and how sure that is. */
interface Tie {
  readonly a: number
  readonly b: number
  readonly same: boolean
  readonly weight: number
}

/**
 * Lanes that are drawn backwards, from what they nearly join: tips that face each other belong together, and of two
 * lanes that do, one begins where the other ends. Those of roads lead as they do. Of the two ways a whole chain can
 * lead, the one is taken in which fewer are turned round, those somebody is sent along counting thrice; where that is
 * even, the one that keeps to the side one drives on.
 * @param begins lanes along which somebody is sent, so that they lead the way they are drawn
 */
export function backwardLanes(
  net: LaneNet,
  drivesOn: 'left' | 'right',
  begins: ReadonlySet<string> = new Set(),
): string[] {
  const lanes = [...net.lanes.values()].filter((lane) => !lane.closed)
  if (lanes.length < 2) return []
  const tips = lanes.flatMap((lane, k) => tipsOf(lane, k))
  const ties = tiesOf(tips, lanes)
  const by = new Map<number, Tie[]>()
  for (const tie of ties)
    for (const k of [tie.a, tie.b]) {
      const list = by.get(k)
      if (list) list.push(tie)
      else by.set(k, [tie])
    }
  const turned = new Array<boolean | undefined>(lanes.length).fill(undefined)
  const back: string[] = []
  // From what is surest: lanes of roads, then those somebody is sent along.
  const order = lanes.map((_, k) => k).sort((p, q) => turnCost(lanes[q], begins) - turnCost(lanes[p], begins) || p - q)
  for (const first of order) {
    if (turned[first] !== undefined || !by.has(first)) continue
    const group = [first]
    turned[first] = false
    // The surest tie first, so that one that is wrong by chance decides nothing.
    const waiting = [...by.get(first)!]
    while (waiting.length > 0) {
      let at = 0
      for (let k = 1; k < waiting.length; k++) if (waiting[k].weight > waiting[at].weight) at = k
      const [tie] = waiting.splice(at, 1)
      const known = turned[tie.a] === undefined ? tie.b : tie.a
      const other = known === tie.a ? tie.b : tie.a
      if (turned[other] !== undefined) continue
      turned[other] = tie.same ? turned[known] : !turned[known]
      group.push(other)
      for (const next of by.get(other)!) waiting.push(next)
    }
    const cost = (flip: boolean) =>
      group.reduce((sum, k) => sum + (turned[k] !== flip ? turnCost(lanes[k], begins) : 0), 0)
    const [asIs, other] = [cost(false), cost(true)]
    let flip = other < asIs
    if (other === asIs) {
      const against = (flipped: boolean) => wrongSide(group, lanes, (k) => turned[k] !== flipped, drivesOn)
      flip = against(true) < against(false)
    }
    for (const k of group) if (turned[k] !== flip) back.push(lanes[k].id)
  }
  return back.sort()
}

/** Turning round a lane of a road is out of the question, one somebody is sent along nearly so. */
const turnCost = (lane: NetLane, begins: ReadonlySet<string>): number =>
  lane.roadId ? 1e6 : begins.has(lane.id) ? 3 : 1

function tipsOf(lane: NetLane, k: number): Tip[] {
  const { places } = lane.line
  const [a, b] = [places[0], places[places.length - 1]]
  return [
    { lane: k, start: true, x: a[0], y: a[1], outRad: lane.startRad + Math.PI },
    { lane: k, start: false, x: b[0], y: b[1], outRad: lane.endRad },
  ]
}

function tiesOf(tips: readonly Tip[], lanes: readonly NetLane[]): Tie[] {
  const index = new KDBush(tips.length)
  for (const { x, y } of tips) index.add(x, y)
  index.finish()
  const ties: Tie[] = []
  tips.forEach((tip, k) => {
    let best: { tie: Tie; score: number } | undefined
    for (const j of index.within(tip.x, tip.y, TOGETHER_M)) {
      const other = tips[j]
      if (j === k || other.lane === tip.lane) continue
      // One comes out of the one and into the other.
      const off = Math.abs(wrapAngle(other.outRad + Math.PI - tip.outRad))
      if (off > TOGETHER_RAD) continue
      const gap = exact.hypot(other.x - tip.x, other.y - tip.y)
      if (gap > 0.5) {
        const ahead = ((other.x - tip.x) * exact.cos(tip.outRad) + (other.y - tip.y) * exact.sin(tip.outRad)) / gap
        if (ahead < 0.8) continue
      }
      const score = 1 / (1 + gap) + (1 - off / TOGETHER_RAD) / 4
      if (best && best.score >= score) continue
      best = { tie: { a: tip.lane, b: other.lane, same: tip.start !== other.start, weight: score }, score }
    }
    // Both lanes of one road that face each other over a junction say nothing of each other.
    if (best && !(lanes[best.tie.a].roadId && lanes[best.tie.b].roadId)) ties.push(best.tie)
  })
  return ties
}

/** How many lanes have one that comes against them on the side where their own kerb should be. */
function wrongSide(
  group: readonly number[],
  lanes: readonly NetLane[],
  isTurned: (k: number) => boolean,
  drivesOn: 'left' | 'right',
): number {
  const kerb = drivesOn === 'left' ? 1 : -1
  const inGroup = new Set(group)
  const middle = (k: number) => {
    const { places } = lanes[k].line
    const at = Math.floor(places.length / 2)
    const [a, b] = [places[Math.max(0, at - 1)], places[at]]
    const rad = exact.atan2(b[1] - a[1], b[0] - a[0]) + (inGroup.has(k) && isTurned(k) ? Math.PI : 0)
    return { x: (a[0] + b[0]) / 2, y: (a[1] + b[1]) / 2, rad }
  }
  let wrong = 0
  for (const k of group) {
    const own = middle(k)
    const far = BESIDE_WIDTHS * (lanes[k].route.widthM || 3)
    for (let j = 0; j < lanes.length; j++) {
      if (j === k) continue
      const other = middle(j)
      const [dx, dy] = [other.x - own.x, other.y - own.y]
      const left = -exact.sin(own.rad) * dx + exact.cos(own.rad) * dy
      const on = exact.cos(own.rad) * dx + exact.sin(own.rad) * dy
      if (Math.abs(left) > far || Math.abs(on) > far || Math.abs(wrapAngle(other.rad - own.rad)) < 2.5) continue
      if (left * kerb > 0) wrong++
    }
  }
  return wrong
}
