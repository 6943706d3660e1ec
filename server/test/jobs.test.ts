import { spawn, type ChildProcess } from 'node:child_process'
import path from 'node:path'
import { jobSchema, type Job } from '@tidytrail/contract'
import { blankLevel } from '@tidytrail/core/level'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { JobPool } from '../src/jobs/pool'
import { JobQueue } from '../src/jobs/queue'
import { openDatabase, type Database } from '../src/store/database'
import { caller, startHarness, type Harness } from './harness'

let harness: Harness
let db: Database
const call = caller(() => harness)
beforeAll(async () => {
  harness = await startHarness()
  db = await openDatabase(harness.mariadb.url)
})
afterAll(async () => {
  await db?.close()
  await harness?.stop()
})

/** A small level somebody walks about in, that takes a moment to be rehearsed. */
const walked = {
  ...blankLevel('Walked', 30, 20),
  waypoints: { wp_a: { at: [5, 5, 0] }, wp_b: { at: [25, 5, 0] } },
  routes: {
    rt_a: {
      name: 'Beat',
      travel: 'there-and-back',
      stops: { st_a: { waypointId: 'wp_a', pause: { minS: 0, maxS: 4 } }, st_b: { waypointId: 'wp_b' } },
      order: ['st_a', 'st_b'],
    },
  },
  briefs: { br_a: { name: 'B', steps: { bs_a: { kind: 'follow-route', routeId: 'rt_a' } }, order: ['bs_a'] } },
  spawners: { sp_a: { name: 'Gate', at: [5, 5, 0], profileId: 'pf_warden', briefId: 'br_a' } },
  trials: { tl_a: { kind: 'stuck', longestS: 5 } },
}
async function level(): Promise<string> {
  return (await call('POST', '/api/levels', { document: walked })).body.id as string
}
const ask = (id: string, body: object) => call('POST', `/api/levels/${id}/jobs`, { kind: 'seeds', ...body })
async function until(id: string, ready: (job: Job) => boolean): Promise<Job> {
  for (let k = 0; k < 600; k++) {
    const job = jobSchema.parse((await call('GET', `/api/jobs/${id}`)).body)
    if (ready(job)) return job
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  throw new Error('it never came to that')
}

describe('a job', () => {
  it('waits in the queue, is done part by part by whoever is there, and tells of it as it goes', async () => {
    const made = await ask(await level(), { first: 3, count: 4, seconds: 20 })
    expect(made).toMatchObject({ status: 201, body: { state: 'waiting', total: 4, done: 0 } })
    const { id } = made.body as Job
    const events = await fetch(`${harness.url}/api/jobs/${id}/events`)
    expect(events.headers.get('content-type')).toMatch(/^text\/event-stream/)
    const pool = new JobPool(new JobQueue(db), { databaseUrl: harness.mariadb.url, threads: 2, name: 'a' })
    const told = (await events.text()).split('\n\n').filter((e) => e.includes('event: job'))
    const jobs = told.map((e) => jobSchema.parse(JSON.parse(/^data: (.*)$/m.exec(e)![1])))
    expect(jobs.at(-1)).toMatchObject({ state: 'done', done: 4 })
    // Each result is told of once.
    expect(jobs.flatMap((j) => j.results.map((r) => r.seed)).sort()).toEqual([3, 4, 5, 6])
    const job = await until(id, (j) => j.state === 'done')
    expect(job.results.map((r) => r.trials[0].holds)).toEqual([true, true, true, true])
    expect(new Set(job.results.map((r) => r.hash)).size).toBeGreaterThan(1)
    // Who comes back is told only what it has not been told.
    const later = await fetch(`${harness.url}/api/jobs/${id}/events`, { headers: { 'last-event-id': '3' } })
    expect(jobSchema.parse(JSON.parse(/^data: (.*)$/m.exec(await later.text())![1])).results).toHaveLength(1)
    await pool.stop()
  })

  it('gives the same as the same seed rehearsed here', async () => {
    const { rehearsed } = await import('@tidytrail/core/testing')
    const { readLevel } = await import('@tidytrail/core/level')
    const pool = new JobPool(new JobQueue(db), { databaseUrl: harness.mariadb.url, threads: 1, name: 'b' })
    const { id } = (await ask(await level(), { seeds: [77], seconds: 20 })).body as Job
    const [result] = (await until(id, (j) => j.state === 'done')).results
    expect(result.hash).toBe(rehearsed(readLevel(walked), 20, 77).hash)
    await pool.stop()
  })

  it('that is cancelled ends, keeps what is done, and takes no more', async () => {
    const { id } = (await ask(await level(), { count: 1000, seconds: 20 })).body as Job
    const pool = new JobPool(new JobQueue(db), { databaseUrl: harness.mariadb.url, threads: 1, name: 'c' })
    await until(id, (j) => j.done >= 2)
    expect((await call('DELETE', `/api/jobs/${id}`)).status).toBe(204)
    const { done } = await until(id, (j) => j.state === 'cancelled')
    await new Promise((resolve) => setTimeout(resolve, 1500))
    const after = await until(id, () => true)
    expect(after.state).toBe('cancelled')
    expect(after.done).toBe(done)
    expect(after.results).toHaveLength(done)
    await pool.stop()
  })

  it('is refused with one clear error where it cannot be', async () => {
    const id = await level()
    expect(await ask('lv_nothere', { count: 2 })).toMatchObject({ status: 404 })
    expect(await ask(id, { count: 5000 })).toMatchObject({ status: 400, body: { at: 'count' } })
    expect(await ask(id, { kind: 'sums' })).toMatchObject({ status: 400, body: { at: 'kind' } })
    expect(await call('POST', `/api/levels/${id}/jobs`, 'not json')).toMatchObject({ status: 400 })
    expect(await call('GET', '/api/jobs/jb_nothere')).toMatchObject({ status: 404 })
    expect(await call('DELETE', '/api/jobs/jb_nothere')).toMatchObject({ status: 404 })
    expect(await call('GET', '/api/jobs/jb_nothere/events')).toMatchObject({ status: 404 })
    expect(await call('PUT', `/api/jobs/jb_nothere`)).toMatchObject({ status: 405 })
  })

  it('whose part ends its thread again and again fails, and says so', async () => {
    const queue = new JobQueue(db, 0)
    const { id } = (await ask(await level(), { count: 1 })).body as Job
    for (let k = 0; k < 10; k++) {
      expect(await queue.claim(`dying-${k}`)).toMatchObject({ jobId: id })
      await new Promise((resolve) => setTimeout(resolve, 20))
    }
    expect(await queue.claim('another')).toBeUndefined()
    expect(await until(id, (j) => j.state === 'failed')).toMatchObject({ error: expect.stringMatching(/10 times/) })
  })
})

describe('a part', () => {
  it('goes to one of many who ask at once', async () => {
    const { id } = (await ask(await level(), { count: 12 })).body as Job
    const queue = new JobQueue(db)
    const claims = (await Promise.all(Array.from({ length: 30 }, (_, k) => queue.claim(`w${k}`)))).filter((c) => c)
    const numbers = claims.filter((c) => c!.jobId === id).map((c) => c!.number)
    expect(new Set(numbers).size).toBe(numbers.length)
    expect(numbers.length).toBeGreaterThan(0)
    await queue.cancel(id)
  })

  it('that was taken over counts only for whoever has it now', async () => {
    const { id } = (await ask(await level(), { count: 1 })).body as Job
    const queue = new JobQueue(db, 0)
    const first = (await queue.claim('slow'))!
    await new Promise((resolve) => setTimeout(resolve, 20))
    const second = (await queue.claim('quick'))!
    expect([first.jobId, second.jobId, second.number]).toEqual([id, id, first.number])
    expect(await queue.beat(first)).toBe(false)
    expect(await queue.finish(first, { seed: 1 })).toBe(false)
    expect(await queue.finish(second, { seed: 2 })).toBe(true)
    expect(await queue.finish(second, { seed: 3 })).toBe(false)
    expect((await queue.job(id)).results).toEqual([{ seed: 2 }])
  })
})

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

describe('workers that are killed', () => {
  const file = path.resolve(import.meta.dirname, 'job-process.ts')
  const SILENT_S = 1

  it('eight times lose nothing, and nothing is brought to its end twice', async () => {
    const { id } = (await ask(await level(), { count: 36, seconds: 60 })).body as Job
    const done: string[] = []
    const begin = (name: string): Promise<ChildProcess> =>
      new Promise((resolve) => {
        const child = spawn(process.execPath, ['--import', 'tsx', file, harness.mariadb.url, name, String(SILENT_S)], {
          stdio: ['ignore', 'pipe', 'inherit'],
        })
        let text = ''
        child.stdout.on('data', (bytes: Buffer) => {
          text += bytes.toString()
          const lines = text.split('\n')
          text = lines.pop()!
          for (const line of lines) {
            if (line === 'ready') resolve(child)
            else if (line.includes(id)) done.push(line)
          }
        })
      })
    // Three, of whom one is mostly still getting ready: the one that has been there longest is killed.
    const workers = [begin('w0'), begin('w1'), begin('w2')]
    for (let kills = 0; kills < 8; kills++) {
      const killed = await workers.shift()!
      // In the midst of a part: some time after one was brought to its end, or while it still gets ready.
      const before = done.length
      for (let wait = 0; wait < 40 && done.length === before; wait++) await pause(100)
      await pause((kills * 137) % 400)
      killed.kill('SIGKILL')
      workers.push(begin(`again-${kills}`))
    }
    const job = await until(id, (j) => j.state === 'done' || j.state === 'failed')
    expect(job).toMatchObject({ state: 'done', done: 36 })
    for (const child of workers) (await child).kill('SIGKILL')
    expect(job.results.map((r) => r.seed).sort((a, b) => a - b)).toEqual(Array.from({ length: 36 }, (_, k) => k + 1))
    // Who was killed between writing and saying so has said nothing; but nobody says it twice.
    expect(new Set(done).size).toBe(done.length)
    expect(done.length).toBeGreaterThan(12)
  })
})
