import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { floorsAt, terrainOf } from '@tidytrail/core/ground'
import { levelSchema, WARDEN } from '@tidytrail/core/level'
import { box, flood, sceneLevel } from '@tidytrail/core/testing'
import { buildReach, reachSource, type ReachMap } from '.'

const SIZE = 12
const CELL = 0.5

/** Decks, slabs, walls and blocks thrown about, many one above the other. */
const block = fc.record({
  x: fc.integer({ min: 0, max: 10 }),
  y: fc.integer({ min: 0, max: 10 }),
  w: fc.integer({ min: 1, max: 8 }),
  d: fc.integer({ min: 1, max: 8 }),
  base: fc.constantFrom(0, 0, 0.3, 1, 2, 2.2, 4),
  height: fc.constantFrom(0.3, 0.35, 0.39, 0.6, 1, 3),
  walkable: fc.boolean(),
})

/** A level with the blocks, for a body with hardly any width. */
function scene(
  blocks: { x: number; y: number; w: number; d: number; base: number; height: number; walkable: boolean }[],
) {
  const solids = Object.fromEntries(
    blocks.map((b, k) => [
      `sd_b${k}`,
      // Outlines between the columns' middles, so that both ways of looking see the same columns.
      box(b.x, b.y, Math.min(SIZE, b.x + b.w), Math.min(SIZE, b.y + b.d), b.height, {
        baseM: b.base,
        walkable: b.walkable,
      }),
    ]),
  )
  const level = sceneLevel(SIZE, SIZE, solids, {
    settings: { extent: { minX: 0, minY: 0, maxX: SIZE, maxY: SIZE }, cellM: CELL },
  })
  return levelSchema.parse({ ...level, profiles: { pf_thin: { ...WARDEN, radiusM: 0.01 } } })
}

const spotAt = (map: ReachMap, x: number, y: number, z: number) => {
  const spot = map.floorAt(x, y, z, 0.01)
  return spot && Math.abs(map.zOf(spot) - z) < 0.01 && map.isReached(spot) ? spot : undefined
}

describe('islands', () => {
  it('hold exactly what a slow flood from one of their places reaches, over floors one above the other', () => {
    fc.assert(
      fc.property(fc.array(block, { maxLength: 9 }), fc.nat(SIZE * 2 - 1), fc.nat(SIZE * 2 - 1), (blocks, i, j) => {
        const level = scene(blocks)
        const terrain = terrainOf(level)
        const map = buildReach({ ...reachSource(level, 'pf_thin'), cellM: CELL })
        const [x, y] = [(i + 0.5) * CELL, (j + 0.5) * CELL]
        for (const from of floorsAt(terrain, x, y)) {
          const start = spotAt(map, x, y, from.z)
          const reached = flood(terrain, [x, y, from.z], {
            sizeX: SIZE,
            sizeY: SIZE,
            cellM: CELL,
            stepM: WARDEN.stepM,
            heightM: WARDEN.heightM,
          })
          expect(start !== undefined).toBe(reached.size > 0)
          if (!start) continue
          const island = map.islandOf(start)
          let columns = 0
          for (const tile of map.tiles) {
            const k = map.tiles.indexOf(tile)
            for (let f = 0; f < tile.reach.length; f++) {
              if (tile.reach[f] && map.islandOf({ tile: k, column: 0, floor: f }) === island) columns++
            }
          }
          expect(columns).toBe(reached.size)
          const astray = [...reached].filter((key) => {
            const [ci, cj, mm] = key.split(' ').map(Number)
            const spot = spotAt(map, (ci + 0.5) * CELL, (cj + 0.5) * CELL, mm / 1000)
            return !spot || map.islandOf(spot) !== island
          })
          expect(astray).toEqual([])
          expect(map.islands.list[island].areaM2).toBeCloseTo(reached.size * CELL * CELL, 6)
        }
      }),
      { numRuns: 150 },
    )
  })

  it('are found for a body lower than its step too, where floors lie closer than it climbs', () => {
    fc.assert(
      fc.property(fc.array(block, { maxLength: 9 }), (blocks) => {
        const low = scene(blocks.map((b) => ({ ...b, height: b.height / 2, walkable: true })))
        const thin = { ...low, profiles: { pf_thin: { ...low.profiles.pf_thin, heightM: 0.1 } } }
        const map = buildReach({ ...reachSource(thin, 'pf_thin'), cellM: CELL })
        for (const tile of map.tiles) {
          for (let f = 0; f < tile.reach.length; f++) expect(tile.reach[f] === 0).toBe(tile.part[f] === 65535)
        }
      }),
      { numRuns: 60 },
    )
  })

  it('are numbered by size, with a place on each', () => {
    const map = buildReach(reachSource(sceneLevel(40, 20, { sd_wall: box(10, 0, 11, 20) }), 'pf_warden'))
    const [main, side] = map.islands.list
    expect(main.areaM2).toBeGreaterThan(side.areaM2)
    for (const [n, island] of map.islands.list.entries()) {
      const spot = map.floorAt(...(island.at as [number, number, number]))!
      expect(map.islandOf(spot)).toBe(n)
    }
  })

  it('spread over as many tiles as there are', () => {
    const comb = Object.fromEntries(
      Array.from({ length: 9 }, (_, k) => [`sd_w${k}`, box(8 + k * 10, k % 2 ? 0 : 2, 9 + k * 10, k % 2 ? 38 : 40)]),
    )
    expect(buildReach(reachSource(sceneLevel(100, 40, comb), 'pf_warden')).islands.list).toHaveLength(1)
  })
})

describe('the nearest reached place', () => {
  const map = buildReach(
    reachSource(sceneLevel(40, 20, { sd_a: box(10, 5, 20, 15, 3), sd_wall: box(30, 0, 31, 20) }), 'pf_warden'),
  )

  it('is found outside a solid one is inside of, a body’s radius away', () => {
    const { at } = map.nearestReached(11, 10, 0, 15)!
    expect(at[0]).toBeCloseTo(10 - 0.35, 2)
    expect(at[1]).toBeCloseTo(10, 2)
  })

  it('is found on a given island only, and within a distance', () => {
    const far = map.islandOf(map.reachedAt(35, 10, 0)!)
    const { at } = map.nearestReached(25, 10, 0, 15, far)!
    expect(at[0]).toBeCloseTo(31 + 0.35, 2)
    expect(map.nearestReached(25, 10, 0, 3, far)).toBeUndefined()
    expect(map.nearestReached(15, 10, 0, 2)).toBeUndefined()
  })
})
