import type { Level } from '@tidytrail/core/level'
import { knownConflicts } from './conflicts'
import { widestOn } from './junction'
import type { LaneNet } from './net'

/** A stretch of a track that only those of one way can be on at once, metres along the lane of each. */
export interface Narrow {
  readonly id: string
  readonly roadId: string
  readonly sides: readonly [NarrowSide, NarrowSide]
}
export interface NarrowSide {
  readonly laneId: string
  readonly fromM: number
  readonly toM: number
  /** How long the lane is from its end to the next narrow, or to its own end. */
  readonly roomM: number
}

/** Those who meet keep so much between them, metres. */
const APART_M = 0.3
/** Narrows nearer to each other than this are one: nobody fits between them. */
const BETWEEN_M = 6

/** The narrow stretches of the tracks of a level: where bodies on the lanes of both ways would touch. */
export const narrowsOf = (level: NarrowParts, net: LaneNet): Narrow[] =>
  Object.keys(level.roads)
    .sort()
    .flatMap((roadId) => narrowsOfRoad(level, net, roadId))

type NarrowParts = Pick<Level, 'roads' | 'routes' | 'profiles'>

/** The same of one road, from its beginning on. */
export function narrowsOfRoad(level: NarrowParts, net: LaneNet, roadId: string): Narrow[] {
  const road = level.roads[roadId]
  if (!road?.track) return []
  const laneOf = (key: string) => net.lanes.get(road.lanes.find((l) => l.key === key)?.laneId ?? '')
  const [a, b] = [laneOf('a1'), laneOf('b1')]
  if (!a || !b) return []
  const apartM = (widestOn(level, a.id) + widestOn(level, b.id)) / 2 + APART_M
  const spans: { a: { fromM: number; toM: number }; b: { fromM: number; toM: number } }[] = []
  for (const c of [...knownConflicts(a.line, b.line, apartM)].sort((p, q) => p.a.fromM - q.a.fromM)) {
    const last = spans[spans.length - 1]
    if (last && c.a.fromM - last.a.toM < BETWEEN_M) {
      last.a.toM = Math.max(last.a.toM, c.a.toM)
      last.b.fromM = Math.min(last.b.fromM, c.b.fromM)
      last.b.toM = Math.max(last.b.toM, c.b.toM)
    } else spans.push({ a: { ...c.a }, b: { ...c.b } })
  }
  return spans.map((span, k) => ({
    id: `narrow ${k} ${roadId}`,
    roadId,
    sides: [
      { laneId: a.id, ...span.a, roomM: (spans[k + 1]?.a.fromM ?? a.line.lengthM) - span.a.toM },
      { laneId: b.id, ...span.b, roomM: (spans[k - 1]?.b.fromM ?? b.line.lengthM) - span.b.toM },
    ] as const,
  }))
}
