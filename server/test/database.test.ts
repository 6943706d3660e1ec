import { mkdirSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { spawn, spawnSync } from 'node:child_process'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { blankLevel } from '@tidytrail/core/level'
import { createConnection } from 'mariadb'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { startDatabase, type RunningDatabase } from '../../scripts/database.mjs'
import { isAlive, takeLock } from '../../scripts/processes.mjs'
import { databaseFault } from '../src/http/problem'
import { connect, openDatabase } from '../src/store/database'
import { LevelStore } from '../src/store/levels'

let folder: string
let mariadb: RunningDatabase
beforeAll(async () => {
  folder = mkdtempSync(path.join(tmpdir(), 'tidytrail-db-'))
  mariadb = await startDatabase(folder)
})
afterAll(async () => {
  await mariadb?.stop()
  rmSync(folder, { recursive: true, force: true })
})

const add = (store: LevelStore, name: string) => store.add(name, JSON.stringify(blankLevel(name)), [])
const textOf = async (store: LevelStore, id: string) =>
  JSON.parse(new TextDecoder().decode((await store.read(id)).document))
const secretOf = (dir: string) => readFileSync(path.join(dir, 'mariadb/secret'), 'utf8').trim()

describe('the private database', () => {
  it('is migrated once, however many servers start at the same moment', async () => {
    const opened = await Promise.all([openDatabase(mariadb.url), openDatabase(mariadb.url), openDatabase(mariadb.url)])
    const store = new LevelStore(opened[0])
    expect(await store.isEmpty()).toBe(true)
    const { id } = await add(store, 'Shared')
    // What one server keeps the others see, also when they had it in memory before.
    const other = new LevelStore(opened[2])
    expect((await textOf(other, id)).name).toBe('Shared')
    await store.patch(id, 1, [{ op: 'replace', path: '/note', value: 'by the one' }], null)
    await other.patch(id, 2, [{ op: 'replace', path: '/name', value: 'by the other' }], null)
    expect(await textOf(store, id)).toMatchObject({ note: 'by the one', name: 'by the other' })
    for (const database of opened) await database.close()
  })

  it('refuses a second server over the same folder in one line', async () => {
    await expect(startDatabase(folder)).rejects.toThrow(/already running over .* set TIDYTRAIL_DATA/)
  })

  it('lets in nobody but one account, with its password, by the socket', async () => {
    const secret = secretOf(folder)
    expect(statSync(path.join(folder, 'mariadb')).mode & 0o077).toBe(0)
    expect(statSync(path.join(folder, 'mariadb/secret')).mode & 0o077).toBe(0)
    const as = (user: string, password: string) =>
      createConnection({ socketPath: mariadb.socket, user, password, connectTimeout: 2_000 })
    const door = await as('tidytrail', secret)
    const [rows] = [await door.query('SHOW GRANTS')]
    expect(JSON.stringify(rows)).not.toMatch(/FILE|SUPER|ON \*\.\* TO .* WITH GRANT|ALL PRIVILEGES ON \*\.\*/)
    await expect(door.query("SELECT 1 INTO OUTFILE '/tmp/tidytrail-out'")).rejects.toThrow(/denied/)
    await expect(door.query('SELECT * FROM mysql.global_priv')).rejects.toThrow(/denied/)
    // Nothing listens on the network.
    expect(await door.query("SHOW VARIABLES LIKE 'skip_networking'")).toMatchObject([{ Value: 'ON' }])
    await door.end()
    for (const [user, password] of [
      ['root', ''],
      ['root', secret],
      ['', ''],
      ['tidytrail', ''],
      ['tidytrail', 'x'],
      ['mariadb.sys', ''],
    ])
      await expect(as(user, password), `${user}:${password}`).rejects.toThrow()
  })

  it('keeps its levels over a restart', async () => {
    await mariadb.stop()
    mariadb = await startDatabase(folder)
    const database = await openDatabase(mariadb.url)
    const store = new LevelStore(database)
    expect(await store.list()).toHaveLength(1)
    await database.close()
  })

  it('keeps a whole copy now and then, and every change both ways', async () => {
    const database = await openDatabase(mariadb.url)
    const store = new LevelStore(database)
    const { id } = await add(store, 'Many')
    for (let k = 1; k <= 520; k++) await store.patch(id, k, [{ op: 'replace', path: '/note', value: `${k}` }], null)
    const copies = await database.models.CopyRow.findAll({ where: { levelId: id }, order: [['revision', 'ASC']] })
    expect(copies.map((c) => c.revision)).toEqual([1, 501])
    expect(JSON.parse(copies[1].document).note).toBe('500')
    const rows = await database.models.RevisionRow.findAll({ where: { levelId: id, revision: 11 } })
    expect(JSON.parse(rows[0].inverse)).toEqual([{ op: 'replace', path: '/note', value: '9' }])
    const { revisions, more } = await store.revisions(id, 519)
    expect(revisions.map((r) => r.patch)).toEqual([
      [{ op: 'replace', path: '/note', value: '519' }],
      [{ op: 'replace', path: '/note', value: '520' }],
    ])
    expect(more).toBe(false)
    // Another process works the document out from the last copy and what came after it.
    expect((await textOf(new LevelStore(database), id)).note).toBe('520')
    await database.close()
  })
})

it('a folder made by an older version is put right: its other accounts go', async () => {
  const old = mkdtempSync(path.join(tmpdir(), 'tidytrail-old-'))
  let again: RunningDatabase | undefined
  try {
    const root = path.join(old, 'mariadb')
    mkdirSync(root)
    spawnSync('mariadb-install-db', [
      '--no-defaults',
      `--datadir=${path.join(root, 'files')}`,
      '--auth-root-authentication-method=normal',
      '--user=root',
    ])
    mkdirSync(path.join(root, 'files/tidytrail'))
    writeFileSync(path.join(root, 'files/tidytrail/db.opt'), 'default-character-set=utf8mb4\n')
    again = await startDatabase(old)
    await expect(
      createConnection({ socketPath: again.socket, user: 'root', password: '', connectTimeout: 2_000 }),
    ).rejects.toThrow(/denied/)
    const database = await openDatabase(again.url)
    expect(await new LevelStore(database).isEmpty()).toBe(true)
    await database.close()
  } finally {
    await again?.stop()
    rmSync(old, { recursive: true, force: true })
  }
})

describe('a start over what an earlier one left', () => {
  it('copes with half-made files, a stale number of a stranger, and a database left running', async () => {
    const dir = mkdtempSync(path.join(tmpdir(), 'tidytrail-left-'))
    const stranger = spawn('sleep', ['60'])
    try {
      const root = path.join(dir, 'mariadb')
      mkdirSync(path.join(root, 'files/mysql'), { recursive: true })
      mkdirSync(path.join(root, 'files.123'), { recursive: true })
      writeFileSync(path.join(root, 'pid'), String(stranger.pid))
      writeFileSync(path.join(root, 'secret'), '')
      const first = await startDatabase(dir)
      expect(isAlive(stranger.pid!)).toBe(true)
      // As if its starter had been killed: the number is there, the lock is not.
      const number = readFileSync(path.join(root, 'pid'), 'utf8')
      await first.kill()
      const orphan = spawn('mariadbd', [
        '--no-defaults',
        `--datadir=${path.join(root, 'files')}`,
        '--user=root',
        '--skip-networking',
        `--socket=${path.join(dir, 'o')}`,
        `--pid-file=${path.join(root, 'pid')}`,
      ])
      while (readFileSync(path.join(root, 'pid'), { encoding: 'utf8', flag: 'a+' }) in { '': 1, [number]: 1 })
        await new Promise((r) => setTimeout(r, 50))
      const said: string[] = []
      const second = await startDatabase(dir, { say: (line) => said.push(line) })
      expect(said.join()).toContain('an earlier start left running')
      expect(isAlive(orphan.pid!)).toBe(false)
      await second.stop()
    } finally {
      stranger.kill('SIGKILL')
      rmSync(dir, { recursive: true, force: true })
    }
  })

  it('tells a process that has ended and waits to be collected from one that runs', async () => {
    const parent = spawn('python3', [
      '-c',
      'import os,time\npid=os.fork()\nif pid==0: os._exit(0)\nprint(pid,flush=True)\ntime.sleep(30)',
    ])
    const pid = Number(await new Promise((r) => parent.stdout.once('data', (d) => r(String(d)))))
    await new Promise((r) => setTimeout(r, 100))
    expect(readFileSync(`/proc/${pid}/stat`, 'utf8')).toContain(' Z ')
    expect(isAlive(pid)).toBe(false)
    expect(isAlive(parent.pid!)).toBe(true)
    parent.kill('SIGKILL')
  })

  it('holds its folder by a lock that ends with it', async () => {
    const lock = await takeLock('/some/folder')
    expect(await takeLock('/some/folder')).toEqual({ held: false, by: process.pid })
    if (lock.held) await lock.release()
    const again = await takeLock('/some/folder')
    expect(again.held).toBe(true)
    if (again.held) await again.release()
  })
})

it('says at once when the database ends by itself', async () => {
  const dir = mkdtempSync(path.join(tmpdir(), 'tidytrail-end-'))
  const told = new Promise<string>((resolve) => {
    void startDatabase(dir, { onExit: resolve }).then((db) => process.kill(db.pid, 'SIGKILL'))
  })
  expect(await told).toBe('by SIGKILL')
  rmSync(dir, { recursive: true, force: true })
})

it('a fault of the connection is told from a refusal', async () => {
  const nobody = connect(`mariadb://tidytrail:x@localhost/tidytrail?socketPath=${encodeURIComponent('/nowhere/s')}`)
  const error: unknown = await new LevelStore(nobody).isEmpty().catch((e: unknown) => e)
  expect(databaseFault(error)).toBe('no-connection')
  await nobody.close()
})
