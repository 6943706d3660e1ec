import type { BodyModel } from './body'
import { walk, walker } from './walker'

/** Share of its speed it keeps afloat. */
const AFLOAT = 0.7

/** Both on land and in water: on foot, and slower where it floats; it changes at a ford. */
export const amphibian: BodyModel = {
  ...walker,
  medium: 'amphibious',
  move(engine, n) {
    const { world } = engine
    const { source, tiles } = engine.profileOf(n).planner.map
    const z = world.spotTile[n] < 0 ? world.z[n] : tiles[world.spotTile[n]].z[world.spotFloor[n]]
    const afloat = z <= source.waterM - source.draughtM + 1e-6
    walk(engine, n, afloat ? AFLOAT : 1)
  },
}
