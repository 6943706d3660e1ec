import { hostname } from 'node:os'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { assetIdsOf } from '@tidytrail/core/level'
import { DEMO_LEVELS } from '@tidytrail/demo'
import { pino } from 'pino'
import { makeApp } from './app'
import { readConfig, type Config } from './config'
import { harden } from './http/harden'
import { databaseFault, lineOf, worthSaying } from './http/problem'
import { JobPool } from './jobs/pool'
import { JobQueue } from './jobs/queue'
import { openDatabase, type Database } from './store/database'
import { LevelStore } from './store/levels'
import { LevelService } from './store/service'
import { tidy } from './store/upkeep'

/** How long a database that does not answer yet is waited for, milliseconds. */
const WAIT_FOR_DATABASE_MS = 30_000
const TIDY_EVERY_MS = 6 * 3600 * 1000

/** Ends the process with one line for people. */
function fail(message: string): never {
  process.stderr.write(`Tidy Trail: ${message}\n`)
  process.exit(1)
}

async function database(url: string): Promise<Database> {
  for (const deadline = Date.now() + WAIT_FOR_DATABASE_MS; ; await new Promise((r) => setTimeout(r, 250))) {
    try {
      return await openDatabase(url)
    } catch (error) {
      if (databaseFault(error) === 'no-connection' && !/denied/i.test(lineOf(error)) && Date.now() < deadline) continue
      const at = url.replace(/:[^:@/]*@/, ':…@').replace(/\?.*/, '')
      fail(`cannot use the database at ${at}: ${(error as Error).message.split('\n')[0]}`)
    }
  }
}

/** Ends this process; once it serves, in good order. */
let stop: () => void = () => process.exit(0)
process.on('SIGINT', () => stop())
process.on('SIGTERM', () => stop())
// Whoever started this is gone, by whatever end, perhaps already: nobody would stop it any more.
if (process.send) {
  process.on('disconnect', () => stop())
  if (!process.connected) stop()
}

async function main(): Promise<void> {
  let config: Config
  try {
    config = readConfig(process.env)
  } catch (error) {
    fail((error as Error).message)
  }
  const log = pino({ level: config.logLevel })
  const db = await database(config.databaseUrl)
  const store = new LevelStore(db)
  if (await store.isEmpty()) {
    const levels = DEMO_LEVELS.filter((d) => d.onShelf).map((d) => d.make())
    await store.addAll(
      levels.reverse().map((level) => ({
        name: level.name,
        document: JSON.stringify(level),
        assetIds: assetIdsOf(level),
      })),
    )
  }

  const here = path.dirname(fileURLToPath(import.meta.url))
  const levels = new LevelService(config.databaseUrl)
  void levels.ready().catch(() => {})
  const jobs = new JobQueue(db)
  const pool = new JobPool(jobs, {
    databaseUrl: config.databaseUrl,
    threads: config.jobThreads,
    name: `${hostname()}-${process.pid}`,
    say: (line) => worthSaying(line) && log.error(line),
  })
  const app = makeApp({
    jobs,
    stir: () => pool.stir(),
    database: db,
    levels,
    log,
    token: config.token,
    hosts: config.hosts,
    keeping: config.keeping,
    room: config.room,
    webRoot: path.resolve(here, '../../web/dist'),
  })
  const server = app.listen(config.port, config.host, (error?: Error & { code?: string }) => {
    if (!error) {
      const host = config.host.includes(':') ? `[${config.host}]` : config.host
      process.stdout.write(`Tidy Trail is at http://${host}:${config.port}\n`)
      process.send?.({ serving: true })
    } else if (error.code === 'EADDRINUSE') {
      process.send?.({ hopeless: true })
      fail(
        `port ${config.port} is taken; set TIDYTRAIL_PORT to another, for example TIDYTRAIL_PORT=${config.port + 1} npm start`,
      )
    } else fail(error.message)
  })
  harden(server)

  const tidying = () =>
    tidy(db, config.keeping).then(
      ({ lines }) => lines.forEach((line) => log.info(line)),
      (error) => log.error(`tidying up failed: ${lineOf(error)}`),
    )
  setTimeout(tidying, 60_000).unref()
  setInterval(tidying, TIDY_EVERY_MS).unref()

  let stopping = false
  stop = () => {
    if (stopping) return
    stopping = true
    setTimeout(() => process.exit(0), 3_000).unref()
    server.close(
      () =>
        void pool
          .stop()
          .then(() => Promise.allSettled([levels.close(), db.close()]))
          .then(() => process.exit(0)),
    )
    server.closeIdleConnections()
  }
}

await main()
