import type { TileAid, TileAnswer } from '@tidytrail/core/survey'
import type { Level, PatchOp } from '@tidytrail/core/level'
import { unpackTile } from '@tidytrail/core/reach'
import type { Remote } from 'comlink'
import type { Tiler } from './tiler.protocol'

/** A surveyor's other thread: told of everything the surveyor is told of, and asked for tiles. */
export class Crew {
  private edition = 0
  private broken = false

  /** @param tiler the other thread; without one the surveyor is on its own */
  constructor(private readonly tiler?: Remote<Tiler>) {}

  setLevel(level: Level): void {
    this.tell((tiler) => tiler.setLevel(level, ++this.edition))
  }

  patch(ops: PatchOp[]): void {
    this.tell((tiler) => tiler.patch(ops, ++this.edition))
  }

  give(hash: string, bytes: Uint8Array): void {
    this.tell((tiler) => tiler.give(hash, bytes, ++this.edition))
  }

  /** Help with the level as it is now; of no use once it is another. */
  aid(): TileAid | undefined {
    const { edition, tiler } = this
    if (!tiler || this.broken) return undefined
    let come: TileAnswer[] = []
    return {
      ask: (profileId, tiles) => {
        if (edition !== this.edition || this.broken) return
        void tiler.build(edition, profileId, tiles).then(
          (sent) =>
            sent.forEach((tile, k) => {
              come.push({ profileId, tile: tiles[k], built: tile && unpackTile({ tile }) })
            }),
          () => this.lose(),
        )
      },
      take() {
        const taken = come
        come = []
        return taken
      },
    }
  }

  /** The other thread is of no use any more. The surveyor builds all tiles, as it does those that do not come in time. */
  lose(): void {
    this.broken = true
  }

  private tell(what: (tiler: Remote<Tiler>) => Promise<void>): void {
    if (this.tiler && !this.broken) what(this.tiler).catch(() => this.lose())
  }
}
