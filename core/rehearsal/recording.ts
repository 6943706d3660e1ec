import { exact } from '@tidytrail/core/geometry'
import { packFrames, unpackFrames } from './pack'
import { STATE, type World } from './world'

/**
 * Whole numbers kept of each agent in a frame, in this order: places and what it is off its line in mm, directions in
 * mrad, speeds in mm/s; `want` and `wantTurn` are the speed and direction it wanted, `limit` what held it back, and `by`
 * the key of whoever did, `route` the number of the route it is on, `body` that of its profile. `step` is the step of its
 * brief, or of the standing sentence `within` (from 1 on), and `choice` which of several that is; `since` when the step was
 * begun and `until` when a pause or a wait is over (ms; 0 for none, −1 for never). `goalX` and `goalY` are where its way leads,
 * `target` the key of whom it has in mind (0 for nobody), whom it perceived last at `seenX`, `seenY` at `seenAt` (mm, ms).
 * A frame has only those who are there, in the order of their slots.
 */
export const FIELDS = [
  'key',
  'x',
  'y',
  'z',
  'heading',
  'speed',
  'off',
  'state',
  'from',
  'to',
  'wantTurn',
  'want',
  'limit',
  'by',
  'route',
  'body',
  'step',
  'within',
  'choice',
  'since',
  'until',
  'goalX',
  'goalY',
  'target',
  'seenX',
  'seenY',
  'seenAt',
] as const
export const FIELD = Object.fromEntries(FIELDS.map((f, k) => [f, k])) as Record<(typeof FIELDS)[number], number>
export const FRAME_FIELDS = FIELDS.length
/** Frames kept a second. */
export const FRAMES_PER_SECOND = 10
/** Frames recorded up to a time, seconds, that of the time itself among them. */
export const framesTo = (t: number) => Math.floor(t * FRAMES_PER_SECOND + 1e-6) + 1
/** So many frames are packed together. */
export const CHUNK_FRAMES = 20

/** Some frames of a recording, packed. */
export interface Chunk {
  readonly first: number
  readonly count: number
  readonly bytes: Uint8Array
}

/** The speed an agent wanted, metres a second. */
const wantedOf = ({ wantSpeed }: World, n: number) => (Number.isFinite(wantSpeed[n]) ? wantSpeed[n] : 0)

/** The direction it wanted, radians: what steers along an arc is told by where that leads in a second. */
function wantedTurn(world: World, n: number, want: number): number {
  if (world.wantX[n] !== 0 || world.wantY[n] !== 0) return exact.atan2(world.wantY[n], world.wantX[n])
  const turn = Math.max(-1.5, Math.min(1.5, (world.wantCurve[n] * want) / 2))
  return exact.atan2(world.headY[n], world.headX[n]) + turn
}

/** When somebody goes on by itself who pauses or waits, ms: 0 where nothing runs down, −1 where it never does. */
function untilOf({ state, until }: World, n: number): number {
  if (state[n] !== STATE.pausing && state[n] !== STATE.blocked) return 0
  return Number.isFinite(until[n]) ? Math.round(until[n] * 1000) : -1
}

/** What happened, frame by frame, in whole numbers; and a hash of all of it. */
export class Recording {
  readonly chunks: Chunk[] = []
  /** Frames not yet packed. */
  private open: Int32Array[] = []
  /** The chunk last read from. */
  private opened: { chunk: Chunk; frames: Int32Array[] } | undefined
  /** The hash after each frame, two numbers each. */
  private readonly hashes: number[] = []

  get frameCount(): number {
    return this.hashes.length / 2
  }

  /** Bytes kept. */
  get size(): number {
    return this.chunks.reduce((n, c) => n + c.bytes.length, 0) + this.open.reduce((n, f) => n + f.byteLength, 0)
  }

  /** Adds a frame of the world as it is now. */
  take(world: World): void {
    let alive = 0
    for (let n = 0; n < world.count; n++) if (world.key[n] !== 0) alive++
    const frame = new Int32Array(alive * FRAME_FIELDS)
    let k = 0
    for (let n = 0; n < world.count; n++) {
      if (world.key[n] === 0) continue
      frame[k] = world.key[n]
      frame[k + 1] = Math.round(world.x[n] * 1000)
      frame[k + 2] = Math.round(world.y[n] * 1000)
      frame[k + 3] = Math.round(world.z[n] * 1000)
      frame[k + 4] = Math.round(exact.atan2(world.headY[n], world.headX[n]) * 1000)
      frame[k + 5] = Math.round(world.speed[n] * 1000)
      frame[k + 6] = Math.round(world.offLine[n] * 1000)
      frame[k + 7] = world.state[n]
      frame[k + 8] = world.fromStop[n]
      frame[k + 9] = world.toStop[n]
      const want = wantedOf(world, n)
      frame[k + 10] = want > 0 ? Math.round(wantedTurn(world, n, want) * 1000) : frame[k + 4]
      frame[k + 11] = Math.round(want * 1000)
      frame[k + 12] = world.limit[n]
      frame[k + 13] = world.limitBy[n]
      frame[k + 14] = world.route[n]
      frame[k + 15] = world.profile[n]
      frame[k + 16] = world.step[n]
      frame[k + 17] = world.within[n]
      frame[k + 18] = world.choice[n]
      frame[k + 19] = Math.round(world.stepSince[n] * 1000)
      frame[k + 20] = untilOf(world, n)
      const course = world.courses[n]
      frame[k + 21] = course ? Math.round(world.goalX[n] * 1000) : 0
      frame[k + 22] = course ? Math.round(world.goalY[n] * 1000) : 0
      const target = world.target[n]
      frame[k + 23] = target
      frame[k + 24] = target > 0 ? Math.round(world.seenX[n] * 1000) : 0
      frame[k + 25] = target > 0 ? Math.round(world.seenY[n] * 1000) : 0
      frame[k + 26] = target > 0 ? Math.round(world.seenAt[n] * 1000) : 0
      k += FRAME_FIELDS
    }
    let [h1, h2] = this.hashes.length > 0 ? this.hashes.slice(-2) : [0x811c9dc5, 0x2166f0a3]
    for (let i = 0; i < frame.length; i++) {
      h1 = Math.imul(h1 ^ frame[i], 0x01000193)
      h2 = Math.imul(h2 ^ frame[i], 0x85ebca6b)
    }
    h1 = Math.imul(h1 ^ alive, 0x01000193)
    this.hashes.push(h1, h2)
    this.open.push(frame)
    if (this.open.length === CHUNK_FRAMES) this.close()
  }

  private close(): void {
    if (this.open.length === 0) return
    const first = this.frameCount - this.open.length
    this.chunks.push({ first, count: this.open.length, bytes: packFrames(this.open, FRAME_FIELDS) })
    this.open = []
  }

  /** The chunks from a frame on, those not full yet among them. */
  chunksFrom(frame: number): Chunk[] {
    const list = this.chunks.filter((c) => c.first + c.count > frame)
    if (this.open.length > 0) {
      const first = this.frameCount - this.open.length
      list.push({ first, count: this.open.length, bytes: packFrames(this.open, FRAME_FIELDS) })
    }
    return list
  }

  /** Forgets all frames but the first so many. */
  cutTo(frames: number): void {
    if (frames >= this.frameCount) return
    const open = this.frameCount - this.open.length
    if (frames >= open) this.open.length = frames - open
    else {
      while (this.chunks.length > 0 && this.chunks[this.chunks.length - 1].first >= frames) this.chunks.pop()
      this.open = []
      const last = this.chunks.at(-1)
      if (last && last.first + last.count > frames) {
        this.chunks.pop()
        this.open = unpackFrames(last.bytes, FRAME_FIELDS).slice(0, frames - last.first)
      }
    }
    this.hashes.length = frames * 2
  }

  /** A frame by its number. @throws RangeError when there is none */
  frame(k: number): Int32Array {
    const open = this.frameCount - this.open.length
    if (k < 0 || k >= this.frameCount) throw new RangeError(`frame ${k} of ${this.frameCount}`)
    if (k >= open) return this.open[k - open]
    const chunk = this.chunks[Math.floor(k / CHUNK_FRAMES)]
    if (this.opened?.chunk !== chunk) this.opened = { chunk, frames: unpackFrames(chunk.bytes, FRAME_FIELDS) }
    return this.opened.frames[k - chunk.first]
  }

  /** Sixteen hexadecimal digits that differ when anything recorded differs. */
  get hash(): string {
    const [h1, h2] = this.hashes.slice(-2)
    const hex = (h: number) => (h >>> 0).toString(16).padStart(8, '0')
    return hex(h1) + hex(h2)
  }
}
