import type { Tile } from '@tidytrail/core/reach'

/** A tile that another thread has answered for: undefined where it leaves it to this one. */
export interface TileAnswer {
  readonly profileId: string
  readonly tile: number
  readonly built: Tile | undefined
}

/** Another thread that builds tiles of the same level; it may answer late, or not at all. */
export interface TileAid {
  /** Asks for tiles of a profile's reach map. */
  ask(profileId: string, tiles: readonly number[]): void
  /** What has been answered since this was last called. */
  take(): readonly TileAnswer[]
}

/** A tile to be built, for one of the maps an update brings up to date. */
export interface TileJob<M> {
  readonly map: M
  readonly profileId: string
  readonly tile: number
}

const OPEN = 0
const ASKED = 1
const DONE = 2

/** So many tiles are asked for ahead of the answers at most, and so many in one go. */
const MOST_ASKED = 8
const BATCH = 4

/** With so few tiles the other begins with those wanted last, and what is wanted first waits for nobody. */
const FEW = 64

/** With fewer than these, asking costs more than is gained: the other would first have to take the change in. */
const LEAST = 8

/**
 * The tiles of an update in the order they are wanted, built by this thread and by another at once. This thread never
 * waits: when all that is left has been asked for, it builds what the other will come to last.
 */
export class TileQueue<M> {
  private readonly jobs: readonly TileJob<M>[]
  private readonly state: Uint8Array
  /** Those the other has left to this thread. */
  private readonly refused = new Set<number>()
  private readonly at = new Map<string, number>()
  /** All before this one are asked for or done. */
  private first = 0
  private asked: number[] = []
  private open: number
  left: number

  constructor(
    jobs: readonly TileJob<M>[],
    private readonly aid?: TileAid,
  ) {
    this.jobs = jobs
    this.state = new Uint8Array(jobs.length)
    this.left = this.open = jobs.length
    if (aid) jobs.forEach(({ profileId, tile }, k) => this.at.set(`${profileId} ${tile}`, k))
  }

  /** The next tile for this thread to build, which is then said to be `done`; undefined when none is left. */
  next(): TileJob<M> | undefined {
    if (this.left === 0) return undefined
    this.askOn()
    const { jobs, state, asked } = this
    while (this.first < jobs.length && state[this.first] !== OPEN) this.first++
    if (this.first < jobs.length) return jobs[this.first]
    while (state[asked[asked.length - 1]] === DONE) asked.pop()
    return jobs[asked[asked.length - 1]]
  }

  /** Notes that this thread has built what it was last given. */
  done(job: TileJob<M>): void {
    this.finish(this.jobs[this.first] === job ? this.first : this.asked[this.asked.length - 1])
  }

  /** Tiles the other has built and this thread has not. */
  *come(): Generator<{ job: TileJob<M>; built: Tile }> {
    for (const { profileId, tile, built } of this.aid?.take() ?? []) {
      const k = this.at.get(`${profileId} ${tile}`)
      if (k === undefined || this.state[k] !== ASKED) continue
      if (built) {
        this.finish(k)
        yield { job: this.jobs[k], built }
      } else {
        this.state[k] = OPEN
        this.open++
        this.refused.add(k)
        this.first = Math.min(this.first, k)
      }
    }
  }

  private finish(k: number): void {
    if (this.state[k] === OPEN) this.open--
    this.state[k] = DONE
    this.left--
  }

  /** Asks the other for half of what is open, but for no more than it soon comes to. */
  private askOn(): void {
    const { aid, jobs, state } = this
    if (!aid || jobs.length < LEAST) return
    const want = Math.min(MOST_ASKED, this.open >> 1)
    this.asked = this.asked.filter((k) => state[k] === ASKED)
    if (this.asked.length * 2 > want) return
    let batch: TileJob<M>[] = []
    const send = () => {
      const tiles = batch.map(({ tile }) => tile)
      if (batch.length > 0) aid.ask(batch[0].profileId, tiles)
      batch = []
    }
    const few = jobs.length <= FEW
    for (let n = this.first; n < jobs.length && this.asked.length < want; n++) {
      const k = few ? jobs.length - 1 - (n - this.first) : n
      if (state[k] !== OPEN || this.refused.has(k)) continue
      if (batch.length === BATCH || (batch.length > 0 && batch[0].profileId !== jobs[k].profileId)) send()
      state[k] = ASKED
      this.open--
      this.asked.push(k)
      batch.push(jobs[k])
    }
    send()
  }
}
