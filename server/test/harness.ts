import { mkdtempSync, rmSync } from 'node:fs'
import type { Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { pino } from 'pino'
import { startDatabase, type RunningDatabase } from '../../scripts/database.mjs'
import { makeApp, type AppOptions } from '../src/app'
import { harden } from '../src/http/harden'
import { openDatabase } from '../src/store/database'
import { LevelService } from '../src/store/service'

/** A server over a MariaDB of its own, in a folder that is removed afterwards. */
export interface Harness {
  readonly url: string
  readonly mariadb: RunningDatabase
  /** Starts the database again over the same files. */
  restartDatabase(): Promise<void>
  stop(): Promise<void>
}

export async function startHarness(
  options: Partial<AppOptions> & { databaseWrap?: string[]; folder?: string } = {},
): Promise<Harness> {
  const { databaseWrap, folder = mkdtempSync(path.join(tmpdir(), 'tidytrail-')), ...app } = options
  let mariadb = await startDatabase(folder, { wrap: databaseWrap })
  const database = await openDatabase(mariadb.url).catch(async (error) => {
    await mariadb.stop()
    throw error
  })
  const levels = new LevelService(mariadb.url)
  const server: Server = await new Promise((resolve) => {
    const made = makeApp({ database, levels, log: pino({ level: 'silent' }), ...app })
    const listening = made.listen(0, '127.0.0.1', () => resolve(listening))
  })
  harden(server)
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    get mariadb() {
      return mariadb
    },
    async restartDatabase() {
      mariadb = await startDatabase(folder, { wrap: databaseWrap })
    },
    async stop() {
      await new Promise((resolve) => {
        server.close(resolve)
        server.closeAllConnections()
      })
      await levels.close()
      await database.close()
      await mariadb.stop()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}

/** Calls the interface, with JSON both ways. */
export const caller =
  (harness: () => Harness) =>
  async (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) => {
    const response = await fetch(harness().url + path, {
      method,
      headers: { 'content-type': 'application/json', ...headers },
      body: body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body),
    })
    const text = await response.text()
    return { status: response.status, headers: response.headers, body: text ? JSON.parse(text) : undefined }
  }

/** Sends a patch made on a revision. */
export const patcher =
  (call: ReturnType<typeof caller>) =>
  (id: string, revision: number, ops: unknown, headers: Record<string, string> = {}) =>
    call('PATCH', `/api/levels/${id}`, ops, {
      'content-type': 'application/json-patch+json',
      'if-match': `"${revision}"`,
      ...headers,
    })

/** How a driver connects to a private database. */
export function connectionTo({ url, socket }: RunningDatabase) {
  const at = new URL(url)
  return { socketPath: socket, user: at.username, password: at.password, database: at.pathname.slice(1) }
}
