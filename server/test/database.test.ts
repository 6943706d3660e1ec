import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { blankLevel } from '@tidytrail/core/level'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { freePort, startDatabase, type RunningDatabase } from '../../scripts/database.mjs'
import { openDatabase } from '../src/store/database'
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

describe('the private database', () => {
  it('is migrated once, however many servers start at the same moment', async () => {
    const opened = await Promise.all([openDatabase(mariadb.url), openDatabase(mariadb.url), openDatabase(mariadb.url)])
    const store = new LevelStore(opened[0])
    expect(await store.isEmpty()).toBe(true)
    const { id } = await store.add(blankLevel('Shared'))
    // What one server keeps the others see.
    expect(JSON.parse((await new LevelStore(opened[2]).read(id)).document).name).toBe('Shared')
    for (const database of opened) await database.close()
  })

  it('refuses a second server over the same folder in one line', async () => {
    await expect(startDatabase(folder)).rejects.toThrow(/already running over .* set TIDYTRAIL_DATA/)
  })

  it('keeps its password to its owner, and its levels over a restart', async () => {
    const secret = path.join(folder, 'mariadb/secret')
    expect(statSync(secret).mode & 0o077).toBe(0)
    expect(mariadb.url).toContain(readFileSync(secret, 'utf8').trim())
    await mariadb.stop()
    mariadb = await startDatabase(folder)
    const database = await openDatabase(mariadb.url)
    expect((await new LevelStore(database).list()).map((l) => l.name)).toEqual(['Shared'])
    await database.close()
  })

  it('keeps a full copy now and then, and every change both ways', async () => {
    const database = await openDatabase(mariadb.url)
    const store = new LevelStore(database)
    const { id } = await store.add(blankLevel('Many'))
    for (let k = 1; k <= 55; k++) await store.patch(id, k, [{ op: 'replace', path: '/note', value: `${k}` }], null)
    const rows = await database.models.RevisionRow.findAll({ where: { levelId: id }, order: [['revision', 'ASC']] })
    expect(rows.filter((r) => r.document !== null).map((r) => r.revision)).toEqual([1, 50])
    expect(JSON.parse(rows[10].inverse)).toEqual([{ op: 'replace', path: '/note', value: '9' }])
    expect((await store.revisions(id, 54)).map((r) => r.patch)).toEqual([
      [{ op: 'replace', path: '/note', value: '54' }],
      [{ op: 'replace', path: '/note', value: '55' }],
    ])
    await database.close()
  })

  it('finds ports nobody listens on', async () => {
    const ports = await Promise.all([freePort(), freePort()])
    for (const port of ports) expect(port).toBeGreaterThan(1023)
    expect(ports).not.toContain(mariadb.port)
  })
})
