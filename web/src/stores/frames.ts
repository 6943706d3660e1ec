import {
  FIELD,
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
  /** The direction and speed it wants, what holds it back, and the key of whoever does. */
  wantTurn: number
  want: number
  limit: number
  by: number
  /** The route it is on; null for none. */
  routeId: string | null
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
  /** Routes by the numbers frames name them by. */
  routes: readonly string[] = []
  /** And the posts events name, and the profiles. */
  posts: readonly string[] = []
  profiles: readonly string[] = []

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

  /** Seconds recorded. */
  get seconds(): number {
    return Math.max(0, this.count - 1) / FRAMES_PER_SECOND
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
    let turned = q[b.at + FIELD.heading] - p[a.at + FIELD.heading]
    if (turned > Math.PI * 1000) turned -= 2 * Math.PI * 1000
    if (turned < -Math.PI * 1000) turned += 2 * Math.PI * 1000
    return {
      x: mix(FIELD.x),
      y: mix(FIELD.y),
      z: mix(FIELD.z),
      heading: (p[a.at + FIELD.heading] + turned * share) / 1000,
      speed: mix(FIELD.speed),
      offLine: mix(FIELD.off),
      state: STATES[p[a.at + FIELD.state]],
      fromStop: p[a.at + FIELD.from],
      toStop: p[a.at + FIELD.to],
      wantTurn: p[a.at + FIELD.wantTurn] / 1000,
      want: p[a.at + FIELD.want] / 1000,
      limit: p[a.at + FIELD.limit],
      by: p[a.at + FIELD.by],
      routeId: this.routes[p[a.at + FIELD.route]] ?? null,
    }
  }

  /** A frame by its number, as it was recorded. */
  readonly frame = (k: number): Int32Array => {
    const opened = this.open(k)
    if (!opened) throw new RangeError(`frame ${k} of ${this.count}`)
    return opened.frames[k - opened.chunk.first]
  }

  /** All of it, packed. */
  get packed(): readonly Chunk[] {
    return this.chunks
  }

  /** Where an agent was while it was steered, frame by frame from one time to another, seconds. */
  steeredTrack(key: number, fromS: number, toS: number): ({ t: number } & AgentMoment)[] {
    const track: ({ t: number } & AgentMoment)[] = []
    for (let k = Math.ceil(fromS * FRAMES_PER_SECOND); k <= Math.floor(toS * FRAMES_PER_SECOND + 1e-6); k++) {
      const now = this.moment(key, k / FRAMES_PER_SECOND)
      if (now?.state === 'steered') track.push({ t: k / FRAMES_PER_SECOND, ...now })
    }
    return track
  }

  /** The same recording, which later frames taken in here do not change. */
  kept(): Frames {
    const copy = new Frames()
    copy.chunks = this.chunks
    copy.count = this.count
    copy.routes = this.routes
    copy.posts = this.posts
    copy.profiles = this.profiles
    return copy
  }
}
