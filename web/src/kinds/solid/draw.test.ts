import { beforeEach, describe, expect, it } from 'vitest'
import { boxTool, rampTool } from './draw-block'
import { prismTool } from './draw-prism'
import { chooseTool } from '../../sheet/tools/choose'
import { Bench } from '../../sheet/tools/tool-bench'

let bench: Bench
beforeEach(() => {
  bench = new Bench()
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
    // The tool stays in hand.
    expect(bench.done).toBe(0)
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
