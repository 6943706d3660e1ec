import { boxOf, type Box2 } from '@tidytrail/core/geometry'
import Flatbush from 'flatbush'
import type { MeasuredLine } from './measured-line'
import type { LaneNet } from './net'

/** A lane that is driven along, or a way between lanes. Metres. */
export interface Driven {
  readonly id: string
  readonly isLane: boolean
  readonly line: MeasuredLine
  readonly widthM: number
}

const known = new WeakMap<LaneNet, (box: Box2) => readonly Driven[]>()

/** Finds the lanes and ways of a net whose middles come into a box, in one order. */
export function drivenNear(net: LaneNet): (box: Box2) => readonly Driven[] {
  let near = known.get(net)
  if (!near) known.set(net, (near = indexed(net)))
  return near
}

function indexed({ lanes, moves }: LaneNet): (box: Box2) => readonly Driven[] {
  const all: Driven[] = []
  for (const { id, line, route } of lanes.values()) all.push({ id, isLane: true, line, widthM: route.widthM })
  for (const { id, line, widthM } of moves.values()) all.push({ id, isLane: false, line, widthM })
  if (all.length === 0) return () => []
  const index = new Flatbush(all.length)
  for (const { line } of all) {
    const { minX, minY, maxX, maxY } = boxOf(line.places)
    index.add(minX, minY, maxX, maxY)
  }
  index.finish()
  return ({ minX, minY, maxX, maxY }) =>
    index
      .search(minX, minY, maxX, maxY)
      .sort((a, b) => a - b)
      .map((k) => all[k])
}
