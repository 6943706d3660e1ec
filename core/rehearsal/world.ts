import type { Point3 } from '@tidytrail/core/geometry'
import type { Course } from './course'

/** What an agent is doing. */
export const STATES = ['idle', 'walking', 'pausing', 'done', 'blocked', 'crossing', 'steered'] as const
export type AgentState = (typeof STATES)[number]
export const STATE = Object.fromEntries(STATES.map((s, k) => [s, k])) as Record<AgentState, number>

/** Classes of the cross-track tally: each is a tenth wider than the one before. */
export const CLASSES = 64

/**
 * All that changes of an agent, a column each; none is anything but numbers. Metres, seconds, radians. A slot without a
 * key is nobody's. Written out as fields, so that reading one costs nothing.
 */
class Columns {
  /** Never given twice; 0 for a free slot. */
  key = new Int32Array(0)
  /** Numbers of the spawner and profile in the scenario's registers, and which one of its spawner's it is. */
  spawner = new Int32Array(0)
  number = new Int32Array(0)
  profile = new Int32Array(0)
  state = new Uint8Array(0)
  x = new Float64Array(0)
  y = new Float64Array(0)
  z = new Float64Array(0)
  headX = new Float64Array(0)
  headY = new Float64Array(0)
  vx = new Float64Array(0)
  vy = new Float64Array(0)
  vz = new Float64Array(0)
  speed = new Float64Array(0)
  /** Turning rate now, of bodies that have one to answer with. */
  yaw = new Float64Array(0)
  radius = new Float64Array(0)
  height = new Float64Array(0)
  spotTile = new Int32Array(0)
  spotColumn = new Int32Array(0)
  spotFloor = new Int32Array(0)
  spotMore = new Int32Array(0)
  /** The brief: step, and what the step remembers. */
  step = new Int32Array(0)
  /** The number of the route it is on: that of its step, or a lane it has turned into; −1 for none. */
  route = new Int32Array(0)
  fromStop = new Int32Array(0)
  toStop = new Int32Array(0)
  direction = new Int8Array(0)
  lap = new Int32Array(0)
  until = new Float64Array(0)
  pauseSince = new Float64Array(0)
  pausedS = new Float64Array(0)
  /** Next point and mark of the course, and how far along it one is. */
  point = new Int32Array(0)
  mark = new Int32Array(0)
  /** The stop of the course the brief is at; beyond it as far as `mark` they have been made and are to be told. */
  leg = new Int32Array(0)
  along = new Float64Array(0)
  /** How far along its course it was when it set out, metres. */
  beganS = new Float64Array(0)
  /** The piece of the course one is on, so that it need not be looked up: its point, ends, arc lengths, speeds, and what is there. */
  loaded = new Int32Array(0)
  startX = new Float64Array(0)
  startY = new Float64Array(0)
  startS = new Float64Array(0)
  cornerX = new Float64Array(0)
  cornerY = new Float64Array(0)
  cornerS = new Float64Array(0)
  cornerMps = new Float64Array(0)
  gaitMps = new Float64Array(0)
  corner = new Uint8Array(0)
  offLine = new Float64Array(0)
  /** The stop made for on the course: its place, how far along it is, and the allowed speed at it; how many passages there are. */
  goalX = new Float64Array(0)
  goalY = new Float64Array(0)
  goalS = new Float64Array(0)
  goalMps = new Float64Array(0)
  passages = new Uint16Array(0)
  arrivalM = new Float64Array(0)
  legSince = new Float64Array(0)
  crossSince = new Float64Array(0)
  fromX = new Float64Array(0)
  fromY = new Float64Array(0)
  fromZ = new Float64Array(0)
  /** What is wanted at this step: a velocity for walkers, a speed and a curvature for the others. */
  wantX = new Float64Array(0)
  wantY = new Float64Array(0)
  wantSpeed = new Float64Array(0)
  wantCurve = new Float64Array(0)
  wantZ = new Float64Array(0)
  limit = new Uint8Array(0)
  limitBy = new Int32Array(0)
  /** Progress: the least that was left to the stop, since when, and what has been tried. */
  best = new Float64Array(0)
  bestSince = new Float64Array(0)
  tries = new Int32Array(0)
  /** Who last held it up when it was stuck. */
  heldBy = new Int32Array(0)
  asideUntil = new Float64Array(0)
  asideX = new Float64Array(0)
  asideY = new Float64Array(0)
  turned = new Float64Array(0)
  drawsPause = new Uint32Array(0)
  drawsOrder = new Uint32Array(0)
  drawsAside = new Uint32Array(0)
  drawsFork = new Uint32Array(0)
  drawsWander = new Uint32Array(0)
  drawsChoice = new Uint32Array(0)
  /** Which of those its spawner sends by turns it is, and which of several its step is now. */
  variant = new Uint8Array(0)
  choice = new Int32Array(0)
  /** How many of several have failed at this step. */
  tried = new Int32Array(0)
  /** A step that failed is to be tried again. */
  again = new Uint8Array(0)
  /** Within which standing sentence it is, from 1 on; 0 for none. What was interrupted is kept beside it. */
  within = new Int32Array(0)
  keptStep = new Int32Array(0)
  keptChoice = new Int32Array(0)
  keptFrom = new Int32Array(0)
  keptTo = new Int32Array(0)
  keptDirection = new Int8Array(0)
  keptLap = new Int32Array(0)
  keptRoute = new Int32Array(0)
  keptSince = new Float64Array(0)
  keptAt = new Float64Array(0)
  /** Had it done all it was told when it was interrupted? */
  keptDone = new Uint8Array(0)
  /** A bit for each standing sentence that is not to begin once more; until when none begins. */
  over = new Uint32Array(0)
  calmUntil = new Float64Array(0)
  /** Whom it has in mind by their key, and where and when it perceived them last. */
  target = new Int32Array(0)
  seenX = new Float64Array(0)
  seenY = new Float64Array(0)
  seenZ = new Float64Array(0)
  seenAt = new Float64Array(0)
  /** How far its step has come, as that counts it, and since when. */
  phase = new Int32Array(0)
  phaseSince = new Float64Array(0)
  /** The post it holds: its number in the register and one; 0 for none. */
  post = new Int32Array(0)
  /** The piece of the lanes it is bound for, its number and one; 0 for none. */
  bound = new Int32Array(0)
  /** Is it carried along its lane, and how far beside its middle it still is, metres, to the left when positive. */
  rail = new Uint8Array(0)
  asideM = new Float64Array(0)
  /** The piece of the lanes it is on, −1 for none, and how far along; which leg of its course that is. */
  piece = new Int32Array(0)
  pieceM = new Float64Array(0)
  onLeg = new Int32Array(0)
  /** Where that leg begins and ends, along the course and along the piece, metres: so it need not be looked up at each step. */
  legFromS = new Float64Array(0)
  legToS = new Float64Array(0)
  legFromM = new Float64Array(0)
  legToM = new Float64Array(0)
  /** The lane it is still leaving while it changes into the one it is on, by the number of its piece and one, 0 for none; how far along that it is. */
  leaves = new Int32Array(0)
  leavesM = new Float64Array(0)
  /** When it last changed lanes, seconds; may it at all, as those may who are told nothing but to drive? */
  changedAt = new Float64Array(0)
  mayChange = new Uint8Array(0)
  /** The way through a junction it is about to take or takes, or on foot the crossing, having looked: its number and one. */
  goes = new Int32Array(0)
  /** The way it is held before, its number and one, by what, and since when it has stood there, seconds. */
  heldAt = new Int32Array(0)
  heldWhy = new Uint8Array(0)
  stoodSince = new Float64Array(0)
  /**
   * The halt of its lane it makes, its number among them and one; the lane's piece and one; how far it has come with it;
   * its place, metres along; until when it stands, seconds; and the last it thought about, so that it thinks once.
   */
  halt = new Int32Array(0)
  haltOn = new Int32Array(0)
  haltPhase = new Uint8Array(0)
  haltM = new Float64Array(0)
  haltUntil = new Float64Array(0)
  haltSeen = new Int32Array(0)
  drawsHalt = new Uint32Array(0)
  /** How far beside its lane it makes for, metres, to the left when positive; is it off the lane? */
  asideTo = new Float64Array(0)
  parked = new Uint8Array(0)
  /** The side of a narrow it may go through, and the one it waits for though there is room beyond, each twice its number and the side and one; since when, seconds. */
  narrow = new Int32Array(0)
  narrowWaits = new Int32Array(0)
  narrowSince = new Float64Array(0)
  /** Does it stand behind somebody who stands? */
  queued = new Uint8Array(0)
  /** What it has boarded: the number of the spawner that sent it and one, and which one of its it is; 0 for nothing. */
  rides = new Int32Array(0)
  ridesNumber = new Int32Array(0)
  /** Faces a direction while it stands. */
  faces = new Uint8Array(0)
  faceX = new Float64Array(0)
  faceY = new Float64Array(0)
  /** Since when it has been at this step of its brief, and at this round of the brief; how often it has begun again. */
  stepSince = new Float64Array(0)
  roundSince = new Float64Array(0)
  begunAgain = new Int32Array(0)
  /** When its step is to be looked at whatever it is doing, seconds; 0 for not at all. */
  due = new Float64Array(0)
  appeared = new Float64Array(0)
  /** Figures so far. */
  made = new Int32Array(0)
  missed = new Int32Array(0)
  tookS = new Float64Array(0)
  expectedS = new Float64Array(0)
  squares = new Float64Array(0)
  samples = new Float64Array(0)
  greatest = new Float64Array(0)
  stuckS = new Float64Array(0)
  longestStuckS = new Float64Array(0)
  offReachS = new Float64Array(0)
  overlapS = new Float64Array(0)
  orbits = new Int32Array(0)
  strayedSince = new Float64Array(0)
  strayedM = new Float64Array(0)
  strayedBy = new Int32Array(0)
  /** What last held it back, and when. */
  lastBy = new Int32Array(0)
  lastAt = new Float64Array(0)
  failed = new Uint8Array(0)
  failedAt = new Int32Array(0)
  /** What a stand-in is told by keys: a direction, and a speed below 0 for nobody steering. */
  steerX = new Float64Array(0)
  steerY = new Float64Array(0)
  steerMps = new Float64Array(0)
  noise = new Float64Array(0)
}

/** All that changes of a spawner, a column each. Seconds. */
class SpawnColumns {
  /** How many it has sent, how many of them are there, and when it may send the next. */
  sent = new Int32Array(0)
  there = new Int32Array(0)
  nextAt = new Float64Array(0)
  /** Since when its time runs; −1 while it waits for what begins it. Was somebody in the zone it waits about? */
  begunAt = new Float64Array(0)
  entered = new Uint8Array(0)
  /** Of a stream: how many have come and wait for room. */
  owed = new Int32Array(0)
  /** Which place comes next, and how often chance was drawn for places and for times. */
  turn = new Int32Array(0)
  drawsPlace = new Uint32Array(0)
  drawsWhen = new Uint32Array(0)
  /** When somebody it sent left last; −1 for never. */
  leftAt = new Float64Array(0)
}
const SPAWN_NAMES = Object.keys(new SpawnColumns()) as (keyof SpawnColumns)[]

const NAMES = Object.keys(new Columns()) as (keyof Columns)[]

/** A way on at a fork: the number of a lane, and the stop of it that is made for. */
export interface Turn {
  readonly route: number
  readonly stop: number
  readonly share: number
  /** The line that leads there, where the way is one from a lane into another. */
  readonly line?: readonly Point3[]
  /** The number of the way between lanes that is. */
  readonly piece?: number
}

/** A copy of a world at a step. */
export interface Snapshot {
  readonly step: number
  readonly count: number
  readonly nextKey: number
  readonly columns: Columns
  readonly tally: Uint32Array
  readonly courses: readonly (Course | null)[]
  readonly visited: readonly (readonly number[])[]
  readonly turns: readonly (readonly Turn[])[]
  readonly spawners: SpawnColumns
  readonly signals: readonly number[]
  readonly senses: readonly (readonly [number, number])[]
}

/** Everything a run changes: columns by slot, and columns by spawner. Reads are plain; slots come and go by `take` and `free`. */
export class World extends Columns {
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
  /** What has been drawn for the forks ahead, the next one first. */
  turns: (readonly Turn[])[] = []
  /** What changes of each spawner, by its number. */
  readonly by = new SpawnColumns()
  /** When each signal was given last, seconds. */
  signals: readonly number[] = []
  /** Who perceives whom now: key × 2 (+ 1 for hearing), and the other's key. */
  senses: readonly (readonly [number, number])[] = []

  constructor() {
    super()
    this.grow(64)
  }

  private grow(room: number): void {
    const self = this as unknown as Record<string, Float64Array>
    for (const name of NAMES) {
      const now = new (self[name].constructor as Float64ArrayConstructor)(room)
      now.set(self[name])
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
    this.turns[n] = NO_TURNS
    this.route[n] = -1
    this.spotTile[n] = this.spotMore[n] = -1
    this.fromStop[n] = this.toStop[n] = this.failedAt[n] = -1
    this.step[n] = -1
    this.direction[n] = 1
    this.strayedSince[n] = this.steerMps[n] = this.loaded[n] = this.piece[n] = -1
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
  roomForSpawners(n: number): void {
    const before = this.by.sent.length
    if (n <= before) return
    const by = this.by as unknown as Record<string, Float64Array>
    for (const name of SPAWN_NAMES) {
      const now = new (by[name].constructor as Float64ArrayConstructor)(n)
      now.set(by[name])
      by[name] = now
    }
    this.by.begunAt.fill(-1, before)
    this.by.leftAt.fill(-1, before)
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
      columns: columns as unknown as Columns,
      tally: this.tally.slice(0, count * CLASSES),
      courses: this.courses.slice(0, count),
      visited: this.visited.slice(0, count),
      turns: this.turns.slice(0, count),
      spawners: copied(this.by),
      signals: this.signals,
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
    this.turns = from.turns.slice()
    Object.assign(this.by, copied(from.spawners))
    this.signals = from.signals
    this.senses = from.senses
  }
}

const copied = (columns: SpawnColumns): SpawnColumns =>
  Object.fromEntries(SPAWN_NAMES.map((name) => [name, columns[name].slice()])) as unknown as SpawnColumns

export const NOTHING: readonly number[] = []
export const NO_TURNS: readonly Turn[] = []

/** About how many bytes a snapshot takes. */
export const snapshotBytes = (s: Snapshot): number =>
  NAMES.reduce((sum, name) => sum + s.columns[name].byteLength, s.tally.byteLength + s.count * 16)

/** Does a body stand in the way of one of some size at a place? Metres. */
export function standsAt(
  { x, y, z, radius, height }: World,
  m: number,
  px: number,
  py: number,
  pz: number,
  radiusM: number,
  heightM: number,
): boolean {
  const apartM = radiusM + radius[m]
  const dx = x[m] - px
  const dy = y[m] - py
  return dx * dx + dy * dy < apartM * apartM && z[m] - pz < heightM && pz - z[m] < height[m]
}
