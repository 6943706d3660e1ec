import type { Junction } from '@tidytrail/core/level'
import { crossingsOf, WALKS_S, type Crossed, type Crossing } from './crossings'
import type { Stretch } from './conflicts'
import { waysOf, type JunctionParts, type Way } from './junction'
import type { LaneNet } from './net'
import { lightsUp } from './signals'
import type { WalkedLanes } from './walk-net'

/** A crossing as those go by it who pass a junction: which ways lead over it. */
export interface CrossingAt {
  readonly crossing: Crossing
  readonly ways: readonly { readonly way: Way; readonly over: Crossed }[]
}

/** A crossing over a lane belongs to the junction the lane comes to, or comes from, when it is as near as this, metres. */
export const NEAR_M = 15
/** Of those who walk nobody is to be hurried: so much longer than they need lies between their green and the next stage, seconds. */
const SPARE_S = 1
/** A way that turns by less than this goes straight on, radians. */
export const STRAIGHT_RAD = 0.5

/** The crossings at a junction: over a way through it, or over a lane close to where a way begins or ends. */
export function crossingsAt(
  level: JunctionParts,
  net: LaneNet,
  walks: WalkedLanes,
  junction: Junction,
): readonly CrossingAt[] {
  if (walks.lanes.size === 0) return []
  const byPiece = piecesOf(crossingsOf(level, walks, net))
  const found = new Map<Crossing, CrossingAt['ways'][number][]>()
  for (const way of waysOf(level, net, junction))
    for (const [id, leads] of piecesAbout(way))
      for (const [crossing, over] of byPiece.get(id) ?? []) {
        if (!leads(over)) continue
        const ways = found.get(crossing)
        if (ways) ways.push({ way, over })
        else found.set(crossing, [{ way, over }])
      }
  return [...found].map(([crossing, ways]) => ({ crossing, ways })).sort((a, b) => (a.crossing.id < b.crossing.id ? -1 : 1)) // prettier-ignore
}

/** The lanes and the link one drives along about a junction, and whether a crossing over each is at the junction. */
function piecesAbout(way: Way): [string, (over: Crossed) => boolean][] {
  if (!way.isLink) return [[way.id, ({ drive }) => drive.toM > way.fromM - NEAR_M && drive.fromM < way.toM + NEAR_M]]
  return [
    [way.id, () => true],
    [way.from, ({ drive }) => drive.fromM < way.fromM && drive.toM > way.fromM - NEAR_M],
    [way.to, ({ drive }) => drive.toM > way.toM && drive.fromM < way.toM + NEAR_M],
  ]
}

const indexed = new WeakMap<readonly Crossing[], Map<string, [Crossing, Crossed][]>>()
function piecesOf(crossings: readonly Crossing[]): Map<string, [Crossing, Crossed][]> {
  let found = indexed.get(crossings)
  if (found) return found
  indexed.set(crossings, (found = new Map()))
  for (const crossing of crossings)
    for (const over of crossing.over) {
      const list = found.get(over.id)
      if (list) list.push([crossing, over])
      else found.set(over.id, [[crossing, over]])
    }
  return found
}

/** So far before a way's beginning is where one waits at red, if those who walk see lights at these crossings, metres. */
export const redBeforeM = (way: Way, crossings: readonly CrossingAt[]): number =>
  crossings.reduce(
    (far, { ways }) =>
      ways.reduce(
        (m, { way: { id }, over }) =>
          id === way.id && over.isLane && over.id === way.from ? Math.max(m, way.fromM - over.drive.fromM) : m,
        far,
      ),
    0,
  )

/** The crossings of a level at which those who walk see lights, with the junction these belong to: the first whose stages name the lane. */
export function litCrossings(
  level: JunctionParts,
  net: LaneNet,
  walks: WalkedLanes,
): ReadonlyMap<Crossing, { readonly id: string; readonly junction: Junction; readonly at: CrossingAt }> {
  const lit = new Map<Crossing, { id: string; junction: Junction; at: CrossingAt }>()
  for (const id of Object.keys(level.junctions).sort()) {
    const junction = level.junctions[id]
    if (junction.control !== 'signals' || !junction.phases.some((p) => p.laneIds.some((l) => walks.lanes.has(l))))
      continue
    for (const at of crossingsAt(level, net, walks, junction))
      if (!lit.has(at.crossing) && isLit(junction, at)) lit.set(at.crossing, { id, junction, at })
  }
  return lit
}

/** Do those who walk see lights of a junction at a crossing? */
export const isLit = (junction: Junction, { crossing }: CrossingAt): boolean =>
  junction.control === 'signals' && junction.phases.some((p) => lightsUp(p, crossing.laneId))

/** How long one who walks needs from kerb to kerb, with some to spare, seconds. */
export const walkS = ({ fromM, toM }: Stretch): number => (toM - fromM) * WALKS_S + SPARE_S
