import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { levelKeySchema, rehearsalAboutSchema, rehearsalKeySchema, STRETCH_BYTES } from '@tidytrail/contract'
import { Router, type Request } from 'express'
import type { RehearsalStore } from '../store/rehearsals'
import { fewUploads, wholeBody, type Pace } from './body'
import { only } from './only'
import { HttpProblem } from './problem'
import { validOr } from './valid'

const keyOf = (req: Request) => {
  const key = rehearsalKeySchema.safeParse(req.params.id)
  if (!key.success) throw new HttpProblem(404, `there is no rehearsal ${String(req.params.id).slice(0, 60)}`)
  return key.data
}
const levelOf = (req: Request) => {
  const key = levelKeySchema.safeParse(req.params.id)
  if (!key.success) throw new HttpProblem(404, `there is no level ${String(req.params.id).slice(0, 60)} on the shelf`)
  return key.data
}

/** The kept rehearsals of a level: `/api/levels/:id/rehearsals`. */
export function levelRehearsalRoutes(store: RehearsalStore, pace: Pace): Router {
  const router = Router({ mergeParams: true })
  router
    .route('/')
    .get(async (req: Request, res) => void res.json({ rehearsals: await store.list(levelOf(req)) }))
    .post(async (req: Request, res) => {
      if (!req.is('application/json')) throw new HttpProblem(415, 'tell of a rehearsal as application/json')
      let body: unknown
      try {
        body = JSON.parse(new TextDecoder().decode(await wholeBody(req, 64 * 1024, pace)))
      } catch (error) {
        if (error instanceof HttpProblem) throw error
        throw new HttpProblem(400, 'the request is not JSON')
      }
      const id = await store.begin(levelOf(req), validOr(rehearsalAboutSchema, body, 'a rehearsal'))
      res.status(201).location(`/api/rehearsals/${id}`).json({ id })
    })
    .all(only('GET', 'POST'))
  return router
}

export function rehearsalRoutes(store: RehearsalStore, pace: Pace): Router {
  const router = Router()
  router
    .route('/:id/stretches/:number')
    .put(fewUploads, async (req, res) => {
      if (!req.is('application/octet-stream')) throw new HttpProblem(415, 'send a stretch as application/octet-stream')
      const number = Number(req.params.number)
      if (!/^\d{1,4}$/.test(String(req.params.number))) throw new HttpProblem(404, 'stretches are numbered from 0 on')
      await store.put(keyOf(req), number, await wholeBody(req, STRETCH_BYTES, pace))
      res.status(204).end()
    })
    .all(only('PUT'))
  router
    .route('/:id/whole')
    .post(async (req, res) => void res.json(await store.finish(keyOf(req))))
    .all(only('POST'))
  router
    .route('/:id')
    .get(async (req, res) => {
      const { about, bytes } = await store.open(keyOf(req))
      res
        .type('application/octet-stream')
        .set('content-length', String(about.bytes))
        .set('cache-control', 'private, max-age=31536000, immutable')
        .set('x-content-type-options', 'nosniff')
      if (req.method === 'HEAD') return void res.end()
      await pipeline(Readable.from(bytes), res)
    })
    .delete(async (req, res) => {
      await store.remove(keyOf(req))
      res.status(204).end()
    })
    .all(only('GET', 'DELETE'))
  return router
}
