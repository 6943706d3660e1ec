import { describe, expect, it } from 'vitest'
import { box, chance, fakeHash, meshOfShapes, sceneLevel } from '@tidytrail/core/testing'
import { canSee, floorsAt, heightAt, packMesh, provideAsset, terrainOf, topAt, Viewpoint, type Terrain } from '.'

type Place = [number, number, number]

/** The same asked slowly: places along the line, each held against everything. */
function walked(terrain: Terrain, a: Place, b: Place): boolean {
  for (let k = 1; k < 4000; k++) {
    const t = k / 4000
    const [x, y, z] = [0, 1, 2].map((i) => a[i] + (b[i] - a[i]) * t)
    if (z < heightAt(terrain.field, x, y)) return false
    for (const s of terrain.solids) {
      if (!s.source.blocksSight || z <= s.baseM || z >= topAt(s, x, y)) continue
      let odd = false
      for (let p = s.ring.length - 1, q = 0; q < s.ring.length; p = q++) {
        const [px, py] = s.ring[p]
        const [qx, qy] = s.ring[q]
        if (py > y !== qy > y && x < ((px - qx) * (y - qy)) / (py - qy) + qx) odd = !odd
      }
      if (odd) return false
    }
  }
  return true
}

const next = chance(3)
const strewn = Object.fromEntries(
  Array.from({ length: 14 }, (_, k) => {
    const more = { turnRad: next() * 3, baseM: k % 3 === 0 ? 2 : 0, walkable: true, blocksSight: k % 5 !== 4 }
    const [x, y] = [4 + next() * 28, 4 + next() * 28]
    const solid = box(x, y, x + 1 + next() * 5, y + 1 + next() * 3, 1 + next() * 2, more)
    return [`sd_${String(k).padStart(2, '0')}`, k % 4 === 1 ? ({ ...solid, shape: 'ramp' } as never) : solid]
  }),
)

describe('what can be seen from where', () => {
  it('is what a line walked in small steps finds, among boxes, ramps and what floats', () => {
    const terrain = terrainOf(sceneLevel(40, 40, strewn))
    let differ = 0
    let blocked = 0
    for (let k = 0; k < 400; k++) {
      const [a, b] = [0, 1].map((): Place => [next() * 40, next() * 40, 0.1 + next() * 4])
      const sees = canSee(terrain, ...a, ...b)
      if (!sees) blocked++
      if (sees !== walked(terrain, a, b)) differ++
    }
    expect(blocked).toBeGreaterThan(80)
    // Lines that graze an edge by less than a step of the walk.
    expect(differ).toBeLessThanOrEqual(2)
  })

  it('is the same through a mesh of the same shapes', () => {
    const level = sceneLevel(
      40,
      40,
      Object.fromEntries(Object.entries(strewn).filter(([, s]) => s.blocksSight !== false)),
    )
    const terrain = terrainOf(level)
    const mesh = meshOfShapes(terrain.solids)
    const hash = fakeHash('sight')
    provideAsset(hash, packMesh(mesh))
    const asMesh = terrainOf(
      sceneLevel(40, 40, {}, { meshes: { ms_a: { name: 'Town', assetId: hash, at: [0, 0, 0] } } }),
    )
    let differ = 0
    for (let k = 0; k < 400; k++) {
      const [a, b] = [0, 1].map((): Place => [next() * 40, next() * 40, 0.1 + next() * 4])
      // A line that begins inside a solid meets no triangle of it before it leaves.
      if (
        [a, b].some(([x, y, z]) =>
          floorsAt(terrain, x, y).some((f) => f.surface >= 0 && z < f.z && z > terrain.solids[f.surface].baseM),
        )
      )
        continue
      if (canSee(terrain, ...a, ...b) !== canSee(asMesh, ...a, ...b)) differ++
    }
    expect(differ).toBeLessThanOrEqual(2)
  })

  it('ends at a rise of the ground, and not at one that is lower than the line', () => {
    const rows = Array.from({ length: 21 }, () => Array.from({ length: 21 }, (_, i) => (i === 10 ? 3 : 0)))
    const heights = { originX: 0, originY: 0, spacingM: 2, rows, assetId: null }
    const terrain = terrainOf(sceneLevel(40, 40, {}, { ground: { baseM: 0, heights } as never }))
    expect(canSee(terrain, 5, 20, 1.7, 35, 20, 1.7)).toBe(false)
    expect(canSee(terrain, 5, 20, 3.5, 35, 20, 3.5)).toBe(true)
    expect(canSee(terrain, 5, 20, 1.7, 15, 20, 1.7)).toBe(true)
  })
})

describe('an eye many places are looked at from', () => {
  it('sees what is seen when each is asked by itself, over hills, among boxes, ramps and meshes', () => {
    const rows = Array.from({ length: 21 }, () => Array.from({ length: 21 }, () => next() * 3 - 1))
    const hills = sceneLevel(40, 40, strewn, {
      ground: { heights: { originX: 0, originY: 0, spacingM: 2, rows } },
    })
    const flat = sceneLevel(40, 40, strewn)
    const mesh = meshOfShapes(terrainOf(flat).solids)
    const bytes = packMesh(mesh)
    const hash = fakeHash('eye over strewn boxes')
    provideAsset(hash, bytes)
    const meshed = sceneLevel(40, 40, {}, { meshes: { ms_a: { name: 'M', assetId: hash, at: [0, 0, 0] } } })
    const seen = [0, 0, 0]
    ;[hills, flat, meshed].forEach((level, n) => {
      const terrain = terrainOf(level)
      for (let k = 0; k < 40; k++) {
        const eye: Place = [next() * 40, next() * 40, 0.2 + next() * 3]
        const from = new Viewpoint(terrain, ...eye, 60)
        for (let q = 0; q < 40; q++) {
          // Beyond the edge of the ground as well, where it is held level.
          const to: Place = [next() * 50 - 5, next() * 50 - 5, next() * 4]
          const sees = canSee(terrain, ...eye, ...to)
          if (sees) seen[n]++
          expect(from.sees(...to)).toBe(sees)
        }
      }
    })
    for (const count of seen) {
      expect(count).toBeGreaterThan(100)
      expect(count).toBeLessThan(1500)
    }
  })
})
