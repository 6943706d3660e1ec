/** Processes: run to their end, told from strangers, stopped for certain. Plain Node, nothing installed needed. */
import { spawn } from 'node:child_process'
import { readdirSync, readFileSync } from 'node:fs'
import { createServer, connect } from 'node:net'
import { createHash } from 'node:crypto'

/** What a program that was run came to. @typedef {{ status: number | null, output: string }} Ran */

/**
 * Runs a program to its end without holding up anything else. An abort ends it and all it started.
 * @param {string} program @param {string[]} args
 * @param {{ cwd?: string, env?: NodeJS.ProcessEnv, signal?: AbortSignal, stdin?: import('node:stream').Readable, stdout?: import('node:stream').Writable }} [options]
 * @returns {Promise<Ran>} its exit code, and what it printed (what went to `stdout` left out)
 */
export function run(program, args, { cwd, env, signal, stdin, stdout } = {}) {
  return new Promise((resolve, reject) => {
    if (signal?.aborted) return reject(signal.reason)
    const child = spawn(program, args, {
      cwd,
      env,
      stdio: [stdin ? 'pipe' : 'ignore', 'pipe', 'pipe'],
      // A group of its own, so that an abort reaches what it started too.
      detached: true,
    })
    let output = ''
    const keep = (/** @type {Buffer} */ part) => (output = (output + part).slice(-64 * 1024))
    if (stdout) child.stdout.pipe(stdout)
    else child.stdout.on('data', keep)
    child.stderr.on('data', keep)
    if (stdin && child.stdin) {
      child.stdin.on('error', () => {})
      stdin.pipe(child.stdin)
    }
    const onAbort = () => {
      try {
        process.kill(-(/** @type {number} */ (child.pid)), 'SIGKILL')
      } catch {
        // It has ended by itself.
      }
    }
    signal?.addEventListener('abort', onAbort)
    child.on('error', reject)
    child.on('close', (status) => {
      signal?.removeEventListener('abort', onAbort)
      if (signal?.aborted) reject(signal.reason)
      else resolve({ status, output })
    })
  })
}

/** Does a process run under this number? One that has ended and waits to be collected does not. @param {number} pid */
export function isAlive(pid) {
  try {
    process.kill(pid, 0)
  } catch (error) {
    if (/** @type {NodeJS.ErrnoException} */ (error).code !== 'EPERM') return false
  }
  try {
    // After the name in brackets, which may hold anything, comes the state.
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8')
    return !/^\s*[ZX]/.test(stat.slice(stat.lastIndexOf(')') + 1))
  } catch {
    return false
  }
}

/** The words a process was started with, or none when there is no such process. @param {number} pid */
export function commandLine(pid) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0')
  } catch {
    return []
  }
}

/** The processes one of whose words passes a test. @param {(word: string) => boolean} fits @returns {number[]} */
export function processesWith(fits) {
  return readdirSync('/proc')
    .map(Number)
    .filter((pid) => pid > 0 && pid !== process.pid && commandLine(pid).some(fits) && isAlive(pid))
}

export const pause = (/** @type {number} */ ms) => new Promise((resolve) => setTimeout(resolve, ms))

/**
 * Ends a process: asked first, and made to when it does not within some time.
 * @param {number} pid @param {number} graceMs
 */
export async function end(pid, graceMs) {
  const send = (/** @type {NodeJS.Signals} */ signal) => {
    try {
      process.kill(pid, signal)
    } catch {
      // It has ended.
    }
  }
  send('SIGTERM')
  for (let waited = 0; isAlive(pid); waited += 25) {
    if (waited >= graceMs) send('SIGKILL')
    await pause(25)
  }
}

/**
 * Makes this process the only one that has a name, for as long as it lives: a lock that no crash leaves behind. It is a
 * socket of Linux's abstract kind, which is gone with its process.
 * @param {string} name
 * @returns {Promise<{ held: true, release: () => Promise<void> } | { held: false, by: number }>} by: the process that has it
 */
export async function takeLock(name) {
  const address = `\0tidytrail-${createHash('sha256').update(name).digest('hex').slice(0, 32)}`
  for (let tries = 0; ; tries++) {
    const server = createServer((socket) => {
      socket.on('error', () => {})
      socket.end(String(process.pid))
    })
    const taken = await new Promise((resolve, reject) => {
      server.once('error', (error) =>
        /** @type {NodeJS.ErrnoException} */ (error).code === 'EADDRINUSE' ? resolve(true) : reject(error),
      )
      server.listen(address, () => resolve(false))
    })
    if (!taken) {
      server.unref()
      return { held: true, release: () => new Promise((resolve) => server.close(() => resolve())) }
    }
    const by = await new Promise((resolve) => {
      let said = ''
      const socket = connect(address)
      socket.setTimeout(1_000, () => socket.destroy())
      socket.on('data', (part) => (said += part))
      socket.on('error', () => {})
      socket.on('close', () => resolve(Number(said)))
    })
    // Whoever had it may have ended between the two questions.
    if (by > 0 || tries >= 5) return { held: false, by }
    await pause(50)
  }
}
