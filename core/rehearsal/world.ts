import type { Course } from './course'

/** What an agent is doing. */
export const STATES = ['idle', 'walking', 'pausing', 'done', 'blocked', 'crossing', 'steered'] as const
export type AgentState = (typeof STATES)[number]
export const STATE = Object.fromEntries(STATES.map((s, k) => [s, k])) as Record<AgentState, number>

/** Classes of the cross-track tally: each is a tenth wider than the one before. */
export const CLASSES = 64

/**
 * All that changes of an agent, a column each; none is anything but numbers. Metres, seconds, radians. A slot without a
 * key is nobody's.
 */
const COLUMNS = {
  /** Never given twice; 0 for a free slot. */
  key: Int32Array,
  /** Numbers of the spawner and profile in the scenario's registers, and which one of its spawner's it is. */
  spawner: Int32Array,
  number: Int32Array,
  profile: Int32Array,
  state: Uint8Array,
  x: Float64Array,
  y: Float64Array,
  z: Float64Array,
  headX: Float64Array,
  headY: Float64Array,
  vx: Float64Array,
  vy: Float64Array,
  vz: Float64Array,
  speed: Float64Array,
  /** Turning rate now, of bodies that have one to answer with. */
  yaw: Float64Array,
  radius: Float64Array,
  height: Float64Array,
  spotTile: Int32Array,
  spotColumn: Int32Array,
  spotFloor: Int32Array,
  spotMore: Int32Array,
  /** The brief: step, and what the step remembers. */
  step: Int32Array,
  fromStop: Int32Array,
  toStop: Int32Array,
  direction: Int8Array,
  lap: Int32Array,
  until: Float64Array,
  pausedS: Float64Array,
  /** Next point and mark of the course, and how far along it one is. */
  point: Int32Array,
  mark: Int32Array,
  along: Float64Array,
  offLine: Float64Array,
  arrivalM: Float64Array,
  legSince: Float64Array,
  crossSince: Float64Array,
  fromX: Float64Array,
  fromY: Float64Array,
  fromZ: Float64Array,
  /** What is wanted at this step: a velocity for walkers, a speed and a curvature for the others. */
  wantX: Float64Array,
  wantY: Float64Array,
  wantSpeed: Float64Array,
  wantCurve: Float64Array,
  wantZ: Float64Array,
  limit: Uint8Array,
  limitBy: Int32Array,
  /** Progress: the farthest along, since when, and what has been tried. */
  best: Float64Array,
  bestSince: Float64Array,
  tries: Int32Array,
  asideUntil: Float64Array,
  asideX: Float64Array,
  asideY: Float64Array,
  turned: Float64Array,
  drawsPause: Uint32Array,
  drawsOrder: Uint32Array,
  drawsFork: Uint32Array,
  appeared: Float64Array,
  /** Figures so far. */
  made: Int32Array,
  missed: Int32Array,
  tookS: Float64Array,
  expectedS: Float64Array,
  squares: Float64Array,
  samples: Float64Array,
  greatest: Float64Array,
  stuckS: Float64Array,
  longestStuckS: Float64Array,
  offReachS: Float64Array,
  overlapS: Float64Array,
  orbits: Int32Array,
  strayedSince: Float64Array,
  strayedM: Float64Array,
  strayedBy: Int32Array,
  failed: Uint8Array,
  failedAt: Int32Array,
  /** What a stand-in is told by keys: a direction, and a speed below 0 for nobody steering. */
  steerX: Float64Array,
  steerY: Float64Array,
  steerMps: Float64Array,
  noise: Float64Array,
} as const

type Columns = { [K in keyof typeof COLUMNS]: InstanceType<(typeof COLUMNS)[K]> }
const NAMES = Object.keys(COLUMNS) as (keyof typeof COLUMNS)[]

/** A copy of a world at a step. */
export interface Snapshot {
  readonly step: number
  readonly count: number
  readonly nextKey: number
  readonly columns: Columns
  readonly tally: Uint32Array
  readonly courses: readonly (Course | null)[]
  readonly visited: readonly (readonly number[])[]
  readonly sent: Int32Array
  readonly nextAt: Float64Array
  readonly senses: readonly (readonly [number, number])[]
}

// eslint-disable-next-line @typescript-eslint/no-unsafe-declaration-merging -- the columns are made in a loop over COLUMNS
export interface World extends Columns {}

/** Everything a run changes: columns by slot, and columns by spawner. Reads are plain; slots come and go by `take` and `free`. */
export class World {
  /** How many slots have been used; those beyond are free. */
  count = 0
  private room = 0
  nextKey = 1
  /** Steps done so far. */
  steps = 0
  tally = new Uint32Array(0)
  /** What each travels along, and the stops it has visited in this round where it may visit them in any order. */
  courses: (Course | null)[] = []
  visited: (readonly number[])[] = []
  /** By spawner: how many it has sent, and when it may send the next, seconds. */
  sent = new Int32Array(0)
  nextAt = new Float64Array(0)
  /** Who perceives whom now: key × 2 (+ 1 for hearing), and the other's key. */
  senses: readonly (readonly [number, number])[] = []

  constructor() {
    this.grow(64)
  }

  private grow(room: number): void {
    const self = this as unknown as Record<string, unknown>
    for (const name of NAMES) {
      const now = new COLUMNS[name](room)
      if (this.room > 0) now.set(self[name] as never)
      self[name] = now
    }
    const tally = new Uint32Array(room * CLASSES)
    tally.set(this.tally)
    this.tally = tally
    this.room = room
  }

  /** The lowest free slot, emptied, with a key of its own. */
  take(): number {
    let n = 0
    while (n < this.count && this.key[n] !== 0) n++
    if (n === this.count) {
      if (this.count === this.room) this.grow(this.room * 2)
      this.count++
    }
    const self = this as unknown as Record<string, Float64Array>
    for (const name of NAMES) self[name][n] = 0
    this.tally.fill(0, n * CLASSES, (n + 1) * CLASSES)
    this.key[n] = this.nextKey++
    this.courses[n] = null
    this.visited[n] = NOTHING
    this.spotTile[n] = this.spotMore[n] = -1
    this.fromStop[n] = this.toStop[n] = this.failedAt[n] = -1
    this.step[n] = -1
    this.direction[n] = 1
    this.strayedSince[n] = this.steerMps[n] = -1
    return n
  }

  free(n: number): void {
    this.key[n] = 0
    this.courses[n] = null
    while (this.count > 0 && this.key[this.count - 1] === 0) this.count--
  }

  /** The slot of a key; −1 when nobody has it any more. */
  slotOf(key: number): number {
    for (let n = 0; n < this.count; n++) if (this.key[n] === key) return n
    return -1
  }

  /** Makes room for the columns of so many spawners. */
  roomForSpawners(n: number, firstAt: (spawner: number) => number): void {
    if (n <= this.sent.length) return
    const before = this.sent.length
    const sent = new Int32Array(n)
    sent.set(this.sent)
    const nextAt = new Float64Array(n)
    nextAt.set(this.nextAt)
    for (let k = before; k < n; k++) nextAt[k] = firstAt(k)
    this.sent = sent
    this.nextAt = nextAt
  }

  snapshot(): Snapshot {
    const { count } = this
    const self = this as unknown as Columns
    const columns = {} as Record<string, unknown>
    for (const name of NAMES) columns[name] = self[name].slice(0, count)
    return {
      step: this.steps,
      count,
      nextKey: this.nextKey,
      columns: columns as Columns,
      tally: this.tally.slice(0, count * CLASSES),
      courses: this.courses.slice(0, count),
      visited: this.visited.slice(0, count),
      sent: this.sent.slice(),
      nextAt: this.nextAt.slice(),
      senses: this.senses,
    }
  }

  restore(from: Snapshot): void {
    while (this.room < from.count) this.grow(this.room * 2)
    const self = this as unknown as Record<string, Float64Array>
    for (const name of NAMES) self[name].set(from.columns[name] as Float64Array)
    for (let n = from.count; n < this.count; n++) this.key[n] = 0
    this.tally.set(from.tally)
    this.count = from.count
    this.nextKey = from.nextKey
    this.steps = from.step
    this.courses = from.courses.slice()
    this.visited = from.visited.slice()
    this.sent = from.sent.slice()
    this.nextAt = from.nextAt.slice()
    this.senses = from.senses
  }
}

export const NOTHING: readonly number[] = []

/** About how many bytes a snapshot takes. */
export const snapshotBytes = (s: Snapshot): number =>
  NAMES.reduce((sum, name) => sum + s.columns[name].byteLength, s.tally.byteLength + s.count * 16)
