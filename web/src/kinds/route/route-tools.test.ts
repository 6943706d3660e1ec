import { markerSchema } from '@tidytrail/core/level'
import { beforeEach, describe, expect, it } from 'vitest'
import { drawing } from './draw-options'
import { drawRouteTool } from './draw-route'
import { pickOrderTool } from './pick-order'
import { spliceTool } from './splice'
import { Bench } from '../../sheet/tools/tool-bench'

let bench: Bench
beforeEach(() => {
  bench = new Bench()
})

describe('drawing a route', () => {
  const draw = (...places: [number, number][]) => {
    const tool = bench.make(drawRouteTool)
    for (const [x, y] of places) bench.click(tool, x, y)
    return tool
  }

  it('places a stop a click, on the grid, and ends with Enter', () => {
    const tool = draw([10.2, 10.4], [30, 10])
    expect(tool.press?.('Enter')).toBe(true)
    expect(bench.places()).toEqual([
      [10, 10],
      [30, 10],
    ])
    expect([bench.route.travel, bench.done, bench.sheet.selected]).toEqual([
      'one-way',
      0,
      [Object.keys(bench.level.routes)[0]],
    ])
  })

  it('closes the round with a second click on the first stop', () => {
    draw([10, 10], [30, 10], [30, 30], [10.5, 10.2])
    expect(bench.route.travel).toBe('round')
    expect(bench.route.order).toHaveLength(3)
  })

  it('takes the last stop back with Backspace, and the route with its last stop', () => {
    const tool = draw([10, 10], [30, 10])
    tool.press?.('Backspace')
    expect(bench.places()).toEqual([[10, 10]])
    tool.press?.('Backspace')
    expect(bench.level.routes).toEqual({})
    expect(bench.level.waypoints).toEqual({})
    bench.click(tool, 50, 50)
    expect(bench.places()).toEqual([[50, 50]])
  })

  it('keeps nothing of a route that is left with a single stop', () => {
    draw([10, 10]).press?.('Escape')
    expect(bench.level.routes).toEqual({})
    expect(bench.sheet.hint).toContain('at least two stops')
    bench.make(drawRouteTool)
  })

  it('begins anew when undo has taken the route away in the middle', () => {
    const tool = draw([10, 10])
    bench.undo()
    bench.click(tool, 40, 40)
    expect(Object.keys(bench.level.routes)).toHaveLength(1)
    expect(bench.places()).toEqual([[40, 40]])
  })

  it('shares a waypoint of another route that is clicked, but not twice in a row', () => {
    draw([10, 10], [30, 10]).press?.('Enter')
    const tool = bench.make(drawRouteTool)
    bench.click(tool, 30, 10, { shift: true })
    bench.click(tool, 30, 10)
    bench.click(tool, 30, 40)
    tool.press?.('Enter')
    const [first, second] = Object.values(bench.level.routes)
    expect(second.order).toHaveLength(2)
    expect(second.stops[second.order[0]].waypointId).toBe(first.stops[first.order[1]].waypointId)
  })

  it('goes on with a route it is asked to', () => {
    draw([10, 10], [30, 10]).press?.('Enter')
    bench.sheet.goOnWith = { routeId: Object.keys(bench.level.routes)[0], from: 'last' }
    const tool = bench.make(drawRouteTool)
    bench.click(tool, 50, 10)
    expect(bench.places()).toEqual([
      [10, 10],
      [30, 10],
      [50, 10],
    ])
  })

  it('goes on from either end of the chosen route, and closes at the other', () => {
    draw([10, 10], [30, 10], [30, 30]).press?.('Enter')
    const tool = bench.make(drawRouteTool)
    bench.click(tool, 10, 10)
    bench.click(tool, 10, 50)
    expect(bench.places()).toEqual([
      [10, 50],
      [10, 10],
      [30, 10],
      [30, 30],
    ])
    bench.click(tool, 30, 30)
    expect([bench.route.travel, Object.keys(bench.level.routes)]).toEqual(['round', [expect.any(String)]])
  })

  it('draws a stroke with as few stops as follow it, or one every so far', () => {
    const tool = bench.make(drawRouteTool)
    bench.drag(tool, [10, 10], [40, 10])
    expect(bench.places()).toEqual([
      [10, 10],
      [40, 10],
    ])
    drawing.drag = 'spaced'
    drawing.spacingM = 10
    bench.drag(tool, [40, 10], [40, 50])
    drawing.drag = 'freehand'
    expect(bench.places().slice(2)).toEqual([
      [40, 10],
      [40, 20],
      [40, 30],
      [40, 40],
      [40, 50],
    ])
  })

  it('makes routes of the kind that is asked for, with names of their own', () => {
    drawing.kind = 'circuit'
    draw([10, 10], [30, 10]).press?.('Enter')
    drawing.kind = 'patrol'
    expect(bench.route).toMatchObject({ kind: 'circuit', name: 'Circuit 1', legs: 'drawn', curve: 'smooth', widthM: 8 })
  })

  it('lets a marker serve as a waypoint', () => {
    const marker = markerSchema.parse({ name: 'Crate', at: [30.2, 10.4, 0] })
    bench.level = { ...bench.level, markers: { mk_a: marker } }
    draw([10, 10], [30, 10]).press?.('Enter')
    const waypoint = bench.level.waypoints[bench.route.stops[bench.route.order[1]].waypointId]
    expect(waypoint).toMatchObject({ markerId: 'mk_a', at: [30.2, 10.4, 0] })
  })

  it('with Shift goes at multiples of 45° from the last stop', () => {
    const tool = bench.make(drawRouteTool)
    bench.click(tool, 10, 10)
    bench.click(tool, 30, 12, { shift: true })
    const [, [x, y]] = bench.places()
    expect(y).toBeCloseTo(10, 6)
    expect(x).toBeCloseTo(30, 0)
  })
})

describe('picking the order', () => {
  it('puts stops in the order they are clicked', () => {
    const draw = bench.make(drawRouteTool)
    for (const x of [10, 30, 50, 70]) bench.click(draw, x, 10)
    draw.press?.('Enter')
    const tool = bench.make(pickOrderTool)
    for (const x of [50, 10, 10]) bench.click(tool, x, 10)
    expect(bench.sheet.hint).toBe('That stop has been picked already.')
    bench.click(tool, 70, 10)
    bench.click(tool, 30, 10)
    expect(bench.places().map(([x]) => x)).toEqual([50, 10, 70, 30])
    expect(bench.done).toBe(1)
  })
})

describe('splicing', () => {
  it('puts a stop into the leg under the pointer, and says so where there is none', () => {
    const draw = bench.make(drawRouteTool)
    for (const [x, y] of [
      [10, 10],
      [30, 10],
      [30, 30],
    ])
      bench.click(draw, x, y)
    draw.press?.('Enter')
    const tool = bench.make(spliceTool)
    bench.click(tool, 20, 10)
    expect(bench.places()).toEqual([
      [10, 10],
      [20, 10],
      [30, 10],
      [30, 30],
    ])
    bench.click(tool, 60, 60)
    expect(bench.sheet.hint).toContain('no leg here')
    expect(bench.route.order).toHaveLength(4)
  })
})
