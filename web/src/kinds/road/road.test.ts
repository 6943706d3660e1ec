import { addThing, blankLevel, changeThings, middleLine, roadSchema, type Level } from '@tidytrail/core/level'
import { describe, expect, it } from 'vitest'
import { bareScene } from '../../map/bare-scene'
import { recordingPen } from '../../map/recording-pen'
import { allOf } from '../../map/sliced'
import { toScreenX, toScreenY } from '../../map/viewport'
import { roadView } from '.'

const view = { x: 50, y: 40, scale: 8, width: 900, height: 600 }
const thing = roadSchema.parse({ name: 'Mill street', points: [[10, 40, 0], [60, 40, 0], [90, 60, 0]], laneM: 3 }) // prettier-ignore
const level = addThing.apply(blankLevel('R'), { in: 'roads', id: 'rd_a', thing }).level

function drawn(of: Level, chosen: string[] = []) {
  const { pen, all, marks, words } = recordingPen(view)
  for (const painter of roadView.painters!) allOf(painter.draw(pen, bareScene(of, { chosen: new Set(chosen) })))
  return { all, marks, words: words() }
}
const found = (of: Level, x: number, y: number, chosen: string[] = []) => {
  const offers: unknown[] = []
  const at = {
    x,
    y,
    view,
    sx: toScreenX(view, x),
    sy: toScreenY(view, y),
    off: (p: readonly number[]) => Math.hypot(p[0] - x, p[1] - y) * view.scale,
  }
  for (const hit of roadView.hits!)
    hit.find(bareScene(of, { chosen: new Set(chosen) }), at as never, (_px, what) => offers.push(what))
  return offers
}

describe('a road on the map', () => {
  it('is drawn along its smooth middle, with its name, and with its places once it is chosen', () => {
    const plain = drawn(level)
    expect(plain.words).toEqual(['Mill street'])
    expect(plain.marks('rect')).toHaveLength(0)
    expect(drawn(level, ['rd_a']).marks('rect')).toHaveLength(3)
    const straight = changeThings.apply(level, { in: 'roads', changes: { rd_a: { curve: 'straight' } } }).level
    expect(middleLine(straight.roads.rd_a)).toHaveLength(3)
    expect(middleLine(level.roads.rd_a).length).toBeGreaterThan(40)
    expect(drawn(changeThings.apply(level, { in: 'roads', changes: { rd_a: { hidden: true } } }).level).all).toEqual([])
  })

  it('is found by its middle, and chosen by its places', () => {
    const [x, y] = middleLine(level.roads.rd_a)[20]
    expect(found(level, x, y + 0.3)).toEqual([{ kind: 'thing', in: 'roads', id: 'rd_a' }])
    expect(found(level, x, y + 6)).toEqual([])
    expect(found(level, 60, 40, ['rd_a'])).toContainEqual({ kind: 'thing', in: 'roads', id: 'rd_a', handle: 1 })
    const locked = changeThings.apply(level, { in: 'roads', changes: { rd_a: { locked: true } } }).level
    expect(found(locked, 60, 40, ['rd_a'])).toEqual([{ kind: 'thing', in: 'roads', id: 'rd_a' }])
  })
})
