import { jobSchema, type Job, type NewJob } from '@tidytrail/contract'
import { api, isPassing } from './client'

/** Asks the server for a job. */
export async function startJob(levelId: string, job: NewJob): Promise<Job> {
  return jobSchema.parse(await (await api(`/levels/${levelId}/jobs`, { method: 'POST', body: job })).json())
}

export async function cancelJob(id: string): Promise<void> {
  await api(`/jobs/${id}`, { method: 'DELETE' })
}

const AGAIN_MS = 1000

/**
 * Follows a job to its end by Server-Sent Events. When the connection breaks, or the server is started again, it is taken
 * up where it was: each result is told of once.
 * @param tell is given the job as it stands, with the results since it was last told
 * @throws ApiProblem when there is no such job any more
 */
export async function followJob(id: string, tell: (job: Job) => void, stop: AbortSignal): Promise<Job | undefined> {
  let told = 0
  for (;;) {
    try {
      const answer = await fetch(`/api/jobs/${id}/events`, {
        headers: told > 0 ? { 'last-event-id': String(told) } : {},
        signal: stop,
      })
      // Problems are told by the ordinary call.
      if (!answer.ok || !answer.body) await api(`/jobs/${id}`)
      else {
        for await (const { lastId, job } of eventsOf(answer.body)) {
          told = Math.max(told, lastId)
          tell(job)
          if (job.state !== 'waiting' && job.state !== 'running') return job
        }
      }
    } catch (error) {
      if (stop.aborted) return undefined
      if (!(error instanceof TypeError) && !isPassing(error)) throw error
      if ((error as { problem?: { status: number } }).problem?.status === 404) throw error
    }
    if (stop.aborted) return undefined
    await new Promise((resolve) => setTimeout(resolve, AGAIN_MS))
  }
}

/** The jobs told of in a stream of events. */
export async function* eventsOf(body: ReadableStream<Uint8Array>): AsyncGenerator<{ lastId: number; job: Job }> {
  const reader = body
    .pipeThrough(new TextDecoderStream() as unknown as ReadableWritablePair<string, Uint8Array>)
    .getReader()
  let text = ''
  for (;;) {
    const { done, value } = await reader.read()
    if (done) return
    text += value
    const events = text.split('\n\n')
    text = events.pop()!
    for (const event of events) {
      const data = /^data: (.*)$/m.exec(event)?.[1]
      if (data) yield { lastId: Number(/^id: (\d+)$/m.exec(event)?.[1] ?? 0), job: jobSchema.parse(JSON.parse(data)) }
    }
  }
}
