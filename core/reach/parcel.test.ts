import { sceneLevel, strewnObstacles, prisms, digestOf } from '@tidytrail/core/testing'
import { expect, it } from 'vitest'
import { packTile, ReachMap, reachSource, TileBuilder, unpackTile, type Tile } from './index'

/** Obstacles in one corner, and even ground. */
const level = sceneLevel(112, 112, prisms(strewnObstacles(48, 10, 4, 1.2)))
const source = reachSource(level, 'pf_warden')
const map = new ReachMap(source)
map.carryOut(map.planFor(source)!)
const sent = (tile: Tile): Tile => {
  const { tile: packed, buffers } = packTile(tile)
  return unpackTile({ tile: structuredClone(packed, { transfer: [...buffers] }) })
}

it('brings every tile of a map over just as it was built', () => {
  const builder = new TileBuilder(source)
  const tiles = map.tiles.map((_, k) => builder.build(...map.firstColumn(k)))
  // Also those with nothing in them but ground, whose arrays are one and the same.
  expect(tiles.some((tile) => builder.isShared(tile))).toBe(true)
  expect(tiles.some((tile) => tile.held.rim.size > 0)).toBe(true)
  tiles.forEach((tile, k) => {
    if (!builder.isShared(tile)) expect(digestOf(sent(tile))).toBe(digestOf(map.tiles[k]))
  })
})

it('leaves what tiles share where it is, so that the next can be built', () => {
  const far = map.firstColumn(3 + 3 * map.tilesX)
  const first = new TileBuilder(source).build(...far)
  expect(sent(first).held).toBe(first.held)
  expect(new TileBuilder(source).build(...far).held.from).toEqual(new Uint32Array(1))
})
