import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { Worker } from 'node:worker_threads'
import { startDatabase, type RunningDatabase } from '../../scripts/database.mjs'
import { pause } from '../../scripts/processes.mjs'

const ROOT = path.resolve(import.meta.dirname, '../..')

/** A server as `npm start` runs it, over a database of its own in a folder that goes with it. */
export interface Served {
  readonly url: string
  readonly database: RunningDatabase
  readonly pid: number
  /** Ends the database as a crash would, and starts it again. */
  crashDatabase(): Promise<void>
  stop(): Promise<void>
}

const freePort = () =>
  new Promise<number>((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number }
      probe.close(() => resolve(port))
    })
  })

/** @param folder for the database, made and removed with it */
export async function serve(
  env: Record<string, string> = {},
  folder = mkdtempSync(path.join(tmpdir(), 'tidytrail-served-')),
): Promise<Served> {
  let database = await startDatabase(folder)
  const port = await freePort()
  const child: ChildProcess = spawn(process.execPath, ['--import', 'tsx', path.join(ROOT, 'server/src/main.ts')], {
    cwd: ROOT,
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    env: {
      ...process.env,
      TIDYTRAIL_DATABASE_URL: database.url,
      TIDYTRAIL_PORT: String(port),
      TIDYTRAIL_LOG: 'silent',
      TIDYTRAIL_DATABASE_FILES: database.files,
      ...env,
    },
  })
  const url = `http://127.0.0.1:${port}`
  for (let k = 0; ; k++) {
    if (
      await fetch(`${url}/api/levels`).then(
        (r) => r.ok,
        () => false,
      )
    )
      break
    if (k > 300 || child.exitCode !== null) throw new Error('the server does not serve')
    await pause(100)
  }
  return {
    url,
    get database() {
      return database
    },
    pid: child.pid!,
    async crashDatabase() {
      await database.kill()
      database = await startDatabase(folder)
    },
    async stop() {
      const over = new Promise((resolve) => child.on('exit', resolve))
      child.kill('SIGTERM')
      await over
      await database.stop()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}

/** What a call came to. */
export interface Answered<T = Record<string, unknown>> {
  readonly status: number
  readonly body: T
}

export async function call<T>(
  url: string,
  method: string,
  where: string,
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<Answered<T>> {
  const response = await fetch(`${url}${where}`, {
    method,
    headers: { 'content-type': 'application/json', ...headers },
    body: body === undefined ? undefined : JSON.stringify(body),
  })
  const text = await response.text()
  return { status: response.status, body: (text ? JSON.parse(text) : undefined) as T }
}

export const sendPatch = <T>(url: string, id: string, base: number, editId: string, ops: unknown) =>
  call<T>(url, 'PATCH', `/api/levels/${id}`, ops, {
    'content-type': 'application/json-patch+json',
    'if-match': `"${base}"`,
    'x-edit-id': editId,
  })

/** Puts a level on the shelf. @returns its id */
export async function post(url: string, document: unknown): Promise<string> {
  const made = await call<{ id: string; detail?: string }>(url, 'POST', '/api/levels', { document })
  if (made.status !== 201) throw new Error(`the level was refused: ${made.body.detail}`)
  return made.body.id
}

/** Runs in a thread of its own, so that it does not wait for what this process is busy with. */
const WATCH = `
const { parentPort, workerData } = require('node:worker_threads')
const http = require('node:http')
const agent = new http.Agent({ keepAlive: true })
const waits = []
let going = true
const ask = () => {
  if (!going) return parentPort.postMessage(waits)
  const began = performance.now()
  const done = () => { waits.push(performance.now() - began); setTimeout(ask, 10) }
  http.get(workerData, { agent }, (res) => { res.resume(); res.on('end', done) }).on('error', done)
}
parentPort.on('message', () => { going = false })
ask()`

/** Asks how the server is, again and again. @returns how to stop, and the waits in milliseconds */
export function watchHealth(url: string): { stop: () => Promise<number[]> } {
  const worker = new Worker(WATCH, { eval: true, workerData: `${url}/api/health` })
  return {
    stop: async () => {
      const waits = new Promise<number[]>((resolve) => worker.once('message', resolve))
      worker.postMessage('stop')
      // The first goes into making the connection.
      const all = (await waits).slice(1)
      await worker.terminate()
      return all
    },
  }
}
