import { levelSchema } from '@tidytrail/core/level'
import { lookUpMesh, packMesh, unpackMesh, type MeshData } from '@tidytrail/core/ground'
import { buildReach, reachSource } from '@tidytrail/core/reach'
import { box, meshOfShapes, sceneLevel } from '@tidytrail/core/testing'
import { terrainOf } from '@tidytrail/core/ground'
import { describe, expect, it } from 'vitest'
import { islandUsers } from './island-users'
import { drawMeshPlan } from './mesh-plan'
import { stipple } from './stipple'

const meshOf = (...boxes: Parameters<typeof box>[]): MeshData =>
  meshOfShapes(terrainOf(sceneLevel(60, 40, Object.fromEntries(boxes.map((b, k) => [`sd_${k}`, box(...b)])))).solids)

describe('the plan of a mesh', () => {
  const data = meshOf([0, 0, 20, 10, 1], [5, 2, 9, 6, 4])
  const plan = drawMeshPlan(data, lookUpMesh(data))
  const at = (x: number, y: number) => {
    const i = Math.floor(((x - plan.minX) / (plan.maxX - plan.minX)) * plan.width)
    const j = Math.floor(((plan.maxY - y) / (plan.maxY - plan.minY)) * plan.height)
    return plan.ink[j * plan.width + i]
  }
  it('covers just what the mesh covers', () => {
    expect([plan.minX, plan.minY]).toEqual([0, 0])
    expect(plan.maxX).toBeCloseTo(20, 1)
    expect(plan.maxY).toBeCloseTo(10, 1)
  })
  it('inks edges where the height jumps and shades what is flat only lightly', () => {
    expect(at(5.03, 4)).toBeGreaterThan(200)
    expect(at(15, 5)).toBeLessThan(40)
    expect(at(0.02, 5)).toBeGreaterThan(200)
  })
  it('keeps large meshes to a size a map can draw', () => {
    const wide = meshOf([0, 0, 4000, 3000, 1])
    const { width, height } = drawMeshPlan(wide, lookUpMesh(wide))
    expect(width * height).toBeLessThan(1_600_000)
  })
  it('is the same after the mesh has been packed', () => {
    const again = unpackMesh(packMesh(data))
    expect(drawMeshPlan(again, lookUpMesh(again)).ink).toEqual(plan.ink)
  })
})

describe('the stipple of a reach map', () => {
  const level = sceneLevel(40, 20, { sd_deck: box(10, 5, 20, 15, 3, { walkable: true }) })
  const map = buildReach(reachSource(level, 'pf_warden'))
  it('has dots on every floor that is reached, and tells islands apart', () => {
    const { places, islands } = stipple(map, 1)
    const on = (z: number) => Array.from(islands).filter((_, k) => places[k * 3 + 2] === z)
    expect(new Set(on(3)).size).toBe(1)
    expect(on(3)[0]).not.toBe(on(0)[0])
    // One dot a square metre: the deck is 10 m square less a rim.
    expect(on(3).length).toBeGreaterThan(60)
    expect(on(3).length).toBeLessThan(110)
  })
  it('has fewer dots when they are asked to be farther apart', () => {
    expect(stipple(map, 2).places.length).toBeLessThan(stipple(map, 1).places.length / 3)
  })
})

it('islands know whose routes and spawners lie on them', () => {
  const level = levelSchema.parse({
    ...sceneLevel(40, 20, { sd_deck: box(10, 5, 20, 15, 3, { walkable: true }) }),
    waypoints: { wp_a: { at: [2, 2, 0] }, wp_b: { at: [15, 10, 3] } },
    routes: {
      rt_a: {
        name: 'Both',
        stops: { st_a: { waypointId: 'wp_a' }, st_b: { waypointId: 'wp_b' } },
        order: ['st_a', 'st_b'],
      },
    },
    spawners: { sp_up: { name: 'Deck', at: [16, 9, 3], profileId: 'pf_warden' } },
  })
  const map = buildReach(reachSource(level, 'pf_warden'))
  const users = islandUsers(level, map, 'pf_warden')
  expect(users.get(0)).toEqual(['rt_a'])
  expect(users.get(1)!.sort()).toEqual(['rt_a', 'sp_up'])
  expect(islandUsers(level, map, 'pf_other').size).toBe(0)
})
