import { createHash, randomInt } from 'node:crypto'
import { patchSchema, type LevelSummary, type Revision, type Saved } from '@tidytrail/contract'
import {
  assertShallow,
  assetIdsOf,
  LevelError,
  MAX_LEVEL_TEXT,
  pathsOf,
  placeBothTouch,
  type IncomingOp,
  type Level,
  type PatchOp,
} from '@tidytrail/core/level'
import { QueryTypes, type Transaction } from 'sequelize'
import { databaseFault, HttpProblem, lineOf } from '../http/problem'
import { validOr } from '../http/valid'
import { AssetStore } from './assets'
import type { Database } from './database'
import { HeldLevels, type Held } from './held'
import { newKey } from './key'
import type { LevelRow } from './models'
import { sketchOf } from './thumbnail'
import { asRevision, assetIdsIn, told } from './told'

/** Saves of one level that go into the database together, at most. */
const MOST_TOGETHER = 64
/** What one answer to a question about revisions holds. */
const PAGE_REVISIONS = 1_000
const PAGE_LETTERS = 16 * 1024 * 1024
const TRIES = 4

const noLevel = (id: string) => new HttpProblem(404, `there is no level ${id} on the shelf`)

/** A patch that waits for its turn. */
interface Waiting {
  readonly base: number
  readonly ops: IncomingOp[]
  readonly editId: string | null
  readonly digest: string
  resolve(saved: Saved): void
  reject(error: unknown): void
}

type Outcome = { saved: Saved } | { error: unknown }

/**
 * The levels in the database. A change is written as its patch and committed before it is acknowledged; whole copies are
 * made now and then. The documents of levels in use are kept in memory, and caught up from the patches when another
 * process has written. See docs/decisions/0008-what-is-written-when.md.
 */
export class LevelStore {
  private readonly assets: AssetStore
  private readonly held: HeldLevels
  private readonly queues = new Map<string, Waiting[]>()
  /** One thing at a time for each level. */
  private readonly turns = new Map<string, Promise<unknown>>()

  constructor(
    private readonly db: Database,
    private readonly say: (line: string) => void = () => {},
  ) {
    this.assets = new AssetStore(db)
    this.held = new HeldLevels(db)
  }

  /** The levels on the shelf, newest change first, with what is drawn of them where that is up to date. */
  async list(): Promise<{ id: string; revision: number; summary: LevelSummary | undefined }[]> {
    const rows = await this.db.sequelize.query<{
      id: string
      name: string
      revision: number
      createdAt: Date
      changedAt: Date
      summary: string | null
    }>(
      `SELECT l.id, l.name, l.revision, l.created_at AS createdAt, l.changed_at AS changedAt, s.summary
         FROM levels l LEFT JOIN summaries s ON s.level_id = l.id AND s.revision = l.revision
        WHERE l.deleted_at IS NULL ORDER BY l.changed_at DESC, l.id`,
      { type: QueryTypes.SELECT },
    )
    return rows.map((row) => ({
      id: row.id,
      revision: row.revision,
      summary: row.summary === null ? undefined : (JSON.parse(row.summary) as LevelSummary),
    }))
  }

  /** What the shelf shows of a level, drawn anew and kept. A level that cannot be read says why. */
  summary(id: string): Promise<LevelSummary> {
    return this.inTurn(id, async () => {
      const row = await this.row(id)
      let drawn: Pick<LevelSummary, 'counts' | 'sketch' | 'fault'>
      try {
        const { ledger } = await this.held.caughtUp(id, row.revision)
        const count = (record: object) => Object.keys(record).length
        const { routes, waypoints, spawners, solids } = ledger.level
        drawn = {
          counts: {
            routes: count(routes),
            waypoints: count(waypoints),
            spawners: count(spawners),
            solids: count(solids),
          },
          sketch: sketchOf(ledger.level),
          fault: null,
        }
      } catch (error) {
        if (!(error instanceof LevelError)) throw error
        drawn = {
          counts: { routes: 0, waypoints: 0, spawners: 0, solids: 0 },
          sketch: {
            extent: { minX: 0, minY: 0, maxX: 120, maxY: 80 },
            waterLevelM: null,
            heights: [],
            solids: [],
            routes: [],
          },
          fault: error.message,
        }
      }
      const summary: LevelSummary = {
        id,
        name: row.name,
        revision: row.revision,
        createdAt: row.createdAt.toISOString(),
        changedAt: row.changedAt.toISOString(),
        rehearsed: null,
        ...drawn,
      }
      await this.db.models.SummaryRow.upsert({ levelId: id, revision: row.revision, summary: JSON.stringify(summary) })
      return summary
    })
  }

  /** The document as UTF-8 JSON, with its revision. */
  read(id: string): Promise<{ document: Uint8Array; revision: number }> {
    return this.inTurn(id, async () => {
      const row = await this.row(id)
      const held = await this.held.caughtUp(id, row.revision)
      const document = new TextEncoder().encode(JSON.stringify(held.ledger.level))
      held.letters = document.byteLength
      return { document, revision: held.revision }
    })
  }

  /** The revision of a level. */
  async revision(id: string): Promise<number> {
    return (await this.row(id)).revision
  }

  async isEmpty(): Promise<boolean> {
    return (await this.db.models.LevelRow.count()) === 0
  }

  /** Puts a level that has been read on the shelf. @param document its text */
  async add(name: string, document: string, assetIds: readonly string[]): Promise<Saved> {
    return (await this.addAll([{ name, document, assetIds }]))[0]
  }

  /** Puts levels on the shelf, all or none; the last is shown first. */
  async addAll(levels: readonly { name: string; document: string; assetIds: readonly string[] }[]): Promise<Saved[]> {
    const { LevelRow, RevisionRow, CopyRow } = this.db.models
    return this.db.sequelize.transaction(async (transaction) => {
      const saved: Saved[] = []
      for (const { name, document, assetIds } of levels) {
        await this.assets.assertThere(assetIds, transaction)
        const now = new Date()
        const id = newKey()
        await LevelRow.create(
          { id, name, revision: 1, createdAt: now, changedAt: now, deletedAt: null },
          { transaction },
        )
        await RevisionRow.create(
          { levelId: id, revision: 1, editId: null, savedAt: now, patch: '[]', inverse: '[]', digest: null },
          { transaction },
        )
        await CopyRow.create({ levelId: id, revision: 1, savedAt: now, document }, { transaction })
        saved.push({ id, revision: 1, others: [] })
      }
      return saved
    })
  }

  /** A copy of a level under a name of its own. */
  async addCopy(of: string): Promise<Saved> {
    const { document } = await this.read(of)
    const level = JSON.parse(new TextDecoder().decode(document)) as Level
    const taken = new Set(
      (await this.db.models.LevelRow.findAll({ attributes: ['name'], where: { deletedAt: null } })).map((r) => r.name),
    )
    let name = `${level.name.slice(0, 180)}, copy`
    for (let n = 2; taken.has(name); n++) name = `${level.name.slice(0, 180)}, copy ${n}`
    return this.add(name, JSON.stringify({ ...level, name }), assetIdsOf(level))
  }

  /**
   * Applies a patch, as it came over the wire, to a level.
   * @param base the revision it was made on; what has changed since must be something else
   * @throws HttpProblem 412 with what changed, 422 when the patch or what comes of it is not valid
   */
  patchBytes(id: string, base: number, body: Uint8Array, editId: string | null): Promise<Saved> {
    let ops: IncomingOp[]
    try {
      assertShallow(body)
      ops = validOr(patchSchema, JSON.parse(new TextDecoder().decode(body)), 'a patch') as IncomingOp[]
    } catch (error) {
      if (error instanceof LevelError) throw new HttpProblem(400, `a patch: ${error.message}`)
      if (error instanceof SyntaxError) throw new HttpProblem(400, `the patch is not JSON`)
      throw error
    }
    return this.patch(id, base, ops, editId, createHash('sha256').update(body).digest('hex').slice(0, 32))
  }

  patch(
    id: string,
    base: number,
    ops: IncomingOp[],
    editId: string | null,
    digest = createHash('sha256').update(JSON.stringify(ops)).digest('hex').slice(0, 32),
  ): Promise<Saved> {
    return new Promise((resolve, reject) => {
      const waiting: Waiting = { base, ops, editId, digest, resolve, reject }
      const queue = this.queues.get(id)
      if (queue) queue.push(waiting)
      else {
        this.queues.set(id, [waiting])
        void this.drain(id)
      }
    })
  }

  /** Brings what waits for a level into the database, in order and as many at once as there are. */
  private async drain(id: string): Promise<void> {
    const queue = this.queues.get(id)!
    while (queue.length > 0) {
      await this.inTurn(id, async () => {
        const group = queue.splice(0, MOST_TOGETHER)
        let outcomes: Outcome[]
        try {
          outcomes = await this.commit(id, group)
        } catch (error) {
          outcomes = group.map(() => ({ error }))
        }
        for (const [i, outcome] of outcomes.entries()) {
          if ('saved' in outcome) group[i].resolve(outcome.saved)
          else group[i].reject(outcome.error)
        }
      })
      if (this.held.copyIsDue(id))
        await this.inTurn(id, () => this.held.copy(id)).catch((error) => this.say(`no copy of ${id}: ${lineOf(error)}`))
    }
    this.queues.delete(id)
  }

  private async commit(id: string, group: readonly Waiting[]): Promise<Outcome[]> {
    for (let tries = 1; ; tries++) {
      try {
        return await this.db.sequelize.transaction((transaction) => this.write(id, group, transaction))
      } catch (error) {
        // What the ledger took in never reached the database.
        this.held.forget(id)
        if (databaseFault(error) !== 'collision' || tries === TRIES) throw error
        await new Promise((resolve) => setTimeout(resolve, 10 * tries + randomInt(20)))
      }
    }
  }

  private async write(id: string, group: readonly Waiting[], transaction: Transaction): Promise<Outcome[]> {
    const [head] = await this.db.sequelize.query<{ revision: number }>(
      'SELECT revision FROM levels WHERE id = ? AND deleted_at IS NULL FOR UPDATE',
      { replacements: [id], type: QueryTypes.SELECT, transaction },
    )
    if (!head) throw noLevel(id)
    const held = await this.held.caughtUp(id, head.revision, transaction)
    const known = await this.knownEdits(id, group, transaction)
    const now = new Date()
    const rows: {
      levelId: string
      revision: number
      editId: string | null
      savedAt: Date
      patch: string
      inverse: string
      digest: string
    }[] = []
    const outcomes: Outcome[] = []
    for (const waiting of group) {
      const { editId, digest } = waiting
      const before = editId === null ? undefined : known.get(editId)
      try {
        if (before) {
          if (before.digest !== null && before.digest !== digest)
            throw new HttpProblem(422, `the edit id ${editId} was used for another change; nothing was changed`)
          // What came before it then is not told now.
          outcomes.push({ saved: { id, revision: before.revision, others: null } })
          continue
        }
        const { entry, others } = await this.accept(id, held, waiting, transaction)
        const patch = JSON.stringify(entry.patch)
        const inverse = JSON.stringify(entry.inverse)
        const revision = held.revision + 1
        rows.push({ levelId: id, revision, editId, savedAt: now, patch, inverse, digest })
        if (editId !== null) known.set(editId, { revision, digest })
        this.held.remember(held, {
          revision,
          savedAt: now.toISOString(),
          editId,
          patch: entry.patch,
          letters: patch.length,
        })
        held.letters += patch.length - inverse.length
        outcomes.push({ saved: { id, revision, others } })
      } catch (error) {
        outcomes.push({ error })
        if (!(error instanceof HttpProblem) && !(error instanceof LevelError)) throw error
      }
    }
    if (rows.length > 0) {
      await this.db.models.RevisionRow.bulkCreate(rows, { transaction })
      await this.db.sequelize.query('UPDATE levels SET name = ?, revision = ?, changed_at = ? WHERE id = ?', {
        replacements: [held.ledger.level.name, held.revision, now, id],
        transaction,
      })
    }
    return outcomes
  }

  /** Takes a patch into the ledger. @throws HttpProblem, LevelError; the ledger is then as it was */
  private async accept(id: string, held: Held, { base, ops }: Waiting, transaction: Transaction) {
    const since = await this.held.since(id, held, base, transaction)
    if (since === undefined)
      throw new HttpProblem(
        412,
        `this changes revision ${base}, but the level is at revision ${held.revision}; fetch it again`,
        { revision: held.revision },
      )
    const stale = (at: string | undefined) =>
      new HttpProblem(412, `this changes revision ${base}, and what it touches has changed since`, {
        revision: held.revision,
        at,
        ...(told(since) ? { changes: told(since)! } : {}),
      })

    const places = pathsOf(ops)
    const both = placeBothTouch(
      places,
      since.flatMap((r) => pathsOf(r.patch as PatchOp[])),
    )
    if (both !== undefined) throw stale(both)
    let entry
    try {
      entry = held.ledger.apply(ops)
    } catch (error) {
      // What it refers to or stands in may have gone since; then it is not wrong, only late.
      if (
        error instanceof LevelError &&
        since.length > 0 &&
        ['dangling-reference', 'patch-refused'].includes(error.problem)
      )
        throw stale(error.keys.length > 0 ? `/${error.keys.join('/')}` : undefined)
      throw error
    }
    try {
      const grown = held.letters + JSON.stringify(entry.patch).length - JSON.stringify(entry.inverse).length
      if (grown > MAX_LEVEL_TEXT)
        throw new HttpProblem(413, `the level would have more than ${Math.round(MAX_LEVEL_TEXT / 2 ** 20)} MB`)
      await this.assets.assertThere(assetIdsIn(entry.patch), transaction)
    } catch (error) {
      held.ledger.apply(entry.inverse)
      throw error
    }
    return { entry, others: told(since) }
  }

  private async knownEdits(id: string, group: readonly Waiting[], transaction: Transaction) {
    const ids = group.flatMap((w) => (w.editId === null ? [] : [w.editId]))
    const rows =
      ids.length === 0
        ? []
        : await this.db.models.RevisionRow.findAll({
            attributes: ['revision', 'editId', 'digest'],
            where: { levelId: id, editId: ids },
            transaction,
          })
    return new Map(rows.map((r) => [r.editId!, { revision: r.revision, digest: r.digest }]))
  }

  /** The changes after a revision, oldest first; as many as one answer holds. */
  async revisions(id: string, since: number): Promise<{ revisions: Revision[]; more: boolean }> {
    const { revision } = await this.row(id)
    const lengths = await this.db.sequelize.query<{ revision: number; letters: number }>(
      'SELECT revision, LENGTH(patch) AS letters FROM revisions WHERE level_id = ? AND revision > ? AND revision <= ? ORDER BY revision LIMIT ?',
      { replacements: [id, since, revision, PAGE_REVISIONS], type: QueryTypes.SELECT },
    )
    // With `since` 0 all that is known is asked for; otherwise all that came after.
    if (since > 0 && since < revision && lengths[0]?.revision !== since + 1)
      throw new HttpProblem(410, `what changed after revision ${since} is not known any more; fetch the level`, {
        revision,
      })
    let letters = 0
    let last = since
    for (const [i, row] of lengths.entries()) {
      letters += row.letters
      if (i > 0 && letters > PAGE_LETTERS) break
      last = row.revision
    }
    const rows = await this.held.fetchRevisions(id, since, last)
    return { revisions: rows.map(asRevision), more: last < revision && rows.length > 0 }
  }

  /** Takes a level off the shelf. @param expected the revision it must be at, where one was named */
  async remove(id: string, expected?: number): Promise<void> {
    await this.db.sequelize.transaction(async (transaction) => {
      const row = await this.db.models.LevelRow.findOne({
        where: { id, deletedAt: null },
        transaction,
        lock: transaction.LOCK.UPDATE,
      })
      if (!row) throw noLevel(id)
      if (expected !== undefined && row.revision !== expected)
        throw new HttpProblem(412, `revision ${expected} was meant, but the level is at revision ${row.revision}`, {
          revision: row.revision,
        })
      await row.update({ deletedAt: new Date() }, { transaction })
    })
    this.held.forget(id)
  }

  async restore(id: string): Promise<Saved> {
    const row = await this.db.models.LevelRow.findByPk(id)
    if (!row) throw noLevel(id)
    await row.update({ deletedAt: null })
    return { id, revision: row.revision, others: [] }
  }

  private async row(id: string): Promise<LevelRow> {
    const row = await this.db.models.LevelRow.findOne({ where: { id, deletedAt: null } })
    if (!row) throw noLevel(id)
    return row
  }

  private inTurn<T>(id: string, work: () => Promise<T>): Promise<T> {
    const turn = (this.turns.get(id) ?? Promise.resolve()).then(work)
    const settled = turn.catch(() => {})
    this.turns.set(id, settled)
    void settled.then(() => {
      if (this.turns.get(id) === settled) this.turns.delete(id)
    })
    return turn
  }
}
