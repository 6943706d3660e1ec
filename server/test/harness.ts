import { mkdtempSync, rmSync } from 'node:fs'
import type { Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { pino } from 'pino'
import { startDatabase, type RunningDatabase } from '../../scripts/database.mjs'
import { makeApp, type AppOptions } from '../src/app'
import { openDatabase, type Database } from '../src/store/database'

/** A server over a MariaDB of its own, in a folder that is removed afterwards. */
export interface Harness {
  readonly url: string
  readonly mariadb: RunningDatabase
  /** Starts the database again over the same files and port. */
  restartDatabase(): Promise<void>
  stop(): Promise<void>
}

export async function startHarness(options: Partial<AppOptions> = {}): Promise<Harness> {
  const folder = mkdtempSync(path.join(tmpdir(), 'tidytrail-'))
  let mariadb = await startDatabase(folder)
  const database: Database = await openDatabase(mariadb.url).catch(async (error) => {
    await mariadb.stop()
    throw error
  })
  const app = makeApp({ database, log: pino({ level: 'silent' }), ...options })
  const server: Server = await new Promise((resolve) => {
    const listening = app.listen(0, '127.0.0.1', () => resolve(listening))
  })
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    get mariadb() {
      return mariadb
    },
    async restartDatabase() {
      mariadb = await startDatabase(folder, { port: mariadb.port })
    },
    async stop() {
      await new Promise((resolve) => {
        server.close(resolve)
        server.closeAllConnections()
      })
      await database.close()
      await mariadb.stop()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
