import { passageSchema } from '@tidytrail/core/level'
import { beforeEach, describe, expect, it } from 'vitest'
import { bowMiddle } from '../../kinds/passage/draw'
import { boxTool } from '../../kinds/solid/draw-block'
import { drawRouteTool } from '../../kinds/route/draw-route'
import { toLevelX, toLevelY } from '../../map/viewport'
import { chooseTool } from './choose'
import { Bench } from './tool-bench'

type Place = [number, number, number]
let bench: Bench
beforeEach(() => {
  bench = new Bench()
})

describe('choosing', () => {
  beforeEach(() => {
    const draw = bench.make(drawRouteTool)
    for (const [x, y] of [
      [10, 10],
      [30, 10],
      [30, 30],
    ])
      bench.click(draw, x, y)
    draw.press?.('Enter')
    bench.sheet.choose([])
  })

  it('chooses what is clicked, adds with Shift, and nothing on open ground', () => {
    const tool = bench.make(chooseTool)
    bench.click(tool, 10, 10)
    expect(bench.sheet.selected).toEqual([bench.route.order[0]])
    bench.click(tool, 30, 10, { shift: true })
    expect(bench.sheet.selected).toEqual(bench.route.order.slice(0, 2))
    bench.click(tool, 20, 10)
    expect(bench.sheet.selected).toEqual(Object.keys(bench.level.routes))
    bench.click(tool, 80, 60)
    expect(bench.sheet.selected).toEqual([])
  })

  it('drags a stop on the grid as one step, freely with Alt', () => {
    const tool = bench.make(chooseTool)
    const steps = bench.past.length
    bench.drag(tool, [10, 10], [15.3, 20.4])
    expect(bench.places()[0]).toEqual([15, 20])
    expect(bench.past).toHaveLength(steps + 1)
    expect(bench.released).toBeGreaterThan(0)
    bench.drag(tool, [15, 20], [16.3, 20.4], { alt: true })
    expect(bench.places()[0][0]).toBeCloseTo(16.3, 6)
  })

  it('drags all chosen stops together and keeps their places to one another', () => {
    const tool = bench.make(chooseTool)
    bench.sheet.choose(bench.route.order)
    bench.drag(tool, [30, 10], [33, 14])
    expect(bench.places()).toEqual([
      [13, 14],
      [33, 14],
      [33, 34],
    ])
  })

  it('a twitch of the hand moves nothing', () => {
    const tool = bench.make(chooseTool)
    bench.drag(tool, [10, 10], [10.3, 10.2])
    expect(bench.places()[0]).toEqual([10, 10])
  })

  it('a double click puts a stop into a leg, unless the route is locked', () => {
    const tool = bench.make(chooseTool)
    tool.doubleClick?.(bench.pointer(20, 10))
    expect(bench.route.order).toHaveLength(4)
    const [id] = Object.keys(bench.level.routes)
    bench.level = { ...bench.level, routes: { [id]: { ...bench.route, locked: true } } }
    tool.doubleClick?.(bench.pointer(25, 10))
    expect(bench.route.order).toHaveLength(4)
  })
})

describe('choosing many', () => {
  const three = () => {
    const draw = bench.make(drawRouteTool)
    for (const x of [10, 30, 50]) bench.click(draw, x, 10)
    draw.press?.('Enter')
    bench.sheet.choose([])
    return bench.route.order
  }

  it('takes what lies in a box drawn with Shift, and in a loop drawn with Alt', () => {
    const [a, b, c] = three()
    const tool = bench.make(chooseTool)
    bench.drag(tool, [5, 5], [35, 15], { shift: true })
    expect(bench.sheet.selected).toEqual([a, b])
    bench.drag(tool, [45, 5], [60, 20], { shift: true })
    expect(bench.sheet.selected).toEqual([a, b, c])
    bench.sheet.choose([])
    const loop: [number, number][] = [
      [25, 5],
      [35, 5],
      [35, 15],
      [25, 15],
    ]
    tool.down?.(bench.pointer(...loop[0], { alt: true }))
    for (const p of loop.slice(1)) tool.move?.(bench.pointer(...p, { alt: true }), true)
    tool.up?.(bench.pointer(...loop[3], { alt: true }))
    expect(bench.sheet.selected).toEqual([b])
  })

  it('drags a leg of the chosen route by both its stops, and with Ctrl the whole route', () => {
    three()
    bench.sheet.choose([Object.keys(bench.level.routes)[0]])
    const tool = bench.make(chooseTool)
    bench.drag(tool, [20, 10], [20, 20])
    expect(bench.places().map(([, y]) => y)).toEqual([20, 20, 10])
    bench.sheet.choose([Object.keys(bench.level.routes)[0]])
    bench.drag(tool, [20, 20], [25, 20], { ctrl: true })
    expect(bench.places().map(([x]) => x)).toEqual([15, 35, 55])
  })

  it('says so when something is dragged beyond the level', () => {
    three()
    const tool = bench.make(chooseTool)
    tool.down?.(bench.pointer(10, 10))
    tool.move?.(bench.pointer(-15, 10), true)
    expect(bench.sheet.hint).toContain('The level ends here')
  })
})

describe('passages', () => {
  beforeEach(() => {
    const gate = passageSchema.parse({ name: 'Gate', kind: 'door', from: [20, 20, 0], to: [60, 20, 0] })
    bench.level = { ...bench.level, passages: { pg_a: gate } }
    bench.sheet.stage = 'reach'
  })
  const ends = () => [bench.level.passages.pg_a.from, bench.level.passages.pg_a.to]
  const middle = () => {
    const [sx, sy] = bowMiddle({ view: bench.view }, ...(ends() as [Place, Place]))
    return [toLevelX(bench.view, sx), toLevelY(bench.view, sy)] as [number, number]
  }

  it('are dragged by one end, the other staying where it is', () => {
    bench.drag(bench.make(chooseTool), [60, 20], [70, 35])
    expect(ends()).toEqual([
      [20, 20, 0],
      [70, 35, 0],
    ])
  })

  it('are chosen by the middle of their bow, but not carried away by it', () => {
    const tool = bench.make(chooseTool)
    bench.click(tool, ...middle())
    expect(bench.sheet.selected).toEqual(['pg_a'])
    const [x, y] = middle()
    bench.drag(tool, [x, y], [x + 12, y + 9])
    expect(ends()).toEqual([
      [20, 20, 0],
      [60, 20, 0],
    ])
    expect(bench.past).toEqual([])
  })
})

describe('what was placed last, with its tool still in hand', () => {
  it('is taken by its handles and its body, and nothing beside it is', () => {
    bench.sheet.stage = 'ground'
    const box = bench.make(boxTool)
    bench.drag(box, [20, 20], [30, 30])
    const tool = bench.make(chooseTool)
    const grabs = (x: number, y: number) => tool.grabs!(bench.pointer(x, y), box.places!)
    expect(grabs(30, 30)).toBe(true)
    expect(grabs(25, 25)).toBe(true)
    expect(grabs(50, 50)).toBe(false)
    expect(tool.grabs!(bench.pointer(25, 25), ['covers'])).toBe(false)
    bench.sheet.choose([])
    expect(grabs(25, 25)).toBe(false)
    // And the next one is drawn at once.
    bench.drag(box, [50, 20], [60, 30])
    expect(Object.keys(bench.level.solids)).toHaveLength(2)
    expect(bench.done).toBe(0)
  })
})

describe('drawing a route', () => {
  const draw = (...places: [number, number][]) => {
    const tool = bench.make(drawRouteTool)
    for (const [x, y] of places) bench.click(tool, x, y)
    return tool
  }

  it('of one stop leaves nothing behind, not even a step to undo', () => {
    const steps = bench.past.length
    draw([10, 10]).press?.('Enter')
    expect(bench.level.routes).toEqual({})
    expect(bench.past).toHaveLength(steps)
  })

  it('goes on to the next one as soon as one is ended', () => {
    const tool = draw([10, 10], [20, 10])
    tool.press?.('Enter')
    for (const x of [40, 50]) bench.click(tool, x, 30)
    tool.press?.('Enter')
    expect(Object.values(bench.level.routes).map((r) => r.order.length)).toEqual([2, 2])
    expect(bench.done).toBe(0)
  })
})
