import { randomInt } from 'node:crypto'
import type { LevelSummary } from '@tidytrail/contract'
import { assetIdsOf, blankLevel, LevelError, readLevel, renameLevel, type Level } from '@tidytrail/core/level'
import jsonPatch, { type Operation } from 'fast-json-patch'
import { Op, type Transaction } from 'sequelize'
import { HttpProblem } from '../http/problem'
import { AssetStore } from './assets'
import type { Database } from './database'
import { sketchOf } from './sketch'
import type { LevelRow } from './models'

/** A full copy is kept with every so many revisions. */
const COPY_EVERY = 50

/** The levels in the database: every change is one transaction, and kept before it is acknowledged. */
export class LevelStore {
  private readonly summaries = new Map<string, LevelSummary>()

  private readonly assets: AssetStore
  /** Levels whose kept document is known to be whole. */
  private readonly known = new Set<string>()

  constructor(private readonly db: Database) {
    this.assets = new AssetStore(db)
  }

  /** @throws HttpProblem 422 when a level refers to assets that are not in the database */
  private async assertAssets(hashes: readonly string[]): Promise<void> {
    const missing = await this.assets.missing(hashes)
    if (missing.length === 0) return
    const more = missing.length > 1 ? ` and ${missing.length - 1} more` : ''
    throw new HttpProblem(
      422,
      `the level refers to asset ${missing[0].slice(0, 12)}…${more}, which is not here; send it first`,
    )
  }

  async list(): Promise<LevelSummary[]> {
    const { LevelRow } = this.db.models
    const rows = await LevelRow.findAll({
      attributes: ['id', 'name', 'revision', 'createdAt', 'changedAt'],
      where: { deletedAt: null },
      order: [['changedAt', 'DESC']],
    })
    return Promise.all(rows.map((row) => this.summary(row)))
  }

  /** Drawn from the document once a revision; the document is read only when it is new. */
  private async summary(row: LevelRow): Promise<LevelSummary> {
    const kept = this.summaries.get(row.id)
    if (kept && kept.revision === row.revision) return kept
    const full = await this.db.models.LevelRow.findByPk(row.id)
    const level = JSON.parse(full!.document) as Level
    const count = (record: object) => Object.keys(record).length
    const summary: LevelSummary = {
      id: full!.id,
      name: full!.name,
      revision: full!.revision,
      createdAt: full!.createdAt.toISOString(),
      changedAt: full!.changedAt.toISOString(),
      counts: {
        routes: count(level.routes),
        waypoints: count(level.waypoints),
        spawners: count(level.spawners),
        solids: count(level.solids),
      },
      sketch: sketchOf(level),
    }
    this.summaries.set(row.id, summary)
    return summary
  }

  /** The document as JSON text, with its revision. */
  async read(id: string): Promise<{ document: string; revision: number }> {
    const row = await this.db.models.LevelRow.findOne({ where: { id, deletedAt: null } })
    if (!row) throw noLevel(id)
    return { document: row.document, revision: row.revision }
  }

  async isEmpty(): Promise<boolean> {
    return (await this.db.models.LevelRow.count()) === 0
  }

  async addBlank(name: string): Promise<{ id: string; revision: number }> {
    return this.add(blankLevel(name))
  }

  async addCopy(of: string): Promise<{ id: string; revision: number }> {
    const level = readLevel(JSON.parse((await this.read(of)).document))
    const taken = new Set(
      (await this.db.models.LevelRow.findAll({ attributes: ['name'], where: { deletedAt: null } })).map((r) => r.name),
    )
    let name = `${level.name.slice(0, 180)}, copy`
    for (let n = 2; taken.has(name); n++) name = `${level.name.slice(0, 180)}, copy ${n}`
    return this.add(renameLevel.apply(level, { name }).level)
  }

  async add(level: Level): Promise<{ id: string; revision: number }> {
    await this.assertAssets(assetIdsOf(level))
    const now = new Date()
    const document = JSON.stringify(level)
    const id = newKey()
    await this.db.sequelize.transaction(async (transaction) => {
      await this.db.models.LevelRow.create(
        { id, name: level.name, revision: 1, document, createdAt: now, changedAt: now, deletedAt: null },
        { transaction },
      )
      await this.db.models.RevisionRow.create(
        { levelId: id, revision: 1, editId: null, savedAt: now, patch: '[]', inverse: '[]', document },
        { transaction },
      )
    })
    return { id, revision: 1 }
  }

  /**
   * Applies a patch to the revision it was made for.
   * @throws HttpProblem 412 when the level has moved on, 422 when the patch or what comes of it is not valid
   */
  async patch(
    id: string,
    expected: number,
    ops: Operation[],
    editId: string | null,
  ): Promise<{ id: string; revision: number }> {
    const { LevelRow, RevisionRow } = this.db.models
    return this.db.sequelize.transaction(async (transaction: Transaction) => {
      const row = await LevelRow.findOne({ where: { id, deletedAt: null }, transaction, lock: transaction.LOCK.UPDATE })
      if (!row) throw noLevel(id)
      if (editId !== null) {
        const before = await RevisionRow.findOne({
          attributes: ['revision'],
          where: { levelId: id, editId },
          transaction,
        })
        if (before) return { id, revision: before.revision }
      }
      if (row.revision !== expected) {
        throw new HttpProblem(412, `this changes revision ${expected}, but the level is at revision ${row.revision}`, {
          revision: row.revision,
        })
      }
      const before = this.whole(row)
      const level = applied(before, ops)
      const known = new Set(assetIdsOf(before))
      await this.assertAssets(assetIdsOf(level).filter((hash) => !known.has(hash)))
      const revision = row.revision + 1
      const now = new Date()
      const document = JSON.stringify(level)
      await LevelRow.update({ name: level.name, revision, document, changedAt: now }, { where: { id }, transaction })
      await RevisionRow.create(
        {
          levelId: id,
          revision,
          editId,
          savedAt: now,
          patch: JSON.stringify(ops),
          inverse: JSON.stringify(jsonPatch.compare(level, before)),
          document: revision % COPY_EVERY === 0 ? document : null,
        },
        { transaction },
      )
      return { id, revision }
    })
  }

  /**
   * The document of a row with everything in it that the schema has come to know since it was kept: what the client
   * reads, and so what its patches are for. Looked at once a level; what is saved from here on is whole.
   */
  private whole(row: LevelRow): Level {
    const document: unknown = JSON.parse(row.document)
    if (this.known.has(row.id)) return document as Level
    const level = readLevel(document)
    this.known.add(row.id)
    return level
  }

  /** The changes after a revision, oldest first. */
  async revisions(id: string, since: number) {
    const { revision } = await this.read(id)
    const rows = await this.db.models.RevisionRow.findAll({
      where: { levelId: id, revision: { [Op.gt]: since, [Op.lte]: revision } },
      order: [['revision', 'ASC']],
    })
    return rows.map((r) => ({
      revision: r.revision,
      savedAt: r.savedAt.toISOString(),
      editId: r.editId,
      patch: JSON.parse(r.patch) as unknown[],
    }))
  }

  async remove(id: string): Promise<void> {
    const [count] = await this.db.models.LevelRow.update({ deletedAt: new Date() }, { where: { id, deletedAt: null } })
    if (count === 0) throw noLevel(id)
  }

  async restore(id: string): Promise<{ id: string; revision: number }> {
    const row = await this.db.models.LevelRow.findByPk(id)
    if (!row) throw noLevel(id)
    await row.update({ deletedAt: null })
    return { id, revision: row.revision }
  }
}

const noLevel = (id: string) => new HttpProblem(404, `there is no level ${id} on the shelf`)

const KEY_LETTERS = 'abcdefghijkmnpqrstuvwxyz23456789'
const newKey = () => `lv_${Array.from({ length: 10 }, () => KEY_LETTERS[randomInt(KEY_LETTERS.length)]).join('')}`

/** The level with a patch applied and checked whole. */
function applied(before: Level, ops: Operation[]): Level {
  let document: unknown
  try {
    document = jsonPatch.applyPatch(structuredClone(before), ops, true, true, true).newDocument
  } catch (error) {
    const { index, message } = error as { index?: number; message: string }
    throw new HttpProblem(422, `the patch does not fit the level: ${message.split('\n')[0]}`, {
      at: index === undefined ? undefined : `operation ${index + 1}`,
    })
  }
  try {
    return readLevel(document)
  } catch (error) {
    if (error instanceof LevelError) throw new HttpProblem(422, error.message, { at: error.at })
    throw error
  }
}
