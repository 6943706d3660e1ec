import { createReadStream, existsSync } from 'node:fs'
import path from 'node:path'
import { createGunzip } from 'node:zlib'
import { Op, QueryTypes, type Sequelize } from 'sequelize'
import { INCOMING, OUTGOING } from '../../../scripts/database.mjs'
import { run } from '../../../scripts/processes.mjs'
import { connect, openDatabase } from '../store/database'
import { LevelStore } from '../store/levels'
import { isWhole, TABLES } from './backup'
import { beside, clientOf, clientProgram, lastLine, nameOf, type Say } from './clients'

/**
 * Brings back what a backup holds. It is put together beside what is there, brought up to date, and takes its place in
 * one step, while the server serves. A level that is there too goes on from a revision nobody has seen: pages that have
 * it open, and servers that hold it, then see that it is another one, and no edit lands on what it was not made on.
 * @param replace may what is there be replaced?
 * @throws Error when the file is no whole backup, or something is there and may not be replaced; then nothing has changed
 */
export async function restore(url: string, source: string, replace: boolean, say: Say): Promise<void> {
  const file = path.resolve(source)
  if (!existsSync(file)) throw new Error(`there is no file ${file}`)
  if (!(await isWhole(file))) throw new Error(`${file} is no backup, or is cut off or damaged; nothing was changed`)
  const name = nameOf(url)
  const live = connect(url, 1)
  const run1 = (sql: string) => live.sequelize.query(sql)
  try {
    let there = await revisionsIn(live.sequelize, name)
    const shown = [...there.values()].filter((l) => !l.deleted).length
    if (shown > 0 && !replace)
      throw new Error(
        `there ${shown === 1 ? 'is 1 level' : `are ${shown} levels`} already; add --replace to put the backup in their place`,
      )
    for (const other of [INCOMING, OUTGOING]) {
      await run1(`DROP DATABASE IF EXISTS ${other}`)
      await run1(`CREATE DATABASE ${other} CHARACTER SET utf8mb4`)
    }
    const { args, env } = clientOf(url)
    const packed = createReadStream(file)
    const ran = await run(await clientProgram('mariadb', say), [...args, INCOMING], {
      env,
      stdin: packed.pipe(createGunzip()),
    })
    if (ran.status !== 0) throw new Error(`${file} cannot be taken in: ${lastLine(ran.output)}; nothing was changed`)

    const incoming = await openDatabase(beside(url, INCOMING))
    let count: number
    try {
      await moveOn(incoming, there)
      // That may have taken its time, and others have saved meanwhile: looked at once more, just before the change.
      there = await revisionsIn(live.sequelize, name)
      await moveOn(incoming, there)
      count = await incoming.models.LevelRow.count({ where: { deletedAt: null } })
    } finally {
      await incoming.close()
    }
    const known = new Set(await tablesOf(live.sequelize, name))
    const renames = TABLES.flatMap((t) => [
      ...(known.has(t) ? [`\`${name}\`.${t} TO ${OUTGOING}.${t}`] : []),
      `${INCOMING}.${t} TO \`${name}\`.${t}`,
    ])
    await run1(`RENAME TABLE ${renames.join(', ')}`)
    await run1(`DROP DATABASE ${INCOMING}`)
    await run1(`DROP DATABASE ${OUTGOING}`)
    say(
      `${file}: ${count} ${count === 1 ? 'level is' : 'levels are'} back${shown > 0 ? `, in the place of ${shown}` : ''}`,
    )
  } finally {
    await live.close()
  }
}

interface There {
  readonly revision: number
  readonly deleted: boolean
}

async function tablesOf(sequelize: Sequelize, name: string): Promise<string[]> {
  const rows = await sequelize.query<{ name: string }>(
    'SELECT table_name AS name FROM information_schema.tables WHERE table_schema = ?',
    { replacements: [name], type: QueryTypes.SELECT },
  )
  return rows.map((r) => r.name)
}

/** The levels a database holds, and their revisions. */
async function revisionsIn(sequelize: Sequelize, name: string): Promise<Map<string, There>> {
  if (!(await tablesOf(sequelize, name)).includes('levels')) return new Map()
  const rows = await sequelize.query<{ id: string; revision: number; deleted: number }>(
    `SELECT id, revision, deleted_at IS NOT NULL AS deleted FROM \`${name}\`.levels`,
    { type: QueryTypes.SELECT },
  )
  return new Map(rows.map((r) => [r.id, { revision: r.revision, deleted: r.deleted === 1 }]))
}

/** More than can be saved between looking at a level's revision and putting another in its place. */
const AHEAD = 1_000

/** Gives every level that is there too a revision well beyond both, with a whole copy of its document. */
async function moveOn(
  incoming: Awaited<ReturnType<typeof openDatabase>>,
  there: ReadonlyMap<string, There>,
): Promise<void> {
  const store = new LevelStore(incoming)
  const { LevelRow, CopyRow } = incoming.models
  for (const row of await LevelRow.findAll({ where: { id: { [Op.in]: [...there.keys()] } } })) {
    const { deletedAt } = row
    // Only what is on the shelf can be read.
    if (deletedAt) await row.update({ deletedAt: null })
    const document = new TextDecoder().decode((await store.read(row.id)).document)
    const revision = Math.max(row.revision, there.get(row.id)!.revision) + AHEAD
    await CopyRow.create({ levelId: row.id, revision, savedAt: new Date(), document })
    await row.update({ revision, deletedAt })
  }
}
