/** A small share of each attack, with the other tests; `npm run attack` runs all of them. */
import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { expect, it } from 'vitest'
import { commandLine, pause } from '../../scripts/processes.mjs'
import { childrenOf } from './processes'
import { attackStarts } from './starts'
import { storm } from './storm'

const SEED = Date.now() % 1_000_000_000
const ROOT = path.resolve(import.meta.dirname, '../..')

it(`starts that are ended at random moments leave something the next one copes with (seed ${SEED})`, async () => {
  const report = await attackStarts(7, SEED)
  expect(report.faults).toEqual([])
  expect(report.served).toBe(true)
}, 240_000)

it(`a crowd at one level and a database that dies twice lose and double nothing (seed ${SEED})`, async () => {
  const report = await storm(6, 12, SEED)
  expect(report.faults).toEqual([])
  expect(report.acknowledged).toBeGreaterThan(20)
}, 120_000)

/** `npm start` in a folder of its own, and what it said. */
async function started(env: Record<string, string>) {
  const folder = mkdtempSync(path.join(tmpdir(), 'tidytrail-started-'))
  const port = String(4_500 + (process.pid % 400))
  const child: ChildProcess = spawn(process.execPath, [path.join(ROOT, 'scripts/start.mjs')], {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, TIDYTRAIL_DATA: folder, TIDYTRAIL_PORT: port, ...env },
  })
  const told = { said: '' }
  child.stdout!.on('data', (part) => (told.said += part))
  child.stderr!.on('data', (part) => (told.said += part))
  const over = new Promise<number | null>((resolve) => child.on('exit', (code) => resolve(code)))
  const url = `http://127.0.0.1:${env.TIDYTRAIL_PORT ?? port}`
  const serves = async () => {
    for (let k = 0; k < 600 && child.exitCode === null; k++) {
      if (
        await fetch(`${url}/api/health`).then(
          (r) => r.ok,
          () => false,
        )
      )
        return true
      await pause(100)
    }
    return false
  }
  const childOf = (words: string) => childrenOf(child.pid!).find((pid) => commandLine(pid).join(' ').includes(words))!
  return { child, told, over, serves, childOf, done: () => rmSync(folder, { recursive: true, force: true }) }
}

it('a server or database that dies is told of and started again, and Ctrl+C ends it all', async () => {
  const start = await started({})
  try {
    expect(await start.serves()).toBe(true)
    process.kill(start.childOf('server/src/main.ts'), 'SIGKILL')
    await saidSoon(start.told, /the server ended by SIGKILL; starting it again/)
    expect(await start.serves()).toBe(true)
    process.kill(start.childOf('mariadbd'), 'SIGKILL')
    await saidSoon(start.told, /the database ended by SIGKILL; starting it again/)
    await saidSoon(start.told, /the database is back/)
    expect(await start.serves()).toBe(true)
    start.child.kill('SIGINT')
    expect(await start.over).toBe(0)
    expect(childrenOf(start.child.pid!)).toEqual([])
  } finally {
    start.child.kill('SIGKILL')
    start.done()
  }
}, 240_000)

it('a start whose port is taken says so once, and ends', async () => {
  const taken = createServer().listen(0, '127.0.0.1')
  await new Promise((resolve) => taken.once('listening', resolve))
  const { port } = taken.address() as { port: number }
  const start = await started({ TIDYTRAIL_PORT: String(port) })
  try {
    expect(await start.over).toBe(1)
    expect(start.told.said).toContain(`port ${port} is taken; set TIDYTRAIL_PORT`)
    expect(start.told.said).not.toContain('starting it again')
  } finally {
    taken.close()
    start.done()
  }
}, 120_000)

/** Waits until something was said. */
async function saidSoon(told: { said: string }, what: RegExp): Promise<void> {
  for (let k = 0; k < 300 && !what.test(told.said); k++) await pause(100)
  expect(told.said).toMatch(what)
}
