import { EDIT_ID_HEADER, levelKeySchema, newLevelSchema, PATCH_TYPE, patchSchema } from '@tidytrail/contract'
import { readLevel } from '@tidytrail/core/level'
import { Router, type Request } from 'express'
import type { Operation } from 'fast-json-patch'
import { z } from 'zod'
import type { LevelStore } from '../store/levels'
import { HttpProblem } from './problem'

/** The value a schema makes of some input, or a 400 that names the place. */
function valid<S extends z.ZodType>(schema: S, input: unknown, what: string): z.output<S> {
  const result = schema.safeParse(input)
  if (result.success) return result.data
  const issue = result.error.issues[0]
  throw new HttpProblem(400, `${what}: ${issue.message}`, issue.path.length > 0 ? { at: issue.path.join('.') } : {})
}

const keyOf = (req: Request) => {
  const key = levelKeySchema.safeParse(req.params.id)
  if (!key.success) throw new HttpProblem(404, `there is no level ${String(req.params.id).slice(0, 60)} on the shelf`)
  return key.data
}

const etag = (revision: number) => `"${revision}"`

function ifMatch(req: Request): number {
  const header = req.headers['if-match']
  if (header === undefined) throw new HttpProblem(428, 'send the ETag of the revision this changes as If-Match')
  const match = /^(?:W\/)?"?(\d+)"?$/.exec(header)
  if (!match) throw new HttpProblem(400, 'If-Match must be the ETag of a revision, such as "12"')
  return Number(match[1])
}

export function levelRoutes(store: LevelStore): Router {
  const router = Router()

  router.get('/', async (_req, res) => {
    res.json({ levels: await store.list() })
  })

  router.post('/', async (req, res) => {
    const body = valid(newLevelSchema, req.body, 'a new level')
    const made =
      'blank' in body
        ? await store.addBlank(body.blank.name)
        : 'copyOf' in body
          ? await store.addCopy(body.copyOf)
          : await store.add(readLevel(body.document))
    res.status(201).location(`/api/levels/${made.id}`).set('etag', etag(made.revision)).json(made)
  })

  router.get('/:id', async (req, res) => {
    const { document, revision } = await store.read(keyOf(req))
    res.set('etag', etag(revision)).set('cache-control', 'no-cache').type('json').send(document)
  })

  router.patch('/:id', async (req, res) => {
    const id = keyOf(req)
    if (!req.is(PATCH_TYPE)) throw new HttpProblem(415, `send the change as ${PATCH_TYPE}`)
    const revision = ifMatch(req)
    const ops = valid(patchSchema, req.body, 'a patch')
    const editId = valid(
      z
        .string()
        .regex(/^[\w-]{8,64}$/)
        .nullable(),
      req.get(EDIT_ID_HEADER) ?? null,
      EDIT_ID_HEADER,
    )
    const saved = await store.patch(id, revision, ops as Operation[], editId)
    res.set('etag', etag(saved.revision)).json(saved)
  })

  router.delete('/:id', async (req, res) => {
    await store.remove(keyOf(req))
    res.status(204).end()
  })

  router.post('/:id/restore', async (req, res) => {
    res.json(await store.restore(keyOf(req)))
  })

  router.get('/:id/revisions', async (req, res) => {
    const since = valid(z.coerce.number().int().min(0), req.query.since ?? 0, 'since')
    res.json({ revisions: await store.revisions(keyOf(req), since) })
  })

  return router
}
