import { boxOf, type Box2 } from '@tidytrail/core/geometry'
import { partOf, type Stretch } from './conflicts'
import { drivenNear, type Driven } from './driven-near'
import type { JunctionParts } from './junction'
import { meetingsOf, type MeasuredLine } from './measured-line'
import type { LaneNet, NetLane } from './net'
import { approachOn, upstreamOf, type WatchedStretch } from './watch'
import type { WalkedLanes } from './walk-net'

/** A lane, or a way between lanes, that a crossing leads over. Metres. */
export interface Crossed {
  readonly id: string
  readonly isLane: boolean
  /** The stretch of the crossing on it, from the crossing's beginning on. */
  readonly walk: Stretch
  /** The stretch of it the crossing is on. */
  readonly drive: Stretch
  readonly approachMps: number
  /** Where it is looked whether anybody comes. */
  readonly watched: readonly WatchedStretch[]
}

/** A stretch of a lane that is walked along, from kerb to kerb over lanes that are driven along. Metres. */
export interface Crossing extends Stretch {
  readonly id: string
  readonly laneId: string
  readonly line: MeasuredLine
  readonly widthM: number
  readonly box: Box2
  /** Who waits where both come. */
  readonly waits: 'walkers' | 'vehicles'
  readonly over: readonly Crossed[]
}

/** Lanes whose edges are nearer to each other than this are crossed in one go; between others one may stand, metres. */
const REFUGE_M = 1.2
/** What meets a lane at a smaller angle than this (its sine) leads along it, not over it. */
const GRAZING = 0.3
/** Lanes narrower than this count as so wide, metres: a body has to pass. */
const LEAST_M = 1.5
/** Those who walk need so long for a metre of it, seconds, and look so much longer. */
export const WALKS_S = 0.9
const LOOKS_S = 3
/** It is looked no farther than this, metres. */
const FARTHEST_M = 200

const meetingsKnown = new WeakMap<MeasuredLine, WeakMap<MeasuredLine, ReturnType<typeof meetingsOf>>>()
function meetings(a: MeasuredLine, b: MeasuredLine): ReturnType<typeof meetingsOf> {
  let of = meetingsKnown.get(a)
  if (!of) meetingsKnown.set(a, (of = new WeakMap()))
  let found = of.get(b)
  if (!found) of.set(b, (found = meetingsOf(a, b)))
  return found
}

let last: { lanes: WalkedLanes['lanes']; net: LaneNet; profiles: unknown; found: readonly Crossing[] } | undefined

/** Every place where lanes that are walked along lead over lanes that are driven along, by lane and from its beginning on. */
export function crossingsOf(level: JunctionParts, { lanes }: WalkedLanes, net: LaneNet): readonly Crossing[] {
  const { profiles } = level
  if (last?.lanes === lanes && last.net === net && last.profiles === profiles) return last.found
  const near = drivenNear(net)
  const found: Crossing[] = []
  for (const lane of lanes.values()) {
    const hits: (Stretch & { of: Driven; drive: Stretch })[] = []
    for (const of of near(boxOf(lane.line.places))) {
      for (const { aM, bM, sine } of meetings(lane.line, of.line)) {
        if (sine < GRAZING) continue
        const walk = Math.max(LEAST_M, of.widthM) / 2 / sine
        const drive = Math.max(LEAST_M, lane.route.widthM) / 2 / sine
        hits.push({
          fromM: Math.max(0, aM - walk),
          toM: Math.min(lane.line.lengthM, aM + walk),
          of,
          drive: { fromM: Math.max(0, bM - drive), toM: Math.min(of.line.lengthM, bM + drive) },
        })
      }
    }
    hits.sort((a, b) => a.fromM - b.fromM || (a.of.id < b.of.id ? -1 : 1))
    let group: typeof hits = []
    let toM = -Infinity
    const close = (): void => {
      if (group.length > 0) found.push(crossing(level, net, lane, { fromM: group[0].fromM, toM }, group, found))
      group = []
    }
    for (const hit of hits) {
      if (hit.fromM > toM + REFUGE_M) close()
      toM = group.length === 0 ? hit.toM : Math.max(toM, hit.toM)
      group.push(hit)
    }
    close()
  }
  last = { lanes, net, profiles, found }
  return found
}

function crossing(
  level: JunctionParts,
  net: LaneNet,
  lane: NetLane,
  { fromM, toM }: Stretch,
  hits: readonly (Stretch & { of: Driven; drive: Stretch })[],
  before: readonly Crossing[],
): Crossing {
  const line = partOf(lane.line, { fromM, toM })
  const widthM = Math.max(LEAST_M, lane.route.widthM)
  const over = hits.map(({ of: { id, isLane }, fromM: from, toM: to, drive }): Crossed => {
    const approachMps = approachOn(level, net, isLane ? id : net.moves.get(id)!.from)
    const watchM = Math.min(FARTHEST_M, approachMps * ((toM - fromM) * WALKS_S + LOOKS_S))
    let watched: Crossed['watched'] | undefined
    return {
      id,
      isLane,
      walk: { fromM: from - fromM, toM: to - fromM },
      drive,
      approachMps,
      // Only those who walk ask for it.
      get watched() {
        return (watched ??= upstreamOf(net, { id, isLane }, drive.fromM, watchM))
      },
    }
  })
  const number = before.filter((c) => c.laneId === lane.id).length
  return {
    id: `${lane.id}#${number}`,
    laneId: lane.id,
    fromM,
    toM,
    line,
    widthM,
    box: boxOf(line.places, widthM / 2),
    waits: lane.route.atCrossings,
    over,
  }
}
