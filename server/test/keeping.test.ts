/** Kept for years: backups, what is thrown away and when, a full disk, and databases of older versions. */
import { createHash, randomUUID } from 'node:crypto'
import { mkdtempSync, readdirSync, readFileSync, rmSync, truncateSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { packMesh } from '@tidytrail/core/ground'
import { createConnection } from 'mariadb'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { backup } from '../src/keeping/backup'
import { restore } from '../src/keeping/restore'
import { openDatabase, type Database } from '../src/store/database'
import { LevelStore } from '../src/store/levels'
import { MIGRATIONS } from '../src/store/migrations'
import { Room } from '../src/store/room'
import { storageOf, tidy } from '../src/store/upkeep'
import { caller, connectionTo, patcher, startHarness, type Harness } from './harness'

let harness: Harness
let folder: string
/** What is free on the disk of the database, as the test has it. */
let free = Infinity
beforeAll(async () => {
  folder = mkdtempSync(path.join(tmpdir(), 'tidytrail-keep-'))
  harness = await startHarness({ room: new Room('/', 64 * 2 ** 20, async () => free) })
})
afterAll(async () => {
  await harness?.stop()
  rmSync(folder, { recursive: true, force: true })
})

const call = caller(() => harness)
const patch = patcher(call)
const blank = async (name: string) => (await call('POST', '/api/levels', { blank: { name } })).body.id as string
const note = (value: string) => [{ op: 'replace', path: '/note', value }]
const quiet = () => {}
const shelf = async () =>
  ((await call('GET', '/api/levels')).body.levels as { name: string }[]).map((l) => l.name).sort()

/** The database looked at from beside the server. */
async function beside<T>(work: (db: Database) => Promise<T>): Promise<T> {
  const db = await openDatabase(harness.mariadb.url)
  try {
    return await work(db)
  } finally {
    await db.close()
  }
}
const DAY_MS = 24 * 3600 * 1000
const inDays = (days: number) => new Date(Date.now() + days * DAY_MS)
const keeping = { deletedDays: 30, historyDays: 180 }

describe('a backup', () => {
  it('made while others write holds one moment, and comes back whole while the server serves', async () => {
    const id = await blank('Kept')
    await patch(id, 1, note('in the backup'))
    const bytes = packMesh({
      positions: Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0]),
      indices: Uint32Array.of(0, 1, 2),
    })
    const hash = createHash('sha256').update(bytes).digest('hex')
    await fetch(`${harness.url}/api/assets/${hash}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/octet-stream' },
      body: bytes as BodyInit,
    })
    const names = await shelf()
    const file = path.join(folder, 'one.sql.gz')
    await backup(harness.mariadb.url, file, quiet)

    await patch(id, 2, note('after the backup'))
    await blank('Made after it')
    await call('DELETE', `/api/levels/${id}`)
    await expect(restore(harness.mariadb.url, file, false, quiet)).rejects.toThrow(/already; add --replace/)
    expect(await shelf()).toContain('Made after it')

    const said: string[] = []
    await restore(harness.mariadb.url, file, true, (line) => said.push(line))
    expect(said.at(-1)).toMatch(/back, in the place of/)
    expect(await shelf()).toEqual(names)
    const read = await call('GET', `/api/levels/${id}`)
    expect(read.body.note).toBe('in the backup')
    expect(Buffer.from(await (await fetch(`${harness.url}/api/assets/${hash}`)).arrayBuffer())).toEqual(
      Buffer.from(bytes),
    )

    // A page that had it open before: its edits do not land on what it has not seen, though the numbers would fit.
    const now = Number(read.headers.get('etag')!.replaceAll('"', ''))
    expect(now).toBeGreaterThan(3)
    for (const seen of [1, 2, 3]) expect((await patch(id, seen, note('unseen'))).status).toBe(412)
    expect((await call('GET', `/api/levels/${id}/revisions?since=3`)).status).toBe(410)
    expect((await patch(id, now, note('seen'))).status).toBe(200)
    expect((await call('GET', `/api/levels/${id}`)).body.note).toBe('seen')
  })

  it('that is cut off, damaged or no backup is refused, and nothing changes', async () => {
    const whole = path.join(folder, 'whole.sql.gz')
    await backup(harness.mariadb.url, whole, quiet)
    const names = await shelf()
    const cut = path.join(folder, 'cut.sql.gz')
    writeFileSync(cut, readFileSync(whole))
    truncateSync(cut, readFileSync(whole).length - 60)
    const damaged = path.join(folder, 'damaged.sql.gz')
    const bytes = readFileSync(whole)
    bytes[Math.floor(bytes.length / 2)] ^= 0xff
    writeFileSync(damaged, bytes)
    const other = path.join(folder, 'other.txt')
    writeFileSync(other, 'not a backup')
    for (const file of [cut, damaged, other])
      await expect(restore(harness.mariadb.url, file, true, quiet), file).rejects.toThrow(/nothing was changed/)
    await expect(restore(harness.mariadb.url, path.join(folder, 'none'), true, quiet)).rejects.toThrow(/no file/)
    expect(await shelf()).toEqual(names)
    await expect(backup(harness.mariadb.url, whole, quiet)).rejects.toThrow(/there already/)
    await expect(backup(harness.mariadb.url, path.join(folder, 'no/such/folder'), quiet)).rejects.toThrow(
      /cannot be written/,
    )
    expect(readdirSync(folder).filter((f) => /\.\d+$/.test(f))).toEqual([])
  })
})

describe('what nobody needs any more', () => {
  it('goes after its time, with its history: deleted levels, and assets nothing names', async () => {
    const gone = await blank('Gone')
    const kept = await blank('Stays')
    const asset = async (k: number) => {
      const bytes = packMesh({
        positions: Float32Array.from([k, 0, 0, 1, 0, 0, 0, 1, k]),
        indices: Uint32Array.of(0, 1, 2),
      })
      const hash = createHash('sha256').update(bytes).digest('hex')
      const sent = await fetch(`${harness.url}/api/assets/${hash}`, {
        method: 'PUT',
        headers: { 'content-type': 'application/octet-stream' },
        body: bytes as BodyInit,
      })
      expect(sent.ok).toBe(true)
      return hash
    }
    const [loose, used, undone] = [await asset(11), await asset(12), await asset(13)]
    const mesh = (assetId: string) => ({ name: 'Deck', assetId, at: [0, 0, 0] })
    expect((await patch(kept, 1, [{ op: 'add', path: '/meshes/ms_a', value: mesh(used) }])).status).toBe(200)
    await patch(kept, 2, [{ op: 'add', path: '/meshes/ms_b', value: mesh(undone) }])
    await patch(kept, 3, [{ op: 'remove', path: '/meshes/ms_b' }])
    await call('DELETE', `/api/levels/${gone}`)

    const there = async (hash: string) => (await fetch(`${harness.url}/api/assets/${hash}`, { method: 'HEAD' })).status
    await beside(async (db) => {
      expect((await tidy(db, keeping)).lines).toEqual([])
      expect((await storageOf(db, keeping)).deleted.map((d) => d.id)).toContain(gone)
      const { lines } = await tidy(db, keeping, inDays(31))
      expect(lines.join('; ')).toMatch(/1 level deleted over 30 days ago.*no level refers to/)
    })
    expect((await call('POST', `/api/levels/${gone}/restore`)).status).toBe(404)
    expect(await there(loose)).toBe(404)
    // What can still be undone keeps what it needs.
    expect([await there(used), await there(undone)]).toEqual([200, 200])
    expect((await call('GET', `/api/levels/${kept}`)).body.meshes).toHaveProperty('ms_a')
  })

  it('is thinned out of a long history, never of what can be undone, and the level stays what it is', async () => {
    const id = await blank('Long')
    for (let from = 1; from <= 1_700; from += 50)
      await Promise.all(
        Array.from({ length: 50 }, (_, k) =>
          patch(id, from, [{ op: 'add', path: `/markers/mk_n${from + k}`, value: { name: '', at: [k, 0, 0] } }]),
        ),
      )
    const before = (await call('GET', `/api/levels/${id}`)).body
    const first = async () =>
      beside(async (db) => Number(await db.models.RevisionRow.min('revision', { where: { levelId: id } })))
    await beside((db) => tidy(db, keeping, inDays(100)))
    expect(await first()).toBe(1)
    const { lines } = await beside((db) => tidy(db, keeping, inDays(181)))
    expect(lines.join()).toMatch(/changes over 180 days old/)
    const oldest = await first()
    expect(oldest).toBeGreaterThan(500)
    expect(oldest).toBeLessThanOrEqual(1_701 - 1_000 + 1)
    // Worked out anew from what is left, by somebody who has nothing in memory.
    const again = await beside((db) => new LevelStore(db).read(id))
    expect(JSON.parse(new TextDecoder().decode(again.document))).toEqual(before)
    expect((await call('GET', `/api/levels/${id}/revisions?since=5`)).status).toBe(410)
    expect((await call('GET', `/api/levels/${id}/revisions?since=${oldest}`)).status).toBe(200)
  })

  it('and the room it takes is told', async () => {
    const { body } = await call('GET', '/api/storage')
    expect(body.levels.count).toBe((await shelf()).length)
    expect(body.levels.bytes).toBeGreaterThan(1_000)
    expect(body.history.revisions).toBeGreaterThan(1_000)
    expect(body.assets.count).toBeGreaterThanOrEqual(2)
  })
})

describe('a full disk', () => {
  beforeEach(() => {
    free = Infinity
  })
  it('refuses saves plainly, goes on reading, and takes them again once there is room', async () => {
    const id = await blank('Full')
    free = 10 * 2 ** 20
    await new Promise((r) => setTimeout(r, 600))
    const refused = await patch(id, 1, note('no room'))
    expect(refused).toMatchObject({
      status: 507,
      body: { title: 'No room left', detail: expect.stringMatching(/10 MB left.*nothing was changed/) },
    })
    expect((await call('POST', '/api/levels', { blank: { name: 'No' } })).status).toBe(507)
    expect((await call('GET', `/api/levels/${id}`)).body.note).toBe('')
    expect((await call('DELETE', `/api/levels/${id}`)).status).toBe(204)
    expect((await call('GET', '/api/health')).status).toBe(200)
    free = Infinity
    await new Promise((r) => setTimeout(r, 600))
    expect((await call('POST', `/api/levels/${id}/restore`)).status).toBe(200)
    expect((await patch(id, 1, note('room'))).status).toBe(200)
  })

  it('is asked of the file system, and counts what is about to come', async () => {
    const room = new Room(folder, 1)
    await expect(room.assertRoom()).resolves.toBeUndefined()
    await expect(room.assertRoom(2 ** 60)).rejects.toThrow(/are needed/)
    await expect(new Room(undefined, 2 ** 60).assertRoom()).resolves.toBeUndefined()
  })
})

describe('a database of an older version', () => {
  const released = path.join(import.meta.dirname, 'released')

  /** An empty database beside the others, with an account of its own. */
  async function older(dump: string, change: string[] = []): Promise<string> {
    const connection = await createConnection({ ...connectionTo(harness.mariadb), multipleStatements: true })
    await connection.query('DROP DATABASE IF EXISTS tidytrail_incoming')
    await connection.query('CREATE DATABASE tidytrail_incoming CHARACTER SET utf8mb4')
    await connection.query('USE tidytrail_incoming')
    await connection.query(readFileSync(path.join(released, dump), 'utf8'))
    for (const sql of change) await connection.query(sql)
    await connection.end()
    const at = new URL(harness.mariadb.url)
    at.pathname = '/tidytrail_incoming'
    return at.href
  }

  const LEVEL = 'lv_cc5htarzda'
  const asOfTheFirst = [
    'DROP TABLE asset_chunks',
    'DROP TABLE assets',
    "DELETE FROM migrations WHERE name LIKE '0002%'",
    `UPDATE levels SET document = JSON_REMOVE(document, '$.meshes')`,
    `UPDATE revisions SET document = JSON_REMOVE(document, '$.meshes')`,
  ]
  it.each<[string, string[]]>([
    ['0002-assets', []],
    ['0001-levels-and-revisions', asOfTheFirst],
  ])('as %s left it is opened, with its levels, changes and what was deleted', async (_what, change) => {
    const db = await openDatabase(await older('0002-assets.sql', change))
    try {
      const store = new LevelStore(db)
      expect((await store.list()).map((l) => l.id)).toEqual([LEVEL])
      const { document, revision } = await store.read(LEVEL)
      expect(revision).toBe(3)
      expect(JSON.parse(new TextDecoder().decode(document))).toMatchObject({
        name: 'Ferry landing',
        note: 'second change',
        markers: { mk_bell: { name: 'Bell' } },
      })
      expect((await store.revisions(LEVEL, 1)).revisions).toHaveLength(2)
      // A batch sent again after the upgrade is still known, by its name in the right case.
      const again = [{ op: 'replace' as const, path: '/note', value: 'second change' }]
      expect((await store.patch(LEVEL, 2, again, 'edit-two-1234')).revision).toBe(3)
      expect((await store.patch(LEVEL, 3, again, 'EDIT-TWO-1234')).revision).toBe(4)
      expect((await storageOf(db, keeping)).deleted.map((d) => d.name)).toEqual(['Taken off'])
    } finally {
      await db.close()
    }
  })

  it('whose upgrade was killed half way is upgraded to the end by the next start', async () => {
    // After any number of the statements of any migration: as if each had been the last that came through.
    const statements = 9
    for (let stop = 0; stop <= statements; stop++) {
      const url = await older('0002-assets.sql')
      const db = await openDatabaseKilledAfter(url, stop)
      await db.close()
      const whole = await openDatabase(url)
      try {
        expect(
          JSON.parse(new TextDecoder().decode((await new LevelStore(whole).read(LEVEL)).document)).note,
          `${stop}`,
        ).toBe('second change')
      } finally {
        await whole.close()
      }
    }
  })

  /** Runs the last migration, but only so many of its statements. */
  async function openDatabaseKilledAfter(url: string, statements: number): Promise<Database> {
    const { connect } = await import('../src/store/database')
    const db = connect(url, 1)
    let done = 0
    const query = db.sequelize.query.bind(db.sequelize) as (...args: unknown[]) => Promise<unknown>
    const context = db.sequelize.getQueryInterface()
    db.sequelize.query = (async (...args: unknown[]) => {
      if (/^\s*(CREATE|INSERT|ALTER)/i.test(String(args[0])) && done++ >= statements) throw new Error('killed')
      return query(...args)
    }) as never
    const last = MIGRATIONS.at(-1)!
    await (last.up as (of: unknown) => Promise<void>)({ context, name: last.name }).catch((error: Error) => {
      if (error.message !== 'killed') throw error
    })
    return db
  }
})

it('edits go into a level once also across a backup that is brought back', async () => {
  const id = await blank('Once')
  const editId = randomUUID()
  await patch(id, 1, note('first'), { 'x-edit-id': editId })
  const file = path.join(folder, 'once.sql.gz')
  await backup(harness.mariadb.url, file, quiet)
  await restore(harness.mariadb.url, file, true, quiet)
  expect((await patch(id, 1, note('first'), { 'x-edit-id': editId })).body.revision).toBe(2)
})
