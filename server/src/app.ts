import { existsSync } from 'node:fs'
import path from 'node:path'
import { openApiDocument } from '@tidytrail/contract'
import express, { type Express } from 'express'
import { rateLimit } from 'express-rate-limit'
import helmet from 'helmet'
import type { Logger } from 'pino'
import { QueryTypes } from 'sequelize'
import { assetRoutes } from './http/assets'
import { PACE, type Pace } from './http/body'
import { onlyHosts, requireToken, sameOriginWrites } from './http/guard'
import { jobRoutes, levelJobRoutes } from './http/jobs'
import { levelRoutes } from './http/levels'
import { only } from './http/only'
import { HttpProblem, problemHandler, sendProblem } from './http/problem'
import { levelRehearsalRoutes, rehearsalRoutes } from './http/rehearsals'
import { JobQueue } from './jobs/queue'
import type { Database } from './store/database'
import { AssetStore } from './store/assets'
import { RehearsalStore } from './store/rehearsals'
import { Room } from './store/room'
import type { LevelService } from './store/service'
import { DEFAULT_KEEPING, storageOf, type Keeping } from './store/upkeep'

export const VERSION = '0.1.0'
const MOST_REQUESTS_A_MINUTE = 60_000

export interface AppOptions {
  database: Database
  levels: LevelService
  log: Logger
  token?: string
  /** Names this server goes by, beside those of loopback. */
  hosts?: readonly string[]
  /** The built web application; without it only the interface is served. */
  webRoot?: string
  /** How fast bodies must come. */
  pace?: Pace
  keeping?: Keeping
  room?: Room
  jobs?: JobQueue
  /** Tells those who do jobs that there is one. */
  stir?: () => void
}

export function makeApp(options: AppOptions): Express {
  const { database, levels, log, token, hosts = [], webRoot, pace = PACE, keeping = DEFAULT_KEEPING } = options
  const { room = new Room(undefined, 0), jobs = new JobQueue(database), stir = () => {} } = options
  const rehearsals = new RehearsalStore(database)
  const app = express()
  app.disable('x-powered-by')
  app.set('etag', 'strong')
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
  app.use(onlyHosts(hosts, token !== undefined))
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

  app
    .route('/api/health')
    .get(async (_req, res) => {
      try {
        await database.sequelize.query('SELECT 1', { type: QueryTypes.SELECT })
      } catch {
        throw new HttpProblem(503, 'the database cannot be reached just now')
      }
      res.json({ status: 'ok', version: VERSION })
    })
    .all(only('GET'))
  app
    .route('/api/openapi.json')
    .get((_req, res) => void res.json(openApiDocument(VERSION)))
    .all(only('GET'))
  app
    .route('/api/storage')
    .get(async (_req, res) => void res.json(await storageOf(database, keeping)))
    .all(only('GET'))
  app.use('/api', async (req, _res, next) => {
    if (['POST', 'PUT', 'PATCH'].includes(req.method))
      await room.assertRoom(Number(req.headers['content-length'] ?? 0) || 0)
    next()
  })
  app.use('/api/assets', assetRoutes(new AssetStore(database), pace))
  app.use('/api/levels/:id/jobs', levelJobRoutes(levels, jobs, stir, pace))
  app.use('/api/levels/:id/rehearsals', levelRehearsalRoutes(rehearsals, pace))
  app.use('/api/levels', levelRoutes(levels, rehearsals, pace))
  app.use('/api/jobs', jobRoutes(jobs))
  app.use('/api/rehearsals', rehearsalRoutes(rehearsals, pace))
  app.use('/api', (req) => {
    throw new HttpProblem(404, `there is nothing at ${req.method} ${req.originalUrl.slice(0, 100)}`)
  })

  if (webRoot && existsSync(path.join(webRoot, 'index.html'))) {
    // The reader of files unpacks meshes with WebAssembly. It works apart from the page, under a policy of its own.
    app.use('/assets', (req, res, next) => {
      if (/^\/importer\.worker-[\w-]+\.js$/.test(req.path))
        res.set(
          'content-security-policy',
          "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; object-src 'none'",
        )
      next()
    })
    app.use(
      '/assets',
      express.static(path.join(webRoot, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false, index: false }),
    )
    app.use(express.static(webRoot, { index: false }))
    app
      .route('/{*path}')
      .get((req, res) => {
        // The page itself says so when there is nothing at an address.
        const known = /^\/(levels\/[^/]+(\/[^/]+)?\/?)?$/.test(req.path)
        res
          .status(known ? 200 : 404)
          .set('cache-control', 'no-cache')
          .sendFile('index.html', { root: webRoot })
      })
      .all(only('GET'))
  }
  app.use(() => {
    throw new HttpProblem(404, 'there is nothing here')
  })
  app.use(problemHandler(log))
  return app
}
