import { unpackFrames } from './pack'
import { FRAME_FIELDS, type Chunk } from './recording'

/** So many chunks are kept unpacked: frames are mostly asked for in their order. */
const KEPT = 3

/** The frames of a recording as they were packed, each unpacked when it is asked for. */
export class PackedFrames {
  private opened: { readonly chunk: Chunk; readonly frames: readonly Int32Array[] }[] = []

  /** @param chunks in their order, without a gap */
  constructor(readonly chunks: readonly Chunk[]) {}

  get frameCount(): number {
    const last = this.chunks.at(-1)
    return last ? last.first + last.count : 0
  }

  /** A frame by its number. @throws RangeError when there is none */
  readonly frame = (k: number): Int32Array => {
    const { chunks } = this
    if (!(k >= 0 && k < this.frameCount)) throw new RangeError(`frame ${k} of ${this.frameCount}`)
    let low = 0
    let high = chunks.length - 1
    while (low < high) {
      const mid = (low + high + 1) >> 1
      if (chunks[mid].first <= k) low = mid
      else high = mid - 1
    }
    const chunk = chunks[low]
    let opened = this.opened.find((o) => o.chunk === chunk)
    if (!opened) {
      opened = { chunk, frames: unpackFrames(chunk.bytes, FRAME_FIELDS) }
      this.opened = [opened, ...this.opened.slice(0, KEPT - 1)]
    }
    return opened.frames[k - chunk.first]
  }
}
