import type { Tile } from '@tidytrail/core/reach'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { TileQueue, type TileAid, type TileAnswer, type TileJob } from './tile-queue'

const jobsOf = (counts: readonly number[]): TileJob<string>[] =>
  counts.flatMap((count, m) =>
    Array.from({ length: count }, (_, tile) => ({ map: `map ${m}`, profileId: `pf_${m}`, tile })),
  )
const nameOf = ({ profileId, tile }: { profileId: string; tile: number }) => `${profileId} ${tile}`
const built = {} as Tile

/** Another thread that is asked, and answers when it is told to. */
class Other implements TileAid {
  readonly asked: { profileId: string; tile: number }[] = []
  private answers: TileAnswer[] = []
  ask = (profileId: string, tiles: readonly number[]) =>
    void this.asked.push(...tiles.map((tile) => ({ profileId, tile })))
  answer(count: number, refuse: boolean): void {
    for (const job of this.asked.splice(0, count)) this.answers.push({ ...job, built: refuse ? undefined : built })
  }
  take(): TileAnswer[] {
    return this.answers.splice(0)
  }
}

/** What becomes of all tiles when the other answers so many after each of ours, some of them with a refusal. */
function work(jobs: TileJob<string>[], answers: () => { count: number; refuse: boolean }) {
  const other = new Other()
  const queue = new TileQueue(jobs, other)
  const [mine, theirs]: string[][] = [[], []]
  for (let job = queue.next(); job; job = queue.next()) {
    mine.push(nameOf(job))
    queue.done(job)
    const { count, refuse } = answers()
    other.answer(count, refuse)
    for (const { job: come } of queue.come()) theirs.push(nameOf(come))
  }
  return { mine, theirs, left: queue.left }
}

describe('tiles built by two threads', () => {
  it('are all built once, however late the other answers, and if it refuses or never does', () => {
    const answer = fc.record({ count: fc.nat(6), refuse: fc.boolean() })
    fc.assert(
      fc.property(fc.array(fc.nat(60), { maxLength: 4 }), fc.array(answer, { minLength: 1 }), (counts, answers) => {
        const jobs = jobsOf(counts)
        let k = 0
        const { mine, theirs, left } = work(jobs, () => answers[k++ % answers.length])
        expect([...mine, ...theirs].sort()).toEqual(jobs.map(nameOf).sort())
        expect(left).toBe(0)
      }),
    )
  })

  it('are shared about evenly when both are as quick', () => {
    const { mine, theirs } = work(jobsOf([200]), () => ({ count: 1, refuse: false }))
    expect(theirs.length).toBeGreaterThan(0.8 * mine.length)
    expect(mine.length).toBeGreaterThan(0.8 * theirs.length)
  })

  it('are all built here when the other never answers, those it was asked for last of all', () => {
    const { mine, theirs } = work(jobsOf([20]), () => ({ count: 0, refuse: false }))
    expect(theirs).toEqual([])
    // It was asked for the second half first, in the order wanted last.
    expect(mine.slice(0, 12)).toEqual(jobsOf([12]).map(nameOf))
    expect(new Set(mine).size).toBe(20)
  })

  it('of the map wanted first are waited for by nobody when there are few', () => {
    const jobs = jobsOf([2, 2, 2, 2, 2])
    const other = new Other()
    const queue = new TileQueue(jobs, other)
    queue.next()
    expect(other.asked.map(({ profileId }) => profileId)).not.toContain('pf_0')
    expect(other.asked.length).toBe(5)
  })

  it('are not asked for at all when there are but a handful', () => {
    const other = new Other()
    new TileQueue(jobsOf([4, 3]), other).next()
    expect(other.asked).toEqual([])
  })

  it('are asked for no further ahead than the other soon comes to', () => {
    const other = new Other()
    const queue = new TileQueue(jobsOf([500]), other)
    for (let k = 0; k < 20; k++) queue.done(queue.next()!)
    expect(other.asked.length).toBe(8)
  })

  it('are this thread’s alone without another', () => {
    const queue = new TileQueue(jobsOf([3]))
    const mine: number[] = []
    for (let job = queue.next(); job; job = queue.next()) {
      mine.push(job.tile)
      queue.done(job)
    }
    expect(mine).toEqual([0, 1, 2])
    expect([...queue.come()]).toEqual([])
  })
})
