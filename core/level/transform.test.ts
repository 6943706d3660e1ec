import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  blankLevel,
  clipOf,
  copiesOf,
  pasted,
  mirrorIn,
  movedThing,
  shift,
  solidSchema,
  turnAbout,
  type Solid,
} from '.'

const place = fc.tuple(fc.integer({ min: -500, max: 500 }), fc.integer({ min: -500, max: 500 }))
const box = (at: [number, number], turnRad: number): Solid =>
  solidSchema.parse({ shape: 'box', name: '', at, sizeX: 4, sizeY: 2, turnRad, baseM: 0, heightM: 1 })
const near = (a: Solid, b: Solid) => {
  if (a.shape !== 'box' || b.shape !== 'box') throw new Error('boxes were expected')
  expect(a.at[0]).toBeCloseTo(b.at[0], 2)
  expect(a.at[1]).toBeCloseTo(b.at[1], 2)
  const apart = a.turnRad - b.turnRad
  expect(Math.abs(apart - 2 * Math.PI * Math.round(apart / (2 * Math.PI)))).toBeLessThan(1e-4)
}

describe('moving things', () => {
  it('mirrored twice, or turned there and back, they are as they were', () => {
    fc.assert(
      fc.property(place, place, fc.double({ min: -3, max: 3, noNaN: true }), (at, about, rad) => {
        const thing = box(at, Math.round(rad * 1000) / 1000)
        for (const axis of ['upright', 'level'] as const) {
          const mirror = mirrorIn(axis, ...about)
          near(movedThing('solids', movedThing('solids', thing, mirror)!, mirror)!, thing)
        }
        near(
          movedThing('solids', movedThing('solids', thing, turnAbout(...about, rad))!, turnAbout(...about, -rad))!,
          thing,
        )
      }),
    )
  })

  it('a mirrored facing looks the mirrored way', () => {
    const north = { at: [3, 4, 0], facingRad: Math.PI / 2 }
    expect(movedThing('posts', north, mirrorIn('level', 0, 0))).toEqual({ at: [3, -4, 0], facingRad: -1.570796 })
    const east = { at: [3, 4, 0], facingRad: 0 }
    expect(movedThing('posts', east, mirrorIn('upright', 5, 0))).toEqual({ at: [7, 4, 0], facingRad: -3.141593 })
  })

  it('copied in a row they stand at equal steps, each with an id of its own', () => {
    const level = { ...blankLevel('L'), solids: { sd_a: box([10, 10], 0) } }
    let n = 0
    const copies = copiesOf(
      level,
      ['sd_a', 'pf_warden'],
      [1, 2, 3].map((k) => shift(k * 5, 0, 1)),
      () => `sd_n${++n}`,
    )
    expect(copies.map((c) => c.id)).toEqual(['sd_n1', 'sd_n2', 'sd_n3'])
    expect(copies.map((c) => (c.thing as { at: number[] }).at[0])).toEqual([15, 20, 25])
    expect((copies[2].thing as Solid).baseM).toBe(1)
  })

  it('copies are told apart by the next free numbers, and what has no name keeps none', () => {
    const named = (name: string) => ({ ...box([10, 10], 0), name })
    const solids = { sd_a: named('Block 1'), sd_b: named('Block 3'), sd_c: named('Gate'), sd_d: named('') }
    const level = { ...blankLevel('L'), solids }
    let n = 0
    const once = [shift(5, 0), shift(10, 0)]
    const copies = copiesOf(level, ['sd_a', 'sd_c', 'sd_d'], once, () => `sd_n${++n}`)
    const names = (list: readonly { thing: unknown }[]) => list.map((c) => (c.thing as Solid).name)
    expect(names(copies)).toEqual(['Block 2', 'Gate 1', '', 'Block 4', 'Gate 2', ''])
    // So are those that are pasted.
    expect(names(pasted(level, clipOf(level, ['sd_a', 'sd_b']), [0, 0], () => `sd_n${++n}`))).toEqual([
      'Block 2',
      'Block 4',
    ])
  })
})
