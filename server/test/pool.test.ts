import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { JobPool } from '../src/jobs/pool'
import type { JobQueue } from '../src/jobs/queue'

/** A queue with nothing in it, which counts how often it is asked. */
function emptyQueue(answer: () => Promise<undefined> = () => Promise.resolve(undefined)) {
  const asked: number[] = []
  const queue = { silentS: 10, claim: () => (asked.push(Date.now()), answer()) } as unknown as JobQueue
  return { asked, queue }
}

describe('a pool with nothing to do', () => {
  let pool: JobPool
  beforeEach(() => void vi.useFakeTimers({ now: 0 }))
  afterEach(async () => {
    await pool.stop()
    vi.useRealTimers()
  })

  it('looks less and less often, at once when it is stirred, and soon again after that', async () => {
    const { asked, queue } = emptyQueue()
    pool = new JobPool(queue, { databaseUrl: '', threads: 1, name: 'idle' })
    await vi.advanceTimersByTimeAsync(13_000)
    expect(asked).toEqual([0, 400, 1200, 2800, 6000, 9200, 12_400])
    pool.stir()
    await vi.advanceTimersByTimeAsync(500)
    expect(asked.slice(7)).toEqual([13_000, 13_400])
  })

  it('misses nothing that comes while it asks', async () => {
    let answer: (none: undefined) => void = () => {}
    const { asked, queue } = emptyQueue(() => new Promise((resolve) => (answer = resolve)))
    pool = new JobPool(queue, { databaseUrl: '', threads: 1, name: 'busy' })
    await vi.advanceTimersByTimeAsync(10)
    pool.stir()
    answer(undefined)
    await vi.advanceTimersByTimeAsync(0)
    expect(asked).toEqual([0, 10])
    answer(undefined)
    await vi.advanceTimersByTimeAsync(0)
  })

  it('wakes all of its threads, and says when the queue is out of reach', async () => {
    const said: string[] = []
    const { asked, queue } = emptyQueue(() => Promise.reject(new Error('no database')))
    pool = new JobPool(queue, { databaseUrl: '', threads: 3, name: 'all', say: (line) => said.push(line) })
    await vi.advanceTimersByTimeAsync(10)
    expect(asked).toEqual([0, 0, 0])
    expect(said[0]).toContain('no database')
    pool.stir()
    await vi.advanceTimersByTimeAsync(0)
    expect(asked).toHaveLength(6)
  })
})
