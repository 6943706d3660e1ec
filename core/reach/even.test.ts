import { box, sceneLevel } from '@tidytrail/core/testing'
import { expect, it } from 'vitest'
import { buildReach, PathFinder, reachSource, type ReachMap } from '.'

const mapOf = (solids: Parameters<typeof sceneLevel>[2], waterLevelM: number | null = null) =>
  buildReach(reachSource(sceneLevel(120, 120, solids, { settings: { waterLevelM } as never }), 'pf_warden'))
const areaOf = (map: ReachMap) => map.islands.list.reduce((sum, i) => sum + i.areaM2, 0)
/** Length of all edges drawn, metres. */
const edgesOf = (map: ReachMap) =>
  map.tiles
    .flatMap((t) => t.outline.edges)
    .reduce((sum, xy) => {
      let m = sum
      for (let k = 2; k < xy.length; k += 2) m += Math.hypot(xy[k] - xy[k - 2], xy[k + 1] - xy[k - 1])
      return m
    }, 0)

it('tiles of nothing but even ground share what is known of them, and the map is whole all the same', () => {
  const map = mapOf({})
  const shared = new Set(map.tiles.map((t) => t.links))
  expect(shared.size).toBeLessThan(map.tiles.length)
  expect(map.islands.list).toHaveLength(1)
  // All of the level but a strip as wide as the body's radius at its edge.
  expect(areaOf(map)).toBeCloseTo((120 - 0.7) ** 2, -2)
  expect(edgesOf(map)).toBeCloseTo(4 * (120 - 0.7), 0)
  const path = new PathFinder(map).find([1, 1, 0], [119, 118, 0])
  expect(path.found && path.lengthM).toBeCloseTo(Math.hypot(118, 117), 6)
})

it('a tile is not taken for even ground when something stands just beside it', () => {
  // At every place along a tile's edge, half a body away and more.
  for (let x = 44; x < 56; x += 0.7) {
    const map = mapOf({ sd_a: box(x, 59, x + 0.4, 61) })
    expect(areaOf(map)).toBeCloseTo((120 - 0.7) ** 2 - 1.1 * 2.7, -2)
    for (const dx of [-0.3, 0.2, 0.7]) {
      const spot = map.floorAt(x + dx, 60, 0)!
      expect(map.isFree(spot, x + dx, 60), `${x} ${dx}`).toBe(false)
    }
  }
})

it('even ground under water is no place for walkers', () => {
  expect(mapOf({}, 2).islands.list).toEqual([])
})
