import { beforeEach, describe, expect, it } from 'vitest'
import { linkTool } from './link-tool'
import { drawing, linking } from '../route/draw-options'
import { drawRouteTool } from '../route/draw-route'
import { Bench } from '../../sheet/tools/tool-bench'

let bench: Bench
beforeEach(() => {
  bench = new Bench()
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
    drawing.kind = 'lane'
    const draw = bench.make(drawRouteTool)
    for (const y of [10, 30]) {
      bench.click(draw, 10, y)
      bench.click(draw, 30, y)
      draw.press?.('Enter')
      bench.sheet.choose([])
    }
    const tool = bench.make(linkTool)
    bench.click(tool, 30, 10)
    bench.click(tool, 10, 30)
    bench.click(tool, 60, 60)
    expect(bench.sheet.hint).toContain('Click another waypoint')
    expect(Object.keys(bench.level.routes)).toHaveLength(2)
    // Who drives a lane leaves it forwards.
    expect(Object.values(bench.level.links)).toMatchObject([{ twoWay: false }])
    drawing.kind = 'patrol'
  })

  it('links both ways where nobody drives, unless somebody says otherwise', () => {
    const tool = bench.make(linkTool)
    for (const ways of ['fitting', 'one', 'both'] as const) {
      linking.ways = ways
      bench.click(tool, 10 + Object.keys(bench.level.waypoints).length * 10, 10)
      bench.click(tool, 10 + Object.keys(bench.level.waypoints).length * 10, 30)
    }
    linking.ways = 'fitting'
    expect(Object.values(bench.level.links).map((l) => l.twoWay)).toEqual([true, false, false, true, true])
  })

  it('lets go of what undo has taken away', () => {
    const tool = bench.make(linkTool)
    bench.click(tool, 10, 10)
    bench.undo()
    bench.click(tool, 50, 50)
    expect(bench.places()).toEqual([[50, 50]])
  })
})
