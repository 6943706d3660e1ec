/**
 * `npm run attack -- starts [times] [seed]`: starts the program and ends it at a random moment, again and again over the
 * same folder; then one start has to serve, with the levels that were made still there.
 */
import { spawn, type ChildProcess } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { pause } from '../../scripts/processes.mjs'
import { named, processesOf } from './processes'
import { chance, seedOf } from './random'

const ROOT = path.resolve(import.meta.dirname, '../..')
const PORT = 4396
/** Longest after the start that it is ended, milliseconds: beyond the moment it serves. */
const LATEST_MS = 4_500
/** How long everything may take to be gone after an end that was asked for. */
const GONE_MS = 15_000

async function gone(folder: string, ms: number, but: ReadonlySet<number> = new Set()): Promise<number[]> {
  const deadline = Date.now() + ms
  for (;;) {
    const left = processesOf(folder).filter((pid) => !but.has(pid))
    if (left.length === 0 || Date.now() > deadline) return left
    await pause(50)
  }
}

async function serves(child: ChildProcess, ms: number): Promise<boolean> {
  const deadline = Date.now() + ms
  while (Date.now() < deadline && child.exitCode === null) {
    const answer = await fetch(`http://127.0.0.1:${PORT}/api/levels`).catch(() => undefined)
    if (answer?.ok) return ((await answer.json()) as { levels: unknown[] }).levels.length >= 2
    await pause(100)
  }
  return false
}

export interface StartsReport {
  readonly starts: number
  readonly served: boolean
  readonly faults: string[]
  readonly slowestEndMs: number
}

/** @param times how often it is started and ended before the last start */
export async function attackStarts(times: number, seed: number): Promise<StartsReport> {
  const random = chance(seed)
  const folder = mkdtempSync(path.join(tmpdir(), 'tidytrail-starts-'))
  const faults: string[] = []
  let slowestEndMs = 0
  const start = () =>
    spawn(process.execPath, [path.join(ROOT, 'scripts/start.mjs')], {
      cwd: ROOT,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, TIDYTRAIL_DATA: folder, TIDYTRAIL_PORT: String(PORT) },
    })
  try {
    for (let k = 0; k < times; k++) {
      // Now and then from nothing, so that making the database is hit too.
      if (k % 7 === 0) {
        for (const pid of processesOf(folder)) process.kill(pid, 'SIGKILL')
        await gone(folder, GONE_MS)
        rmSync(path.join(folder, 'mariadb'), { recursive: true, force: true })
      }
      // What a start that was killed has left is for the next that gets so far; not for one that is ended before.
      const before = new Set(processesOf(folder))
      const child = start()
      let said = ''
      child.stdout.on('data', (part) => (said += part))
      child.stderr.on('data', (part) => (said += part))
      const over = new Promise<number | null>((resolve) => child.on('exit', (code) => resolve(code)))
      const after = Math.floor(random() * LATEST_MS)
      const signal = (['SIGKILL', 'SIGKILL', 'SIGINT', 'SIGTERM'] as const)[Math.floor(random() * 4)]
      const early = await Promise.race([over.then((code) => ({ code })), pause(after)])
      const where = `start ${k + 1} (seed ${seed}), ${signal} after ${after} ms`
      if (early) faults.push(`${where}: ended by itself with ${early.code}: ${said.trim().split('\n').pop()}`)
      const began = Date.now()
      child.kill(signal)
      await over
      if (signal !== 'SIGKILL') {
        const left = await gone(folder, GONE_MS, before)
        slowestEndMs = Math.max(slowestEndMs, Date.now() - began)
        if (left.length > 0) faults.push(`${where}: left are ${left.map(named).join('; ')}`)
        for (const pid of left) process.kill(pid, 'SIGKILL')
      } else await pause(Math.floor(random() * 400))
    }
    const last = start()
    let told = ''
    last.stdout.on('data', (part) => (told += part))
    last.stderr.on('data', (part) => (told += part))
    const served = await serves(last, 120_000)
    if (!served) faults.push(`the last start does not serve (seed ${seed}); it said: ${told.trim().slice(-600)}`)
    last.kill('SIGINT')
    await new Promise((resolve) => last.on('exit', resolve))
    const left = await gone(folder, GONE_MS)
    if (left.length > 0) faults.push(`left at the end are ${left.map(named).join('; ')}`)
    return { starts: times, served, faults, slowestEndMs }
  } finally {
    for (const pid of processesOf(folder)) process.kill(pid, 'SIGKILL')
    if (existsSync(folder)) rmSync(folder, { recursive: true, force: true })
  }
}

export async function runStarts(words: string[]): Promise<boolean> {
  const seed = seedOf(words[1])
  const report = await attackStarts(Number(words[0] ?? 100), seed)
  process.stdout.write(
    `${report.starts} starts ended at random moments (seed ${seed}): ${report.faults.length} faults; slowest end asked for ${report.slowestEndMs} ms; a start after them ${report.served ? 'serves' : 'DOES NOT SERVE'}\n`,
  )
  for (const fault of report.faults) process.stdout.write(`  ${fault}\n`)
  return report.faults.length === 0
}
