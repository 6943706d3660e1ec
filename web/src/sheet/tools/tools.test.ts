import { beforeEach, describe, expect, it } from 'vitest'
import { chooseTool } from './choose'
import { boxTool, rampTool } from '../../kinds/solid/draw-block'
import { prismTool } from '../../kinds/solid/draw-prism'
import { markerSchema, passageSchema } from '@tidytrail/core/level'
import { drawing, linking } from '../../kinds/route/draw-options'
import { drawRouteTool } from '../../kinds/route/draw-route'
import { linkTool } from '../../kinds/link/link-tool'
import { bowMiddle } from '../../kinds/passage/draw'
import { pickOrderTool } from '../../kinds/route/pick-order'
import { placeSpawnerTool } from '../../kinds/spawner/place-spawner'
import { spliceTool } from '../../kinds/route/splice'
import { toLevelX, toLevelY } from '../../map/viewport'
import { Bench } from './tool-bench'

type Place = [number, number, number]
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
      1,
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

describe('linking', () => {
  it('lays a chain of nodes, links to those there are, and never to itself', () => {
    const tool = bench.make(linkTool)
    for (const [x, y] of [
      [10, 10],
      [30, 10],
      [30, 30],
      [30, 30],
      [10, 10],
    ])
      bench.click(tool, x, y)
    expect(bench.sheet.hint).toBe('A link needs two different waypoints.')
    expect(bench.route).toMatchObject({ kind: 'network', name: 'Network 1' })
    expect(bench.places()).toEqual([
      [10, 10],
      [30, 10],
      [30, 30],
    ])
    expect(bench.route.linkIds).toHaveLength(3)
    tool.press?.('Escape')
    bench.click(tool, 50, 50)
    expect([bench.route.order.length, bench.route.linkIds.length]).toEqual([4, 3])
  })

  it('makes forks between the waypoints of lanes, which belong to no network', () => {
    const draw = bench.make(drawRouteTool)
    for (const y of [10, 30]) {
      bench.click(draw, 10, y)
      bench.click(draw, 30, y)
      draw.press?.('Enter')
      bench.sheet.choose([])
    }
    const tool = bench.make(linkTool)
    linking.twoWay = false
    bench.click(tool, 30, 10)
    bench.click(tool, 10, 30)
    linking.twoWay = true
    bench.click(tool, 60, 60)
    expect(bench.sheet.hint).toContain('Click another waypoint')
    expect(Object.keys(bench.level.routes)).toHaveLength(2)
    expect(Object.values(bench.level.links)).toMatchObject([{ twoWay: false }])
  })

  it('lets go of what undo has taken away', () => {
    const tool = bench.make(linkTool)
    bench.click(tool, 10, 10)
    bench.undo()
    bench.click(tool, 50, 50)
    expect(bench.places()).toEqual([[50, 50]])
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
    expect(bench.done).toBe(2)
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

describe('solids', () => {
  beforeEach(() => {
    bench.sheet.stage = 'ground'
  })
  const solid = () => Object.values(bench.level.solids)[0]

  it('are boxes drawn from any corner to the opposite one', () => {
    bench.drag(bench.make(boxTool), [30, 40], [20, 36])
    expect(solid()).toMatchObject({
      shape: 'box',
      at: [25, 38],
      sizeX: 10,
      sizeY: 4,
      baseM: 0,
      heightM: 3,
      name: 'Block 1',
    })
    expect(bench.done).toBe(1)
  })

  it('are not made by a mere click, which is explained', () => {
    bench.click(bench.make(boxTool), 30, 40)
    expect(bench.level.solids).toEqual({})
    expect(bench.sheet.hint).toContain('drag to the opposite one')
  })

  it('are ramps that rise the way they were drawn, up to the floor they meet', () => {
    bench.drag(bench.make(boxTool), [30, 30], [40, 40])
    const [id] = Object.keys(bench.level.solids)
    bench.drag(bench.make(rampTool), [20, 33], [30, 37])
    const ramp = Object.entries(bench.level.solids).find(([k]) => k !== id)![1]
    expect(ramp).toMatchObject({
      shape: 'ramp',
      at: [25, 35],
      sizeX: 10,
      sizeY: 4,
      turnRad: 0,
      heightM: 3,
      walkable: true,
    })
  })

  it('are prisms closed on their first corner, but not when they cross themselves', () => {
    const tool = bench.make(prismTool)
    for (const [x, y] of [
      [10, 10],
      [30, 30],
      [30, 10],
      [10, 30],
    ])
      bench.click(tool, x, y)
    tool.press?.('Enter')
    expect(bench.sheet.hint).toContain('crosses itself')
    tool.press?.('Backspace')
    bench.click(tool, 10, 10)
    expect(solid()).toMatchObject({
      shape: 'prism',
      ring: [
        [10, 10],
        [30, 30],
        [30, 10],
      ],
    })
  })

  it('are moved in the Ground stage by dragging, and not elsewhere unless chosen', () => {
    bench.drag(bench.make(boxTool), [30, 30], [40, 40])
    bench.sheet.choose([])
    bench.drag(bench.make(chooseTool), [35, 35], [38, 35])
    expect(solid()).toMatchObject({ at: [38, 35] })
    bench.sheet.choose([])
    bench.sheet.stage = 'routes'
    expect(bench.make(chooseTool).down?.(bench.pointer(38, 35))).toBe(false)
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

describe('spawners', () => {
  it('are placed by a click, facing where one drags', () => {
    bench.drag(bench.make(placeSpawnerTool), [20, 20], [20, 26])
    expect(Object.values(bench.level.spawners)[0]).toMatchObject({
      name: 'Spawner 1',
      at: [20, 20, 0],
      facingRad: 1.571,
      profileId: 'pf_warden',
    })
    bench.click(bench.make(placeSpawnerTool), 40, 20)
    expect(Object.values(bench.level.spawners)[1]).toMatchObject({ name: 'Spawner 2', facingRad: 0 })
  })
})
