import { existsSync } from 'node:fs'
import path from 'node:path'
import { openApiDocument, PATCH_TYPE } from '@tidytrail/contract'
import express, { type Express } from 'express'
import { rateLimit } from 'express-rate-limit'
import helmet from 'helmet'
import type { Logger } from 'pino'
import { QueryTypes } from 'sequelize'
import { assetRoutes } from './http/assets'
import { requireToken, sameOriginWrites } from './http/guard'
import { levelRoutes } from './http/levels'
import { HttpProblem, problemHandler, sendProblem } from './http/problem'
import type { Database } from './store/database'
import { AssetStore } from './store/assets'
import { LevelStore } from './store/levels'

export const VERSION = '0.1.0'
const BODY_LIMIT = 96 * 1024 * 1024
const MOST_REQUESTS_A_MINUTE = 3_000

export interface AppOptions {
  database: Database
  log: Logger
  token?: string
  /** The built web application; without it only the interface is served. */
  webRoot?: string
}

export function makeApp({ database, log, token, webRoot }: AppOptions): Express {
  const app = express()
  app.disable('x-powered-by')
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          'default-src': ["'self'"],
          'img-src': ["'self'", 'data:', 'blob:'],
          'worker-src': ["'self'", 'blob:'],
          'object-src': ["'none'"],
          'base-uri': ["'none'"],
          'form-action': ["'self'"],
          'frame-ancestors': ["'none'"],
        },
      },
      // Plain HTTP on loopback is the usual case.
      strictTransportSecurity: false,
    }),
  )
  app.use(
    rateLimit({
      windowMs: 60_000,
      limit: MOST_REQUESTS_A_MINUTE,
      standardHeaders: 'draft-8',
      legacyHeaders: false,
      handler: (_req, res) =>
        sendProblem(res, 429, `more than ${MOST_REQUESTS_A_MINUTE} requests a minute; wait a little`),
    }),
  )
  if (token) app.use(requireToken(token))
  app.use(sameOriginWrites)

  app.get('/api/health', async (_req, res) => {
    try {
      await database.sequelize.query('SELECT 1', { type: QueryTypes.SELECT })
      res.json({ status: 'ok', version: VERSION })
    } catch {
      res.status(503).json({ status: 'no-database', version: VERSION })
    }
  })
  app.get('/api/openapi.json', (_req, res) => void res.json(openApiDocument(VERSION)))
  app.use('/api/assets', assetRoutes(new AssetStore(database)))
  app.use('/api', express.json({ limit: BODY_LIMIT, type: ['application/json', PATCH_TYPE] }))
  app.use('/api/levels', levelRoutes(new LevelStore(database)))
  app.use('/api', (req) => {
    throw new HttpProblem(404, `there is nothing at ${req.method} ${req.originalUrl.slice(0, 100)}`)
  })

  if (webRoot && existsSync(path.join(webRoot, 'index.html'))) {
    app.use(
      '/assets',
      express.static(path.join(webRoot, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false, index: false }),
    )
    app.use(express.static(webRoot, { index: false }))
    app.get(
      '/{*path}',
      (_req, res) => void res.set('cache-control', 'no-cache').sendFile('index.html', { root: webRoot }),
    )
  }
  app.use(problemHandler(log))
  return app
}
