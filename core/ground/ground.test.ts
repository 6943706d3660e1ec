import { describe, expect, it } from 'vitest'
import { groundSchema, solidSchema, type Level } from '@tidytrail/core/level'
import {
  floorsAt,
  floorUnder,
  footprint,
  GROUND,
  heightAt,
  heightField,
  solidShapes,
  terrainChanges,
  terrainOf,
  topAt,
} from '.'

const slope = groundSchema.parse({
  heights: {
    originX: 0,
    originY: 0,
    spacingM: 10,
    rows: [
      [0, 10],
      [0, 10],
    ],
  },
})
const NONE: Level['meshes'] = {}
const solid = (value: object) => solidSchema.parse({ name: '', baseM: 0, heightM: 2, ...value })
const terrain = (solids: Level['solids']) => terrainOf({ ground: groundSchema.parse({}), solids, meshes: NONE })

it('reads heights between samples, and holds them level beyond', () => {
  const field = heightField(slope)
  expect([heightAt(field, 2.5, 5), heightAt(field, 10, 0), heightAt(field, 40, 5), heightAt(field, -3, 5)]).toEqual([
    2.5, 10, 10, 0,
  ])
})

describe('solids', () => {
  it('turn about their middle', () => {
    const [a] = footprint(solid({ shape: 'box', at: [10, 10], sizeX: 4, sizeY: 2, turnRad: Math.PI / 2 }))
    expect(a[0]).toBeCloseTo(11, 9)
    expect(a[1]).toBeCloseTo(8, 9)
  })

  it('that are ramps rise along their own axis', () => {
    const [ramp] = solidShapes(
      'sd_r',
      solid({ shape: 'ramp', at: [0, 0], sizeX: 10, sizeY: 2, turnRad: Math.PI / 2, heightM: 5 }),
    )
    expect(topAt(ramp, 0, -5)).toBeCloseTo(0, 9)
    expect(topAt(ramp, 0, 0)).toBeCloseTo(2.5, 9)
    expect(topAt(ramp, 0, 5)).toBeCloseTo(5, 9)
  })
})

describe('floors', () => {
  const stack = terrain({
    sd_a: solid({ shape: 'box', at: [5, 5], sizeX: 10, sizeY: 10, heightM: 1 }),
    sd_b: solid({ shape: 'box', at: [5, 5], sizeX: 4, sizeY: 4, baseM: 1, heightM: 1 }),
    sd_roof: solid({ shape: 'box', at: [5, 5], sizeX: 10, sizeY: 10, baseM: 4, heightM: 0.5 }),
  })
  it('lie one above the other, touching solids counting as one', () => {
    expect(floorsAt(stack, 5, 5).map((f) => [f.z, f.ceilingM])).toEqual([
      [2, 4],
      [4.5, Infinity],
    ])
    expect(floorsAt(stack, 1, 1).map((f) => f.z)).toEqual([1, 4.5])
    expect(floorsAt(stack, 50, 50)).toEqual([{ z: 0, ceilingM: Infinity, surface: GROUND }])
  })
  it('belong to what stands on them or hangs above them', () => {
    const floors = floorsAt(stack, 1, 1)
    expect(floorUnder(floors, 3).z).toBe(1)
    expect(floorUnder(floors, 0.9).z).toBe(1)
    expect(floorUnder(floors, 9).z).toBe(4.5)
    expect(floorUnder(floors, -5).z).toBe(1)
  })
})

it('knows where two terrains differ', () => {
  const a = solid({ shape: 'box', at: [5, 5], sizeX: 2, sizeY: 2 })
  const ground = groundSchema.parse({})
  const one = terrainOf({ ground, solids: { sd_a: a }, meshes: NONE })
  expect(terrainChanges(one, terrainOf({ ground, solids: { sd_a: a }, meshes: NONE }))).toEqual([])
  const moved = terrainChanges(
    one,
    terrainOf({ ground, solids: { sd_a: { ...a, at: [50, 5] } as typeof a }, meshes: NONE }),
  )
  expect(moved).toHaveLength(2)
  expect(terrainChanges(one, terrainOf({ ground: slope, solids: {}, meshes: NONE }))).toBe('everywhere')
})
