import type { Storage } from '@tidytrail/contract'
import { Op, QueryTypes } from 'sequelize'
import type { Database } from './database'

/** How long what nobody needs any more is kept, days. */
export interface Keeping {
  /** Levels taken off the shelf, and assets no level refers to. */
  readonly deletedDays: number
  /** Single changes; older ones are kept as one whole copy a day. */
  readonly historyDays: number
}

export const DEFAULT_KEEPING: Keeping = { deletedDays: 30, historyDays: 180 }

/** Changes of a level that are never thinned, however old: as many as can be undone on a page. */
const NEVER_THINNED = 1_000
const DAY_MS = 24 * 3600 * 1000
const ROWS_AT_ONCE = 1_000

/** What is kept, and how much room it takes. */
export async function storageOf({ sequelize, models }: Database, keeping: Keeping): Promise<Storage> {
  const one = async (sql: string) =>
    (await sequelize.query<{ count: number; bytes: number | string | null }>(sql, { type: QueryTypes.SELECT }))[0]
  const [levels, revisions, copies, assets, deleted] = await Promise.all([
    one(`SELECT COUNT(*) AS count, SUM(LENGTH(c.document)) AS bytes FROM levels l JOIN copies c
           ON c.level_id = l.id AND c.revision = (SELECT MAX(revision) FROM copies WHERE level_id = l.id)
          WHERE l.deleted_at IS NULL`),
    one('SELECT COUNT(*) AS count, SUM(LENGTH(patch) + LENGTH(inverse)) AS bytes FROM revisions'),
    one('SELECT COUNT(*) AS count, SUM(LENGTH(document)) AS bytes FROM copies'),
    one('SELECT COUNT(*) AS count, SUM(bytes) AS bytes FROM assets'),
    models.LevelRow.findAll({ where: { deletedAt: { [Op.ne]: null } }, order: [['deletedAt', 'DESC']] }),
  ])
  const now = Number(levels.bytes ?? 0)
  return {
    levels: { count: Number(levels.count), bytes: now },
    history: {
      revisions: Number(revisions.count),
      bytes: Number(revisions.bytes ?? 0) + Number(copies.bytes ?? 0) - now,
    },
    assets: { count: Number(assets.count), bytes: Number(assets.bytes ?? 0) },
    deleted: deleted.map((row) => ({
      id: row.id,
      name: row.name,
      deletedAt: row.deletedAt!.toISOString(),
      goneAfter: new Date(row.deletedAt!.getTime() + keeping.deletedDays * DAY_MS).toISOString(),
    })),
  }
}

/** Throws away what nobody needs any more. @returns what was done, in words */
export async function tidy(db: Database, keeping: Keeping, now = new Date()): Promise<{ lines: string[] }> {
  const levels = await purgeLevels(db, new Date(now.getTime() - keeping.deletedDays * DAY_MS))
  const revisions = await thinHistory(db, new Date(now.getTime() - keeping.historyDays * DAY_MS))
  const assets = await purgeAssets(db, new Date(now.getTime() - keeping.deletedDays * DAY_MS))
  await purgeJobs(db, new Date(now.getTime() - keeping.deletedDays * DAY_MS), new Date(now.getTime() - DAY_MS))
  const lines: string[] = []
  const say = (n: number, one: string, many: string, rest: string) => {
    if (n > 0) lines.push(`${n} ${n === 1 ? one : many} ${rest}`)
  }
  say(levels, 'level', 'levels', `deleted over ${keeping.deletedDays} days ago thrown away`)
  say(revisions, 'change', 'changes', `over ${keeping.historyDays} days old thinned out`)
  say(assets, 'asset', 'assets', 'no level refers to thrown away')
  return { lines }
}

/** Jobs made before a time, and rehearsals of which not all came within a day. */
async function purgeJobs({ sequelize }: Database, before: Date, dayAgo: Date): Promise<void> {
  const gone = (sql: string, at: Date) => sequelize.query(sql, { replacements: [at], type: QueryTypes.DELETE })
  await gone('DELETE FROM jobs WHERE created_at < ?', before)
  await gone('DELETE FROM rehearsals WHERE whole = 0 AND created_at < ?', dayAgo)
}

/** Levels taken off the shelf before a time, with their whole history. */
async function purgeLevels({ models }: Database, before: Date): Promise<number> {
  return models.LevelRow.destroy({ where: { deletedAt: { [Op.lt]: before } } })
}

/**
 * Drops single changes made before a time, up to a whole copy from which everything later can be worked out; of the
 * copies before that one, the last of each day stays.
 */
async function thinHistory({ models }: Database, before: Date): Promise<number> {
  let dropped = 0
  for (const { id, revision } of await models.LevelRow.findAll({ attributes: ['id', 'revision'] })) {
    const base = await models.CopyRow.findOne({
      attributes: ['revision'],
      where: { levelId: id, savedAt: { [Op.lt]: before }, revision: { [Op.lte]: revision - NEVER_THINNED } },
      order: [['revision', 'DESC']],
    })
    if (!base) continue
    for (let gone = ROWS_AT_ONCE; gone === ROWS_AT_ONCE; dropped += gone) {
      const where = { levelId: id, revision: { [Op.lte]: base.revision } }
      gone = await models.RevisionRow.destroy({ where, limit: ROWS_AT_ONCE })
    }
    const copies = await models.CopyRow.findAll({
      attributes: ['revision', 'savedAt'],
      where: { levelId: id, revision: { [Op.lt]: base.revision } },
      order: [['revision', 'DESC']],
    })
    const days = new Set<string>()
    for (const copy of copies) {
      const day = copy.savedAt.toISOString().slice(0, 10)
      if (days.has(day)) await models.CopyRow.destroy({ where: { levelId: id, revision: copy.revision } })
      days.add(day)
    }
  }
  return dropped
}

/** Assets that came before a time and that no document, copy or change on record names. */
async function purgeAssets({ models, sequelize }: Database, before: Date): Promise<number> {
  const old = await models.AssetRow.findAll({ attributes: ['hash'], where: { createdAt: { [Op.lt]: before } } })
  const unused = new Set(old.map((row) => row.hash))
  const strike = (text: string) => {
    for (const [hash] of text.matchAll(/[0-9a-f]{64}/g)) unused.delete(hash)
  }
  if (unused.size === 0) return 0
  const copies = await models.CopyRow.findAll({ attributes: ['levelId', 'revision'] })
  for (const { levelId, revision } of copies)
    strike((await models.CopyRow.findOne({ where: { levelId, revision } }))?.document ?? '')
  // Only changes that name an asset at all are read.
  const naming = await models.RevisionRow.findAll({
    attributes: ['levelId', 'revision'],
    where: sequelize.literal("(patch LIKE '%assetId%' OR inverse LIKE '%assetId%')"),
  })
  for (const { levelId, revision } of naming) {
    const row = await models.RevisionRow.findOne({ where: { levelId, revision } })
    strike(`${row?.patch} ${row?.inverse}`)
  }
  let gone = 0
  for (const hash of unused) {
    // A save that refers to it meanwhile holds its row, and is then looked at before the row goes.
    gone += await sequelize.transaction(async (transaction) => {
      const row = await models.AssetRow.findByPk(hash, { transaction, lock: transaction.LOCK.UPDATE })
      const [named] = await sequelize.query(`SELECT 1 FROM revisions WHERE saved_at >= ? AND patch LIKE ? LIMIT 1`, {
        replacements: [before, `%${hash}%`],
        type: QueryTypes.SELECT,
        transaction,
      })
      if (!row || named) return 0
      await row.destroy({ transaction })
      return 1
    })
  }
  return gone
}
