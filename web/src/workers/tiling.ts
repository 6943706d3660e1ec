import { provideAsset } from '@tidytrail/core/ground'
import { applyPatch, type Level } from '@tidytrail/core/level'
import { packTile, ReachMap, reachSource, TileBuilder } from '@tidytrail/core/reach'
import type { SentTiles, Tiler } from './tiler.protocol'

/** @param send hands tiles over together with the memory they are in */
export function makeTiler(send: (tiles: SentTiles, memory: ArrayBuffer[]) => SentTiles): Tiler {
  let level: Level | undefined
  let newest = 0
  /** By profiles, for the newest edition. */
  const builders = new Map<string, { builder: TileBuilder; map: ReachMap }>()
  function change(to: Level | undefined, edition: number): void {
    level = to
    newest = edition
    builders.clear()
  }
  function builderFor(profileId: string) {
    let known = builders.get(profileId)
    if (!known && level?.profiles[profileId]) {
      const source = reachSource(level, profileId)
      builders.set(profileId, (known = { builder: new TileBuilder(source), map: new ReachMap(source) }))
    }
    return known
  }
  return {
    setLevel: (next, edition) => change(next, edition),
    patch: (ops, edition) => change(level && applyPatch(level, ops), edition),
    give(hash, bytes, edition) {
      provideAsset(hash, bytes)
      change(level, edition)
    },
    build(edition, profileId, tiles) {
      const ready = edition === newest ? builderFor(profileId) : undefined
      const memory: ArrayBuffer[] = []
      const built = tiles.map((k) => {
        const tile = ready?.builder.build(...ready.map.firstColumn(k))
        // What is like many others is quicker made than sent.
        if (!tile || ready!.builder.isShared(tile)) return undefined
        const parcel = packTile(tile)
        memory.push(...parcel.buffers)
        return parcel.tile
      })
      return send(built, memory)
    },
  }
}
