import { coverSchema, passageSchema, solidSchema, underlaySchema } from '@tidytrail/core/level'
import { beforeEach, describe, expect, it } from 'vitest'
import { heightBrush, heightsTool } from '../../tools/brush-heights'
import { chooseTool } from './choose'
import { areaTool } from '../../kinds/reach-area/draw-area'
import { cylinderTool, stairsTool } from '../../kinds/solid/draw-block'
import { passageBrush, passageTool, usualTimeS } from '../../kinds/passage/draw-passage'
import { prismTool } from '../../kinds/solid/draw-prism'
import { coverBrush, coverTool } from '../../kinds/cover/paint'
import { applyCalibration, pinned, calibration, calibrateTool } from '../../kinds/underlay/calibrate'
import { snapPlace, squared } from '../../tools/snapping'
import { passageOf } from '../../kinds/passage/suggestion'
import { Bench } from './tool-bench'

let bench: Bench
beforeEach(() => {
  bench = new Bench()
  bench.sheet.stage = 'ground'
})
const first = <T>(things: Record<string, T>) => Object.values(things)[0]
const box = (x: number, y: number, sizeX: number, sizeY: number) =>
  solidSchema.parse({ shape: 'box', name: '', at: [x, y], sizeX, sizeY, baseM: 0, heightM: 3 })

describe('snapping', () => {
  const level = () => ({ ...bench.level, solids: { sd_a: box(20, 20, 10, 6) } })
  it('prefers corners to edges, and edges to the grid', () => {
    expect(snapPlace(level(), 24.6, 22.7, 1)).toEqual({ at: [25, 23], to: 'corner' })
    expect(snapPlace(level(), 20.3, 22.7, 1)).toEqual({ at: [20.3, 23], to: 'edge' })
    expect(snapPlace(level(), 40.3, 22.7, 1)).toEqual({ at: [40, 23], to: 'grid' })
  })
  it('lets places be where the grid is off', () => {
    const free = { ...level(), settings: { ...bench.level.settings, snap: false } }
    expect(snapPlace(free, 40.3, 22.7, 1)).toEqual({ at: [40.3, 22.7], to: 'nothing' })
  })
  it('squares a side to the one before it', () => {
    const [x, y] = squared([0, 0], [10, 0], [11, 8])
    expect(x).toBeCloseTo(10, 9)
    expect(y).toBeCloseTo(8, 9)
    const [u, v] = squared([0, 0], [10, 10], [18, 3])
    expect(u - 10).toBeCloseTo(-(v - 10), 9)
  })
})

describe('outlines', () => {
  const corners: [number, number][] = [
    [10, 10],
    [30, 10],
    [30, 20],
  ]
  it('become a cover of the kind in hand, with its nature, closed by a click on the first corner', () => {
    coverBrush.kind = 'mud'
    const tool = bench.make(coverTool)
    for (const [x, y] of [...corners, corners[0]]) bench.click(tool, x, y)
    expect(first(bench.level.covers)).toMatchObject({ kind: 'mud', name: 'Mud 1', speedFactor: 0.5, ring: corners })
    expect(bench.done).toBe(0)
  })
  it('become a reach area of the profile looked at', () => {
    const tool = bench.make(areaTool)
    for (const [x, y] of corners) bench.click(tool, x, y)
    tool.press?.('Enter')
    expect(first(bench.level.reachAreas)).toMatchObject({ profileIds: ['pf_warden'], ring: corners })
  })
  it('that cross themselves say where, and stay to be mended', () => {
    const tool = bench.make(prismTool)
    for (const [x, y] of [
      [0, 0],
      [10, 10],
      [10, 0],
      [0, 10],
    ] as const) {
      bench.click(tool, x, y)
    }
    tool.press?.('Enter')
    expect(bench.sheet.hint).toContain('crosses itself near 5.0, 5.0 m')
    expect(bench.level.solids).toEqual({})
    tool.press?.('Backspace')
    tool.press?.('Enter')
    expect(Object.keys(bench.level.solids)).toHaveLength(1)
  })
  it('keep right angles with Shift', () => {
    const tool = bench.make(prismTool)
    bench.click(tool, 10, 10)
    bench.click(tool, 30, 10)
    bench.click(tool, 31, 24, { shift: true })
    tool.press?.('Enter')
    const solid = first(bench.level.solids)
    if (solid.shape !== 'prism') throw new Error('a prism was expected')
    expect(solid.ring[2]).toEqual([30, 24])
  })
})

describe('block-out', () => {
  it('fits a cylinder into the square it is dragged in', () => {
    bench.drag(bench.make(cylinderTool), [10, 10], [16, 20])
    expect(first(bench.level.solids)).toMatchObject({ shape: 'cylinder', at: [13, 15], radiusM: 3, heightM: 3 })
  })
  it('gives stairs the steps their rise asks for', () => {
    bench.level = { ...bench.level, solids: { sd_deck: { ...box(30, 10, 10, 10), heightM: 3.4, walkable: true } } }
    bench.drag(bench.make(stairsTool), [15, 8], [25, 12])
    const stairs = Object.values(bench.level.solids).find((s) => s.shape === 'stairs')
    expect(stairs).toMatchObject({ heightM: 3.4, steps: 20, turnRad: 0 })
  })
})

describe('the height brush', () => {
  it('lays heights out on level ground and paints them; one stroke is one step', () => {
    Object.assign(heightBrush, { kind: 'raise', radiusM: 6, strength: 1 })
    const tool = bench.make(heightsTool)
    bench.drag(tool, [60, 40], [62, 40])
    const rows = bench.level.ground.heights!.rows
    expect(rows[40][60]).toBeGreaterThan(0.5)
    expect(rows[40][80]).toBe(0)
    expect(bench.past).toHaveLength(1)
    expect(bench.released).toBe(1)
  })
  it('makes a ramp when the pointer is let go', () => {
    Object.assign(heightBrush, { kind: 'raise', radiusM: 6, strength: 1 })
    bench.click(bench.make(heightsTool), 20, 40)
    const top = bench.level.ground.heights!.rows[40][20]
    heightBrush.kind = 'ramp'
    bench.drag(bench.make(heightsTool), [20, 40], [50, 40])
    const rows = bench.level.ground.heights!.rows
    expect(rows[40][35]).toBeCloseTo(top / 2, 2)
  })
  it('changes its size with the brackets', () => {
    heightBrush.radiusM = 10
    expect(bench.make(heightsTool).press?.(']')).toBe(true)
    expect(heightBrush.radiusM).toBe(12.5)
  })
})

describe('passages', () => {
  it('are drawn from where they begin to where they end, and know how long they take', () => {
    passageBrush.kind = 'drop'
    const tool = bench.make(passageTool)
    bench.click(tool, 10, 10)
    bench.click(tool, 12, 10)
    expect(first(bench.level.passages)).toMatchObject({
      kind: 'drop',
      from: [10, 10, 0],
      to: [12, 10, 0],
      twoWay: false,
    })
    expect(usualTimeS('ladder', [0, 0, 0], [0, 0, 5])).toBe(11)
    // A fall of 4.9 m takes a second.
    expect(usualTimeS('drop', [0, 0, 4.905], [1, 0, 0])).toBe(1)
  })
  it('do not lead from a place to itself', () => {
    const tool = bench.make(passageTool)
    bench.click(tool, 10, 10)
    bench.click(tool, 10, 10)
    expect(bench.sheet.hint).toContain('same place')
    expect(bench.level.passages).toEqual({})
  })
  it('are moved by either end', () => {
    bench.sheet.stage = 'reach'
    const thing = passageSchema.parse({ name: 'Rungs', kind: 'ladder', from: [10, 10, 0], to: [30, 10, 4] })
    bench.level = { ...bench.level, passages: { pg_a: thing } }
    bench.drag(bench.make(chooseTool), [30, 10], [34, 12])
    expect(bench.level.passages.pg_a.to.slice(0, 2)).toEqual([34, 12])
    expect(bench.level.passages.pg_a.from).toEqual([10, 10, 0])
  })
  it('suggested are taken by a click, with names of their own', () => {
    bench.sheet.stage = 'reach'
    const ghost = { kind: 'drop', from: [20, 20, 2], to: [24, 20, 0], twoWay: false, takesS: 1 } as const
    bench.context.survey.suggestions = [{ ...ghost, islands: [1, 0], widthM: 4, riseM: -2 }]
    const tool = bench.make(chooseTool)
    // The bow swings to the upper side; its middle is what one clicks.
    bench.click(tool, 22, 20 + 19 / bench.view.scale)
    expect(first(bench.level.passages)).toMatchObject({ kind: 'drop', name: 'Drop 1', from: [20, 20, 2] })
    expect(passageOf(bench.level, { ...ghost, islands: [1, 0], widthM: 4, riseM: -2 }, ['Drop 2']).name).toBe('Drop 3')
  })
})

describe('choosing on the ground', () => {
  it('moves covers whole, and their corners one by one', () => {
    const ring: [number, number][] = [
      [10, 10],
      [30, 10],
      [30, 30],
      [10, 30],
    ]
    bench.level = { ...bench.level, covers: { cv_a: coverSchema.parse({ name: '', kind: 'grass', ring }) } }
    const tool = bench.make(chooseTool)
    bench.drag(tool, [20, 20], [25, 20])
    expect(bench.level.covers.cv_a.ring[0]).toEqual([15, 10])
    bench.sheet.choose(['cv_a'])
    bench.drag(tool, [35, 30], [40, 36])
    expect(bench.level.covers.cv_a.ring[2]).toEqual([40, 36])
  })
  it('moves all that is chosen together, and leaves the locked', () => {
    bench.level = {
      ...bench.level,
      solids: { sd_a: box(20, 20, 4, 4), sd_b: box(40, 20, 4, 4), sd_c: { ...box(60, 20, 4, 4), locked: true } },
    }
    bench.sheet.choose(['sd_a', 'sd_b', 'sd_c'])
    bench.drag(bench.make(chooseTool), [20, 20], [20, 25])
    const at = (id: string) => (bench.level.solids[id] as { at: number[] }).at
    expect([at('sd_a'), at('sd_b'), at('sd_c')]).toEqual([
      [20, 25],
      [40, 25],
      [60, 20],
    ])
  })
})

describe('an underlay placed by two points', () => {
  const underlay = () =>
    underlaySchema.parse({ name: 'Plan', assetId: 'ab'.repeat(32), at: [10, 10], metresPerPixel: 0.5 })
  it('keeps the first point where it is and gets its scale from the distance', () => {
    const set = pinned(underlay(), [20, 10], [40, 10], 10, false)
    expect(set).toMatchObject({ metresPerPixel: 0.25, at: [15, 10], turnRad: 0 })
  })
  it('is turned so that the line lies west to east, when that is asked for', () => {
    const set = pinned(underlay(), [10, 10], [10, 30], 20, true)
    expect(set.turnRad).toBeCloseTo(-Math.PI / 2, 5)
    expect(set.at![0]).toBeCloseTo(10, 3)
  })
  it('takes its two points by clicks, and one step does it', () => {
    bench.level = { ...bench.level, underlays: { ul_a: underlay() } }
    const tool = bench.make(calibrateTool)
    bench.click(tool, 10, 10)
    expect(bench.sheet.hint).toContain('Choose an underlay')
    bench.sheet.choose(['ul_a'])
    bench.click(tool, 10, 10)
    bench.click(tool, 30, 10)
    expect(calibration.distanceM).toBe(20)
    calibration.distanceM = 60
    applyCalibration(bench.context as never, 'ul_a')
    expect(bench.level.underlays.ul_a.metresPerPixel).toBe(1.5)
    expect(bench.past).toHaveLength(1)
  })
})
