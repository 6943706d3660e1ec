import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Job } from '@tidytrail/contract'
import { eventsOf, followJob } from './jobs'

const result = (seed: number): Job['results'][number] => ({ seed, hash: 'h', passes: true, figures: [], trials: [] })
const job = (state: Job['state'], seeds: number[], done: number): Job => ({
  id: 'jb_abcdef',
  kind: 'seeds',
  state,
  total: 3,
  done,
  error: null,
  results: seeds.map(result),
})
const event = (id: number, of: Job) => `id: ${id}\nevent: job\ndata: ${JSON.stringify(of)}\n\n`
const streamOf = (...parts: string[]) =>
  new ReadableStream<Uint8Array>({
    start(to) {
      for (const part of parts) to.enqueue(new TextEncoder().encode(part))
      to.close()
    },
  })
afterEach(() => vi.unstubAllGlobals())

describe('the progress of a job', () => {
  it('is read however its events are cut up on the way', async () => {
    const text = event(1, job('running', [1], 1)) + ': still here\n\n' + event(3, job('done', [2, 3], 3))
    const seen = async (parts: string[]) => {
      const seeds: number[] = []
      for await (const { job } of eventsOf(streamOf(...parts))) seeds.push(...job.results.map((r) => r.seed))
      return seeds
    }
    expect(await seen([text])).toEqual([1, 2, 3])
    expect(await seen([...text])).toEqual([1, 2, 3])
  })

  it('is taken up where it was when the connection breaks, and each result is told of once', async () => {
    const asked: (string | undefined)[] = []
    const answers = [
      () => new Response(streamOf(event(1, job('running', [1], 1)))),
      () => Promise.reject(new TypeError('Failed to fetch')),
      () => new Response(streamOf(event(3, job('done', [2, 3], 3)))),
    ]
    vi.stubGlobal('fetch', (_url: string, { headers }: { headers: Record<string, string> }) => {
      asked.push(headers['last-event-id'])
      return answers[asked.length - 1]()
    })
    const told: number[] = []
    const end = await followJob(
      'jb_abcdef',
      (now) => told.push(...now.results.map((r) => r.seed)),
      new AbortController().signal,
    )
    expect(end?.state).toBe('done')
    expect(told).toEqual([1, 2, 3])
    expect(asked).toEqual([undefined, '1', '1'])
  })

  it('of a job that is gone is an error; of one nobody follows any more, nothing', async () => {
    const gone = { type: 'about:blank', title: 'x', status: 404, detail: 'there is no job' }
    vi.stubGlobal('fetch', () => Promise.resolve(Response.json(gone, { status: 404 })))
    await expect(followJob('jb_abcdef', () => {}, new AbortController().signal)).rejects.toThrow('there is no job')
    const stop = new AbortController()
    stop.abort()
    vi.stubGlobal('fetch', () => Promise.reject(new DOMException('aborted', 'AbortError')))
    expect(await followJob('jb_abcdef', () => {}, stop.signal)).toBeUndefined()
  })
})
