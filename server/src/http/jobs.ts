import { jobKeySchema, levelKeySchema, newJobSchema } from '@tidytrail/contract'
import type { Level } from '@tidytrail/core/level'
import { Router, type Request } from 'express'
import type { JobQueue } from '../jobs/queue'
import { seedParts } from '../jobs/kinds/seeds'
import type { LevelService } from '../store/service'
import { wholeBody, type Pace } from './body'
import { only } from './only'
import { HttpProblem } from './problem'
import { validOr } from './valid'

const MOST_BYTES = 64 * 1024
/** News of a job is looked for so often, ms; and somebody is told so often that the line still holds. */
const NEWS_MS = 300
const HOLDS_MS = 15_000

const keyOf = (req: Request) => {
  const key = jobKeySchema.safeParse(req.params.id)
  if (!key.success) throw new HttpProblem(404, `there is no job ${String(req.params.id).slice(0, 60)}`)
  return key.data
}

/** Jobs of a level: `POST /api/levels/:id/jobs`. @param stir tells those who do jobs that there is one */
export function levelJobRoutes(levels: LevelService, jobs: JobQueue, stir: () => void, pace: Pace): Router {
  const router = Router({ mergeParams: true })
  router
    .route('/')
    .post(async (req: Request, res) => {
      if (!req.is('application/json')) throw new HttpProblem(415, 'send a job as application/json')
      const key = levelKeySchema.safeParse(req.params.id)
      if (!key.success)
        throw new HttpProblem(404, `there is no level ${String(req.params.id).slice(0, 60)} on the shelf`)
      let body: unknown
      try {
        body = JSON.parse(new TextDecoder().decode(await wholeBody(req, MOST_BYTES, pace)))
      } catch (error) {
        if (error instanceof HttpProblem) throw error
        throw new HttpProblem(400, 'the request is not JSON')
      }
      const asked = validOr(newJobSchema, body, 'a job')
      const document = new TextDecoder().decode((await levels.read(key.data)).document)
      const parts = seedParts(asked, JSON.parse(document) as Level)
      const id = await jobs.add(key.data, asked.kind, document, parts)
      stir()
      res
        .status(201)
        .location(`/api/jobs/${id}`)
        .json(await jobs.job(id))
    })
    .all(only('POST'))
  return router
}

export function jobRoutes(jobs: JobQueue): Router {
  const router = Router()
  router
    .route('/:id')
    .get(async (req, res) => void res.json(await jobs.job(keyOf(req))))
    .delete(async (req, res) => {
      const id = keyOf(req)
      await jobs.job(id)
      await jobs.cancel(id)
      res.status(204).end()
    })
    .all(only('GET', 'DELETE'))

  // Progress by Server-Sent Events: whoever comes back says by Last-Event-ID how many results it has.
  router
    .route('/:id/events')
    .get(async (req, res) => {
      const id = keyOf(req)
      let told = Math.max(0, Number(req.headers['last-event-id'] ?? 0) || 0)
      let job = await jobs.job(id, told)
      res.set({ 'content-type': 'text/event-stream', 'cache-control': 'no-cache', 'x-accel-buffering': 'no' })
      res.flushHeaders()
      let open = true
      res.on('close', () => (open = false))
      let last = Date.now()
      let before = ''
      while (open) {
        const now = `${job.state} ${job.done}`
        if (now !== before || job.results.length > 0) {
          told += job.results.length
          res.write(`id: ${told}\nevent: job\ndata: ${JSON.stringify(job)}\n\n`)
          before = now
          last = Date.now()
        } else if (Date.now() - last > HOLDS_MS) {
          res.write(': still here\n\n')
          last = Date.now()
        }
        if (job.state !== 'waiting' && job.state !== 'running') break
        await new Promise((resolve) => setTimeout(resolve, NEWS_MS))
        if (open) job = await jobs.job(id, told).catch(() => ({ ...job, results: [] }))
      }
      res.end()
    })
    .all(only('GET'))
  return router
}
