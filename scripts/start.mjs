/** `npm start`: everything from a fresh clone to a served application. Plain Node: it runs before anything is installed. */
import { spawn } from 'node:child_process'
import path from 'node:path'
import { startDatabase } from './database.mjs'
import { buildWeb, installModules, ROOT } from './prepare.mjs'
import { end, pause } from './processes.mjs'

const say = (/** @type {string} */ line) => process.stdout.write(`${line}\n`)
const complain = (/** @type {string} */ line) => process.stderr.write(`Tidy Trail: ${line}\n`)

/** Waits before what has ended is started again, seconds; after the last it is given up. */
const WAITS_S = [0.2, 1, 3, 8, 15]
/** Who has run so long has started well, and the waits begin anew, milliseconds. */
const WELL_MS = 60_000
const SERVER_STOPS_MS = 6_000

/** @type {Awaited<ReturnType<typeof startDatabase>> | undefined} */
let database
/** @type {import('node:child_process').ChildProcess | undefined} */
let server
const stopped = new AbortController()
let stopping = false

/** Ends all of it, in order. @param {number} code */
async function stop(code) {
  if (stopping) return
  stopping = true
  stopped.abort(new Error('stopped'))
  if (server?.pid && server.exitCode === null && server.signalCode === null) await end(server.pid, SERVER_STOPS_MS)
  await database?.stop()
  process.exit(code)
}

/** The second time somebody asks, it ends at once. */
function asked() {
  if (!stopping) return void stop(0)
  for (const pid of [server?.pid, database?.pid]) {
    try {
      if (pid) process.kill(pid, 'SIGKILL')
    } catch {
      // It has ended.
    }
  }
  process.exit(130)
}
for (const signal of /** @type {const} */ (['SIGINT', 'SIGTERM', 'SIGHUP'])) process.on(signal, asked)

/** How often something has ended of late, and how long to wait before it is started again. @param {string} what */
function patience(what) {
  let ends = 0
  return async (/** @type {string} */ how, /** @type {number} */ ranMs) => {
    ends = ranMs > WELL_MS ? 1 : ends + 1
    const wait = WAITS_S[ends - 1]
    if (wait === undefined) {
      complain(`${what} ended ${how}, for the ${ends}th time in a row; giving up`)
      await stop(1)
      return
    }
    complain(`${what} ended ${how}; starting it again in ${wait} s`)
    await pause(wait * 1000)
  }
}

/** Keeps the database running. @param {string} dataDir @returns {Promise<string>} where it is */
async function keepDatabase(dataDir) {
  const again = patience('the database')
  const begin = async () => {
    const began = Date.now()
    database = await startDatabase(dataDir, {
      say,
      signal: stopped.signal,
      onExit: async (how) => {
        database = undefined
        for (let cause = how; !stopping && !database;) {
          await again(cause, Date.now() - began)
          if (stopping) return
          try {
            await begin()
            say('the database is back')
          } catch (error) {
            cause = `again: ${/** @type {Error} */ (error).message}`
          }
        }
      },
    })
    // Stopped while it was starting: nobody else will end it.
    if (stopping) await database.stop()
    return database.url
  }
  return begin()
}

/** Keeps the server running. @param {string} url of the database */
async function keepServer(url) {
  const again = patience('the server')
  let hasServed = false
  while (!stopping) {
    const began = Date.now()
    const child = spawn(process.execPath, ['--import', 'tsx', path.join(ROOT, 'server/src/main.ts')], {
      cwd: ROOT,
      // Through the channel it hears when this process is gone.
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      // A process group of its own, so that Ctrl+C reaches this script alone, which then stops all in order.
      detached: true,
      env: {
        ...process.env,
        TIDYTRAIL_DATABASE_URL: url,
        ...(database ? { TIDYTRAIL_DATABASE_FILES: database.files } : {}),
      },
    })
    server = child
    let hopeless = false
    child.on('message', (message) => {
      if (typeof message !== 'object' || message === null) return
      if ('serving' in message) hasServed = true
      if ('hopeless' in message) hopeless = true
    })
    const [code, signal] = await new Promise((resolve) => {
      child.on('exit', (...how) => resolve(how))
      child.on('error', () => resolve([1, null]))
    })
    if (stopping) return
    // A server that says why it cannot start would say the same again.
    if (hopeless || (!hasServed && signal === null)) return void (await stop(code ?? 1))
    await again(signal ? `by ${signal}` : `with code ${code}`, Date.now() - began)
  }
}

try {
  await installModules(say, stopped.signal)
  await buildWeb(say, stopped.signal)
  const url =
    process.env.TIDYTRAIL_DATABASE_URL ||
    (await keepDatabase(path.resolve(ROOT, process.env.TIDYTRAIL_DATA ?? '.data')))
  await keepServer(url)
} catch (error) {
  if (!stopping) {
    complain(/** @type {Error} */ (error).message)
    await stop(1)
  }
}
