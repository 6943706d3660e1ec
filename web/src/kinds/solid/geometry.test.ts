import { solidSchema } from '@tidytrail/core/level'
import { sceneLevel } from '@tidytrail/core/testing'
import { Box3, Vector3 } from 'three'
import { describe, expect, it } from 'vitest'
import { groundGeometry } from '../../overlook/ground'
import { solidsGeometry } from './geometry'

const standing = { name: '', baseM: 1, heightM: 3 }
const level = sceneLevel(60, 40, {
  sd_box: solidSchema.parse({ shape: 'box', at: [10, 10], sizeX: 4, sizeY: 2, ...standing }),
  sd_ramp: solidSchema.parse({ shape: 'ramp', at: [30, 10], sizeX: 10, sizeY: 4, ...standing }),
  sd_drum: solidSchema.parse({ shape: 'cylinder', at: [45, 10], radiusM: 2, ...standing }),
  sd_stairs: solidSchema.parse({ shape: 'stairs', at: [30, 30], sizeX: 6, sizeY: 2, steps: 5, ...standing }),
  sd_hidden: solidSchema.parse({ shape: 'box', at: [50, 30], sizeX: 4, sizeY: 2, hidden: true, ...standing }),
})
const origin = new Vector3(30, 20, 0)

describe('solids standing up', () => {
  const { faces, edges, owner } = solidsGeometry(level, origin)
  const position = faces.getAttribute('position')
  const boxOf = (id: string) => {
    const box = new Box3()
    owner.forEach((o, t) => {
      if (o !== id) return
      for (let k = 0; k < 3; k++) box.expandByPoint(new Vector3().fromBufferAttribute(position, t * 3 + k))
    })
    return box
  }
  it('know which triangle is whose, those hidden left out', () => {
    expect(owner).toHaveLength(position.count / 3)
    expect(new Set(owner)).toEqual(new Set(['sd_box', 'sd_ramp', 'sd_drum', 'sd_stairs']))
  })
  it('have their size and height where they stand, told from the origin', () => {
    expect(boxOf('sd_box').min.toArray()).toEqual([-22, -11, 1])
    expect(boxOf('sd_box').max.toArray()).toEqual([-18, -9, 4])
    expect(boxOf('sd_stairs').max.z).toBe(4)
  })
  it('slope where they are ramps', () => {
    const low = Array.from({ length: position.count }, (_, k) => k).filter(
      (k) => owner[Math.floor(k / 3)] === 'sd_ramp',
    )
    const top = (x: number) =>
      Math.max(...low.filter((k) => Math.abs(position.getX(k) - x) < 1e-4).map((k) => position.getZ(k)))
    expect(top(-5)).toBeCloseTo(1, 6)
    expect(top(5)).toBeCloseTo(4, 6)
  })
  it('have no edges along what is round', () => {
    const drum = solidsGeometry(level, origin, new Set(['sd_drum'])).edges.getAttribute('position')
    for (let k = 0; k < drum.count; k += 2) expect(drum.getZ(k)).toBe(drum.getZ(k + 1))
    expect(edges.getAttribute('position').count).toBeGreaterThan(drum.count)
  })
})

it('the ground is drawn no finer than can be seen, and reaches to the edge of the level', () => {
  const rows = Array.from({ length: 801 }, (_, j) => Array.from({ length: 801 }, (_, i) => (i + j) / 100))
  const wide = sceneLevel(800, 800, {}, { ground: { heights: { originX: 0, originY: 0, spacingM: 1, rows } } })
  const { top, lowM, highM } = groundGeometry(wide, new Vector3(0, 0, 0))
  expect(top.getAttribute('position').count).toBeLessThan(430 * 430)
  expect(lowM).toBe(0)
  expect(highM).toBeCloseTo(16, 6)
  top.computeBoundingBox()
  expect(top.boundingBox!.max.x).toBe(800)
})
