import { assetIdsOf, type Level } from '@tidytrail/core/level'
import { lineOf } from '../http/problem'
import { Thread } from '../threads/thread'
import type { Claimed, JobQueue } from './queue'

/** So often it is looked whether there is something to do, ms; less and less often while there is nothing, up to so many. */
const LOOKS_MS = 400
const SELDOM_MS = 3_200

export interface PoolOptions {
  readonly databaseUrl: string
  readonly threads: number
  /** What parts are claimed as; no two processes have the same. */
  readonly name: string
  readonly say?: (line: string) => void
  /** A part was brought to its end here, and counts. */
  readonly finished?: (part: Claimed) => void
}

/** Threads that do the parts of jobs, one each at a time. */
export class JobPool {
  private readonly loops: Promise<void>[] = []
  private readonly threads: Thread[]
  private stopping = false
  /** Those who rest: each is woken when there is something to do. */
  private readonly resting = new Set<() => void>()
  private stirs = 0

  constructor(
    private readonly queue: JobQueue,
    private readonly options: PoolOptions,
  ) {
    const { databaseUrl, threads } = options
    this.threads = Array.from(
      { length: threads },
      () =>
        new Thread(new URL('./job.worker.ts', import.meta.url), {
          data: { databaseUrl },
          memoryMb: 4_000,
          whenDied: { status: 500, detail: 'the thread that did this ended; it may have needed too much memory' },
        }),
    )
    this.threads.forEach((thread, k) => this.loops.push(this.loop(thread, `${options.name}-${k}`)))
  }

  /** There is something to do: nobody waits for the next look. */
  stir(): void {
    this.stirs++
    for (const wake of this.resting) wake()
  }

  /** @returns was it woken before the time was over? */
  private rest(ms: number): Promise<boolean> {
    return new Promise((resolve) => {
      const over = (woken: boolean) => {
        clearTimeout(timer)
        this.resting.delete(wake)
        resolve(woken)
      }
      const wake = () => over(true)
      const timer = setTimeout(() => over(false), ms)
      timer.unref()
      this.resting.add(wake)
    })
  }

  private async loop(thread: Thread, by: string): Promise<void> {
    let wait = LOOKS_MS
    while (!this.stopping) {
      let part: Claimed | undefined
      const { stirs } = this
      try {
        part = await this.queue.claim(by)
      } catch (error) {
        // The database is away: it is looked again when it may be back.
        this.options.say?.(`jobs: ${lineOf(error)}`)
      }
      if (part) {
        wait = LOOKS_MS
        if (this.stopping) await this.queue.giveBack(part).catch(() => {})
        else await this.work(thread, part)
      } else if (this.stirs === stirs) wait = (await this.rest(wait)) ? LOOKS_MS : Math.min(SELDOM_MS, 2 * wait)
    }
  }

  private async work(thread: Thread, part: Claimed): Promise<void> {
    let lost = false
    const beating = setInterval(() => {
      void this.queue.beat(part).then(
        (mine) => {
          if (!mine) lost = true
        },
        () => {},
      )
    }, this.queue.silentS * 200)
    beating.unref()
    try {
      const given = await this.queue.inputOf(part)
      if (!given) return
      const assetIds = assetIdsOf(JSON.parse(given.document) as Level)
      const result = await thread.call<unknown>('run', [part.kind, given.document, assetIds, given.input])
      if (this.stopping || lost) return
      for (let tries = 0; ; tries++) {
        try {
          if (await this.queue.finish(part, result)) this.options.finished?.(part)
          break
        } catch (error) {
          if (tries === 5) throw error
          await new Promise((resolve) => setTimeout(resolve, 200 * 2 ** tries))
        }
      }
    } catch (error) {
      if (this.stopping) return
      this.options.say?.(`jobs: ${lineOf(error)}`)
      await this.queue.fail(part, (error as Error).message).catch(() => {})
    } finally {
      clearInterval(beating)
      // What was not brought to its end here is somebody else's to do.
      if (this.stopping) await this.queue.giveBack(part).catch(() => {})
    }
  }

  /** Ends the threads; what they were at is given back. */
  async stop(): Promise<void> {
    this.stopping = true
    this.stir()
    await Promise.all(this.threads.map((thread) => thread.end()))
    await Promise.allSettled(this.loops)
  }
}
