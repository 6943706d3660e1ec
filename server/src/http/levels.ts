import { EDIT_ID_HEADER, levelKeySchema, PATCH_TYPE } from '@tidytrail/contract'
import { Router, type Request } from 'express'
import { z } from 'zod'
import type { RehearsalStore } from '../store/rehearsals'
import type { LevelService } from '../store/service'
import { wholeBody, type Pace } from './body'
import { only } from './only'
import { HttpProblem } from './problem'
import { validOr } from './valid'

const MB = 1024 * 1024
const NEW_LEVEL_BYTES = 96 * MB
const PATCH_BYTES = 32 * MB

const editIdSchema = z
  .string()
  .regex(/^[\w-]{8,64}$/, 'must be 8 to 64 letters, digits or dashes')
  .nullable()
const sinceSchema = z.coerce
  .number('must be a whole number')
  .int('must be a whole number')
  .min(0)
  .max(2 ** 31)

const keyOf = (req: Request) => {
  const key = levelKeySchema.safeParse(req.params.id)
  if (!key.success) throw new HttpProblem(404, `there is no level ${String(req.params.id).slice(0, 60)} on the shelf`)
  return key.data
}

const etag = (revision: number) => `"${revision}"`

/** The revision `If-Match` names, if it is there. A weak one matches nothing (RFC 9110, 13.1.1). */
function ifMatch(req: Request): number | undefined {
  const header = req.headers['if-match']
  if (header === undefined) return undefined
  if (/^W\//.test(header)) throw new HttpProblem(412, 'a weak ETag matches nothing; send it as it was given')
  const match = /^"(\d{1,9})"$/.exec(header)
  if (!match) throw new HttpProblem(400, 'If-Match must be the ETag of a revision, such as "12"')
  return Number(match[1])
}

export function levelRoutes(levels: LevelService, rehearsals: RehearsalStore, pace: Pace): Router {
  const router = Router()

  router
    .route('/')
    .get(async (_req, res) => {
      const [list, latest] = await Promise.all([levels.list(), rehearsals.latest()])
      res.json({ levels: list.map((level) => ({ ...level, rehearsed: latest.get(level.id) ?? null })) })
    })
    .post(async (req, res) => {
      if (!req.is('application/json')) throw new HttpProblem(415, 'send a new level as application/json')
      const made = await levels.make(await wholeBody(req, NEW_LEVEL_BYTES, pace))
      res.status(201).location(`/api/levels/${made.id}`).set('etag', etag(made.revision)).json(made)
    })
    .all(only('GET', 'POST'))

  router
    .route('/:id')
    .get(async (req, res) => {
      const id = keyOf(req)
      const known = req.headers['if-none-match']
      if (known !== undefined && known === etag(await levels.revision(id)))
        return void res.status(304).set('etag', known).set('cache-control', 'no-cache').end()
      const { document, revision } = await levels.read(id)
      res.set('etag', etag(revision)).set('cache-control', 'no-cache').type('json')
      res.send(Buffer.from(document.buffer, document.byteOffset, document.byteLength))
    })
    .patch(async (req, res) => {
      const id = keyOf(req)
      if (!req.is(PATCH_TYPE)) throw new HttpProblem(415, `send the change as ${PATCH_TYPE}`)
      const base = ifMatch(req)
      if (base === undefined) throw new HttpProblem(428, 'send the ETag of the revision this changes as If-Match')
      const editId = validOr(editIdSchema, req.get(EDIT_ID_HEADER) ?? null, EDIT_ID_HEADER)
      const saved = await levels.patch(id, base, await wholeBody(req, PATCH_BYTES, pace), editId)
      res.set('etag', etag(saved.revision)).json(saved)
    })
    .delete(async (req, res) => {
      await levels.remove(keyOf(req), ifMatch(req))
      res.status(204).end()
    })
    .all(only('GET', 'PATCH', 'DELETE'))

  router
    .route('/:id/restore')
    .post(async (req, res) => {
      res.json(await levels.restore(keyOf(req)))
    })
    .all(only('POST'))

  router
    .route('/:id/revisions')
    .get(async (req, res) => {
      const since = validOr(sinceSchema, req.query.since ?? 0, 'since')
      res.json(await levels.revisions(keyOf(req), since))
    })
    .all(only('GET'))

  return router
}
