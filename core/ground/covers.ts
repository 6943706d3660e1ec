import { boxOf, ringHolds, type Box2 } from '@tidytrail/core/geometry'
import { byRank, type Cover, type Level } from '@tidytrail/core/level'
import Flatbush from 'flatbush'

interface CoverIndex {
  readonly list: readonly Cover[]
  readonly near: (x: number, y: number) => number[]
}

const indexes = new WeakMap<Level['covers'], CoverIndex>()

function indexOf(covers: Level['covers']): CoverIndex {
  let index = indexes.get(covers)
  if (index) return index
  const list = byRank(covers).map(([, cover]) => cover)
  if (list.length === 0) index = { list, near: () => [] }
  else {
    const tree = new Flatbush(list.length)
    for (const { ring } of list) {
      const b: Box2 = boxOf(ring)
      tree.add(b.minX, b.minY, b.maxX, b.maxY)
    }
    tree.finish()
    index = { list, near: (x, y) => tree.search(x, y, x, y) }
  }
  indexes.set(covers, index)
  return index
}

/** The cover at a place: of several one above the other the one that lies on top; undefined on bare ground. */
export function coverAt(covers: Level['covers'], x: number, y: number): Cover | undefined {
  const { list, near } = indexOf(covers)
  let best = -1
  for (const k of near(x, y)) if (k > best && ringHolds(list[k].ring, x, y)) best = k
  return best < 0 ? undefined : list[best]
}

/** Share of its speed a body keeps at a place. */
export const speedFactorAt = (covers: Level['covers'], x: number, y: number) => coverAt(covers, x, y)?.speedFactor ?? 1
