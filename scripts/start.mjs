/** `npm start`: everything from a fresh clone to a served application. Plain Node: it runs before anything is installed. */
import { spawn } from 'node:child_process'
import { mkdirSync } from 'node:fs'
import path from 'node:path'
import { startDatabase } from './database.mjs'
import { buildWeb, installModules, ROOT } from './prepare.mjs'

const say = (/** @type {string} */ line) => process.stdout.write(`${line}\n`)

/** @type {Awaited<ReturnType<typeof startDatabase>> | undefined} */
let database
/** @type {import('node:child_process').ChildProcess | undefined} */
let server
let stopping = false

async function stop(code = 0) {
  if (stopping) return
  stopping = true
  if (server && server.exitCode === null) {
    const ended = new Promise((resolve) => server?.once('exit', resolve))
    server.kill('SIGTERM')
    await ended
  }
  await database?.stop()
  process.exit(code)
}

process.on('SIGINT', () => void stop())
process.on('SIGTERM', () => void stop())
process.on('SIGHUP', () => void stop())

try {
  installModules(say)
  buildWeb(say)
  let url = process.env.TIDYTRAIL_DATABASE_URL
  if (!url) {
    const dataDir = path.resolve(ROOT, process.env.TIDYTRAIL_DATA ?? '.data')
    mkdirSync(dataDir, { recursive: true })
    database = await startDatabase(dataDir, { say })
    url = database.url
  }
  if (!stopping) {
    server = spawn(process.execPath, ['--import', 'tsx', path.join(ROOT, 'server/src/main.ts')], {
      cwd: ROOT,
      stdio: 'inherit',
      // Its own process group, so that Ctrl+C reaches this script alone, which then stops all in order.
      detached: true,
      env: { ...process.env, TIDYTRAIL_DATABASE_URL: url },
    })
    server.on('exit', (code) => void stop(code ?? 1))
  }
} catch (error) {
  process.stderr.write(`Tidy Trail: ${/** @type {Error} */ (error).message}\n`)
  await stop(1)
}
