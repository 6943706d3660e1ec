import { describe, expect, it } from 'vitest'
import { changeHeights, groundSchema, setHeights, type Level } from '@tidytrail/core/level'
import { box, fakeHash, sceneLevel } from '@tidytrail/core/testing'
import {
  dab,
  flatRows,
  heightAt,
  heightField,
  packHeights,
  provideAsset,
  settlePlan,
  terrainChanges,
  terrainOf,
  type Dab,
} from '.'

const flat = () => heightField(groundSchema.parse({ heights: flatRows({ minX: 0, minY: 0, maxX: 40, maxY: 30 }, 2) }))
const after = (d: Dab, field = flat()) => {
  const rows = dab(field, d)
  for (const [j, row] of Object.entries(rows)) field.z.set(row, Number(j) * field.columns)
  return field
}

describe('a dab of the brush', () => {
  const at = { x: 20, y: 15, radiusM: 5, strength: 0.5 }
  it('raises most in its middle and nothing at its edge', () => {
    const field = after({ kind: 'raise', ...at })
    expect(heightAt(field, 20, 15)).toBe(2.5)
    expect(heightAt(field, 22, 15)).toBeGreaterThan(2)
    expect(heightAt(field, 22, 15)).toBeLessThan(2.5)
    expect(heightAt(field, 25, 15)).toBe(2)
  })
  it('undoes with lowering what raising did', () => {
    const field = after({ kind: 'lower', ...at }, after({ kind: 'raise', ...at }))
    expect([...field.z].every((z) => Math.abs(z - 2) < 0.002)).toBe(true)
  })
  it('levels towards a height and smooths bumps away', () => {
    const field = after({ kind: 'level', ...at, strength: 1, targetM: 7 })
    expect(heightAt(field, 20, 15)).toBe(7)
    const bump = heightAt(field, 20, 15) - heightAt(field, 21, 15)
    after({ kind: 'smooth', ...at, strength: 1 }, field)
    expect(heightAt(field, 20, 15) - heightAt(field, 21, 15)).toBeLessThan(bump)
  })
  it('makes an even ramp from where it began to where it ends', () => {
    const field = after({ kind: 'ramp', x: 30, y: 15, radiusM: 3, strength: 1, from: [10, 15, 2], toM: 7 })
    for (const t of [0.25, 0.5, 0.75]) expect(heightAt(field, 10 + 20 * t, 15)).toBeCloseTo(2 + 5 * t, 2)
    expect(heightAt(field, 20, 20)).toBe(2)
  })
  it('beside the grid changes nothing', () => expect(dab(flat(), { kind: 'raise', ...at, x: 500 })).toEqual({}))
})

describe('heights from an asset', () => {
  const hash = fakeHash('heights')
  const heights = { originX: 0, originY: 0, spacingM: 10, rows: [], assetId: hash, changed: {} }
  const level: Level = { ...sceneLevel(20, 20, {}), ground: groundSchema.parse({ baseM: 1, heights }) }
  it('are the base height until the asset has come, and its own from then on', () => {
    expect(heightAt(terrainOf(level).field, 5, 5)).toBe(1)
    expect(terrainOf(level).missing).toEqual([hash])
    provideAsset(hash, packHeights({ columns: 3, rows: 3, z: Float32Array.from([0, 0, 0, 4, 4, 4, 8, 8, 8]) }))
    expect(heightAt(terrainOf(level).field, 5, 5)).toBe(2)
    expect(terrainOf(level).missing).toEqual([])
  })
  it('keep brush strokes as changed rows, and only what those touch is rebuilt', () => {
    const edited = changeHeights.apply(level, { rows: { 1: [9, 4, 4] }, word: 'Raise' })
    expect(edited.patch).toEqual([{ op: 'add', path: '/ground/heights/changed/r1', value: [9, 4, 4] }])
    expect(heightAt(terrainOf(edited.level).field, 0, 10)).toBe(9)
    const [change] = terrainChanges(terrainOf(level), terrainOf(edited.level)) as { maxX: number }[]
    expect(change.maxX).toBeCloseTo(10.01, 6)
    expect(terrainChanges(terrainOf(level), terrainOf(setHeights.apply(level, { heights: null }).level))).toBe(
      'everywhere',
    )
  })
})

describe('settling', () => {
  const level: Level = sceneLevel(
    40,
    20,
    {
      sd_deck: box(10, 5, 20, 15, 0.5, { baseM: 3.5, walkable: true }),
      sd_crate: box(30, 5, 32, 7, 1, { baseM: 4 }),
    },
    {
      waypoints: { wp_up: { at: [15, 10, 4.8] }, wp_gull: { at: [5, 5, 9], liftM: 6 }, wp_ok: { at: [2, 2, 0] } },
      markers: { mk_low: { name: '', at: [15, 10, 1.5] } },
    },
  )
  const ids = ['wp_up', 'wp_gull', 'wp_ok', 'mk_low', 'sd_crate']
  const heights = (on?: Parameters<typeof settlePlan>[2]) =>
    Object.fromEntries(settlePlan(level, ids, on).map((m) => [m.id, m.to[2]]))
  it('puts each on the nearest floor below it, keeps what flies at its height, and leaves what rests alone', () => {
    expect(heights()).toEqual({ wp_up: 4, wp_gull: 6, mk_low: 0, sd_crate: 0 })
  })
  it('on another floor when that is asked for', () => {
    expect(heights('highest')).toMatchObject({ wp_up: 4, mk_low: 4 })
    expect(heights('lowest')).toMatchObject({ wp_up: 0, mk_low: 0 })
    expect(heights('nearest')).toMatchObject({ wp_up: 4, mk_low: 0 })
  })
})
