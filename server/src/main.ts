import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { DEMO_LEVELS } from '@tidytrail/demo'
import { pino } from 'pino'
import { makeApp } from './app'
import { readConfig } from './config'
import { openDatabase } from './store/database'
import { LevelStore } from './store/levels'

/** Ends the process with one line for people. */
function fail(message: string): never {
  process.stderr.write(`Tidy Trail: ${message}\n`)
  process.exit(1)
}

async function main(): Promise<void> {
  let config
  try {
    config = readConfig(process.env)
  } catch (error) {
    fail((error as Error).message)
  }
  const log = pino({ level: config.logLevel })
  const database = await openDatabase(config.databaseUrl).catch((error: Error) =>
    fail(
      `cannot use the database at ${config.databaseUrl.replace(/:[^:@/]*@/, ':…@')}: ${error.message.split('\n')[0]}`,
    ),
  )
  const store = new LevelStore(database)
  if (await store.isEmpty())
    for (const demo of [...DEMO_LEVELS].reverse()) if (demo.onShelf) await store.add(demo.make())

  const here = path.dirname(fileURLToPath(import.meta.url))
  const app = makeApp({ database, log, token: config.token, webRoot: path.resolve(here, '../../web/dist') })
  const server = app.listen(config.port, config.host, (error?: Error & { code?: string }) => {
    if (!error) {
      const host = config.host.includes(':') ? `[${config.host}]` : config.host
      process.stdout.write(`Tidy Trail is at http://${host}:${config.port}\n`)
    } else if (error.code === 'EADDRINUSE') {
      fail(
        `port ${config.port} is taken; set TIDYTRAIL_PORT to another, for example TIDYTRAIL_PORT=${config.port + 1} npm start`,
      )
    } else fail(error.message)
  })
  const stop = () => {
    server.close(() => void database.close().finally(() => process.exit(0)))
    server.closeIdleConnections()
    setTimeout(() => process.exit(0), 3_000).unref()
  }
  process.on('SIGINT', stop)
  process.on('SIGTERM', stop)
}

await main()
