import {
  FRAME_FIELDS,
  FRAMES_PER_SECOND,
  STATES,
  unpackFrames,
  type AgentState,
  type Chunk,
} from '@tidytrail/core/rehearsal'

/** One agent at one moment, read from the recording. Metres, radians, seconds. */
export interface AgentMoment {
  x: number
  y: number
  z: number
  heading: number
  speed: number
  offLine: number
  state: AgentState
  fromStop: number
  toStop: number
}

interface Opened {
  readonly chunk: Chunk
  readonly frames: readonly Int32Array[]
  /** Of each frame, where each agent's row begins; made when first asked for. */
  readonly rows: (Map<number, number> | undefined)[]
}

/** So many chunks are kept unpacked: the moment looked at, the tails behind it, and what is played next. */
const KEPT = 6

/** A recording on the page: packed, and unpacked where somebody looks. */
export class Frames {
  private chunks: Chunk[] = []
  private opened: Opened[] = []
  count = 0

  /** Takes chunks in; frames from `from` on are replaced by them. */
  take(from: number, chunks: readonly Chunk[]): void {
    const first = chunks[0]?.first ?? from
    this.chunks = [...this.chunks.filter((c) => c.first < first), ...chunks]
    this.opened = this.opened.filter((o) => this.chunks.includes(o.chunk))
    const last = this.chunks.at(-1)
    this.count = last ? last.first + last.count : 0
  }

  clear(): void {
    this.chunks = []
    this.opened = []
    this.count = 0
  }

  /** Bytes it takes packed. */
  get size(): number {
    return this.chunks.reduce((n, c) => n + c.bytes.length, 0)
  }

  private open(k: number): Opened | undefined {
    const near = this.opened.find((o) => k >= o.chunk.first && k < o.chunk.first + o.chunk.count)
    if (near) return near
    // Chunks lie in order: found by halving.
    let low = 0
    let high = this.chunks.length - 1
    while (low < high) {
      const mid = (low + high + 1) >> 1
      if (this.chunks[mid].first <= k) low = mid
      else high = mid - 1
    }
    const chunk = this.chunks[low]
    if (!chunk || k >= chunk.first + chunk.count) return undefined
    const opened: Opened = { chunk, frames: unpackFrames(chunk.bytes, FRAME_FIELDS), rows: [] }
    this.opened = [opened, ...this.opened.slice(0, KEPT - 1)]
    return opened
  }

  /** The frame of a number, and where in it an agent's row begins; −1 when it is not there. */
  private row(k: number, key: number): { frame: Int32Array; at: number } | undefined {
    const opened = this.open(k)
    if (!opened) return undefined
    const n = k - opened.chunk.first
    const frame = opened.frames[n]
    let rows = opened.rows[n]
    if (!rows) {
      rows = new Map()
      for (let r = 0; r < frame.length; r += FRAME_FIELDS) rows.set(frame[r], r)
      opened.rows[n] = rows
    }
    const at = rows.get(key)
    return at === undefined ? undefined : { frame, at }
  }

  /** An agent at a time, between frames where need be; undefined when it is not there then. */
  moment(key: number, t: number): AgentMoment | undefined {
    const f = Math.max(0, Math.min(t * FRAMES_PER_SECOND, this.count - 1))
    const k = Math.floor(f + 1e-9)
    const a = this.row(k, key)
    if (!a) return undefined
    const b = (k + 1 < this.count && this.row(k + 1, key)) || a
    const share = f - k
    const [p, q] = [a.frame, b.frame]
    const mix = (field: number) => (p[a.at + field] + (q[b.at + field] - p[a.at + field]) * share) / 1000
    let turned = q[b.at + 4] - p[a.at + 4]
    if (turned > Math.PI * 1000) turned -= 2 * Math.PI * 1000
    if (turned < -Math.PI * 1000) turned += 2 * Math.PI * 1000
    return {
      x: mix(1),
      y: mix(2),
      z: mix(3),
      heading: (p[a.at + 4] + turned * share) / 1000,
      speed: mix(5),
      offLine: mix(6),
      state: STATES[p[a.at + 7]],
      fromStop: p[a.at + 8],
      toStop: p[a.at + 9],
    }
  }

  /** Everybody there at a frame, by key: x and y in metres and whether they are walking; for heat and the like. */
  eachAt(k: number, each: (key: number, x: number, y: number) => void): void {
    const opened = this.open(k)
    if (!opened) return
    const frame = opened.frames[k - opened.chunk.first]
    for (let r = 0; r < frame.length; r += FRAME_FIELDS) each(frame[r], frame[r + 1] / 1000, frame[r + 2] / 1000)
  }
}
