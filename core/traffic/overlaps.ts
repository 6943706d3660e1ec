import { boxOf, boxesMeet, type Point3 } from '@tidytrail/core/geometry'
import Flatbush from 'flatbush'
import { knownConflicts, type Conflict } from './conflicts'
import { placeAt } from './measured-line'
import type { LaneNet } from './net'

/** A stretch on which two lanes lie over each other. */
export interface LaneOverlap {
  readonly a: string
  readonly b: string
  readonly at: Point3
  readonly lengthM: number
}

/** Lanes whose middles are nearer than this share of the narrower one's width lie over each other. */
const SHARE = 0.5
/** Where they cross, or part and meet, they do so for less than this, metres. */
const LEAST_M = 8

/** Lanes that lie over each other for a while, whichever way they lead. */
export function laneOverlaps(net: LaneNet): LaneOverlap[] {
  const lanes = [...net.lanes.values()]
  if (lanes.length < 2) return []
  const boxes = lanes.map(({ line }) => boxOf(line.places))
  const index = new Flatbush(lanes.length)
  for (const { minX, minY, maxX, maxY } of boxes) index.add(minX, minY, maxX, maxY)
  index.finish()
  const found: LaneOverlap[] = []
  lanes.forEach((a, i) => {
    const { minX, minY, maxX, maxY } = boxes[i]
    for (const j of index.search(minX, minY, maxX, maxY)) {
      if (j <= i || !boxesMeet(boxes[i], boxes[j])) continue
      const b = lanes[j]
      // Those of one road lie as it lays them: both ways of a track share its narrows.
      if (a.roadId !== undefined && a.roadId === b.roadId) continue
      const apartM = SHARE * Math.min(a.route.widthM || 1, b.route.widthM || 1)
      let longest: Conflict | undefined
      for (const c of knownConflicts(a.line, b.line, apartM))
        if (c.a.toM - c.a.fromM > Math.max(LEAST_M, longest ? longest.a.toM - longest.a.fromM : 0)) longest = c
      if (!longest) continue
      const { fromM, toM } = longest.a
      found.push({ a: a.id, b: b.id, at: placeAt(a.line, (fromM + toM) / 2), lengthM: toM - fromM })
    }
  })
  return found
}
