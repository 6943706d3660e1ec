import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { assetHashSchema } from '@tidytrail/core/level'
import { Router, type Request } from 'express'
import type { AssetStore } from '../store/assets'
import { fewUploads, steadily, type Pace } from './body'
import { only } from './only'
import { HttpProblem } from './problem'

const hashOf = (req: Request) => {
  const hash = assetHashSchema.safeParse(req.params.hash)
  if (!hash.success) throw new HttpProblem(404, 'an asset is named by the SHA-256 of its bytes')
  return hash.data
}

export function assetRoutes(store: AssetStore, pace: Pace): Router {
  const router = Router()

  router.put('/:hash', fewUploads, async (req, res) => {
    const hash = hashOf(req)
    if (!req.is('application/octet-stream')) throw new HttpProblem(415, 'send an asset as application/octet-stream')
    const { made, head } = await store.take(hash, steadily(req, pace))
    res.status(made ? 201 : 200).json(head)
  })

  router.get('/:hash', async (req, res) => {
    const head = await store.head(hashOf(req))
    if (!head) throw new HttpProblem(404, `there is no asset ${String(req.params.hash).slice(0, 12)}…`)
    res
      .type(head.type)
      .set('etag', `"${head.hash}"`)
      .set('content-length', String(head.bytes))
      .set('cache-control', 'private, max-age=31536000, immutable')
      .set('x-content-type-options', 'nosniff')
    if (req.method === 'HEAD') return void res.end()
    await pipeline(Readable.from(store.bytes(head.hash)), res)
  })

  router.all('/:hash', only('GET', 'PUT'))

  return router
}
