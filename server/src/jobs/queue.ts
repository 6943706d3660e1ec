import type { Job } from '@tidytrail/contract'
import { QueryTypes, type Transaction } from 'sequelize'
import { HttpProblem } from '../http/problem'
import type { Database } from '../store/database'
import { newKey } from '../store/key'

export const SILENT_S = 15
/** A part that has been begun so often and never came to an end is given up, with its job. */
const MOST_TRIES = 10

/** A part of a job somebody has claimed. */
export interface Claimed {
  readonly jobId: string
  readonly number: number
  readonly kind: string
  /** Who has it; it counts only as long as that is so. */
  readonly claim: string
}

/** Where jobs come from, and who may do what of them. All of it is in the database, so that several processes share it. */
export class JobQueue {
  constructor(
    private readonly db: Database,
    /** A part nobody has given a sign of for so long is taken over, seconds. */
    readonly silentS = SILENT_S,
  ) {}

  /** Puts a job in. @param parts what each part is given, as JSON */
  async add(levelId: string, kind: string, document: string, parts: readonly unknown[]): Promise<string> {
    const id = newKey('jb')
    await this.db.sequelize.transaction(async (transaction) => {
      const run = (sql: string, replacements: unknown[]) =>
        this.db.sequelize.query(sql, { replacements, transaction, type: QueryTypes.INSERT })
      await run(
        `INSERT INTO jobs (id, level_id, kind, state, input, document, created_at) VALUES (?, ?, ?, 'waiting', ?, ?, NOW(3))`,
        [id, levelId, kind, JSON.stringify(parts), document],
      )
      for (let k = 0; k < parts.length; k += 200) {
        const some = parts.slice(k, k + 200).map((_, n) => [id, k + n])
        await run(
          `INSERT INTO job_parts (job_id, number, state, tries) VALUES ${some.map(() => "(?, ?, 'waiting', 0)").join(', ')}`,
          some.flat(),
        )
      }
    })
    return id
  }

  /**
   * Claims the next part: one that waits, or one whose worker has given no sign for too long. Rows others are looking at
   * are passed over, so that nobody waits for anybody and no part goes to two.
   */
  async claim(by: string): Promise<Claimed | undefined> {
    return this.db.sequelize.transaction(async (transaction) => {
      const [row] = await this.db.sequelize.query<{ jobId: string; number: number; kind: string; tries: number }>(
        `SELECT p.job_id AS jobId, p.number, p.tries, j.kind
           FROM job_parts p JOIN jobs j ON j.id = p.job_id
          WHERE j.state IN ('waiting', 'running')
            AND (p.state = 'waiting' OR (p.state = 'running' AND p.beat_at < NOW(3) - INTERVAL ? SECOND))
          ORDER BY j.created_at, p.number LIMIT 1 FOR UPDATE SKIP LOCKED`,
        { replacements: [this.silentS], transaction, type: QueryTypes.SELECT },
      )
      if (!row) return undefined
      if (row.tries >= MOST_TRIES) {
        await this.end(
          row.jobId,
          'failed',
          `part ${row.number + 1} was begun ${row.tries} times and never came to an end`,
          transaction,
        )
        return undefined
      }
      const claim = `${by}-${newKey('jb')}`
      await this.change(
        `UPDATE job_parts SET state = 'running', claim = ?, beat_at = NOW(3), tries = tries + 1 WHERE job_id = ? AND number = ?`,
        [claim, row.jobId, row.number],
        transaction,
      )
      await this.change(
        `UPDATE jobs SET state = 'running' WHERE id = ? AND state = 'waiting'`,
        [row.jobId],
        transaction,
      )
      return { jobId: row.jobId, number: row.number, kind: row.kind, claim }
    })
  }

  /** What a part is given. */
  async inputOf({ jobId, number }: Claimed): Promise<{ input: unknown; document: string } | undefined> {
    const [row] = await this.db.sequelize.query<{ input: string; document: string }>(
      'SELECT input, document FROM jobs WHERE id = ?',
      { replacements: [jobId], type: QueryTypes.SELECT },
    )
    return row && { input: (JSON.parse(row.input) as unknown[])[number], document: row.document }
  }

  /** A sign of life; false when the part is no longer whose it was: it is not worth going on with. */
  async beat({ jobId, number, claim }: Claimed): Promise<boolean> {
    return (
      (await this.change(
        `UPDATE job_parts SET beat_at = NOW(3) WHERE job_id = ? AND number = ? AND claim = ? AND state = 'running'`,
        [jobId, number, claim],
      )) > 0
    )
  }

  /** A part is done; false when it was taken over or its job was cancelled: then what came of it counts for nothing. */
  async finish({ jobId, number, claim }: Claimed, result: unknown): Promise<boolean> {
    return this.db.sequelize.transaction(async (transaction) => {
      // The job first, as everybody locks it first.
      const [job] = await this.db.sequelize.query<{ state: string }>('SELECT state FROM jobs WHERE id = ? FOR UPDATE', {
        replacements: [jobId],
        transaction,
        type: QueryTypes.SELECT,
      })
      if (job?.state !== 'running') return false
      const kept = await this.change(
        `UPDATE job_parts SET state = 'done', result = ?, done_at = NOW(3) WHERE job_id = ? AND number = ? AND claim = ? AND state = 'running'`,
        [JSON.stringify(result), jobId, number, claim],
        transaction,
      )
      if (kept === 0) return false
      await this.change(
        `UPDATE jobs SET state = 'done' WHERE id = ? AND NOT EXISTS (SELECT 1 FROM job_parts WHERE job_id = ? AND state <> 'done')`,
        [jobId, jobId],
        transaction,
      )
      return true
    })
  }

  /** A part came to a bad end by itself: so does its job, with why. */
  async fail({ jobId }: Claimed, why: string): Promise<void> {
    await this.end(jobId, 'failed', why)
  }

  /** Gives a part back that is not going to be done here: the next who looks may have it at once. */
  async giveBack({ jobId, number, claim }: Claimed): Promise<void> {
    await this.change(
      `UPDATE job_parts SET state = 'waiting', claim = NULL, tries = GREATEST(0, tries - 1) WHERE job_id = ? AND number = ? AND claim = ? AND state = 'running'`,
      [jobId, number, claim],
    )
  }

  /** Ends a job that is not done; what is done of it stays. */
  async cancel(id: string): Promise<void> {
    await this.end(id, 'cancelled', null)
  }

  private async end(id: string, state: string, error: string | null, transaction?: Transaction): Promise<void> {
    await this.change(
      `UPDATE jobs SET state = ?, error = ? WHERE id = ? AND state IN ('waiting', 'running')`,
      [state, error?.slice(0, 500) ?? null, id],
      transaction,
    )
  }

  /** How a job stands. @param after only what was done after so many results @throws HttpProblem 404 */
  async job(id: string, after = 0): Promise<Job> {
    const [row] = await this.db.sequelize.query<{
      kind: string
      state: string
      error: string | null
      total: number
      done: number
    }>(
      `SELECT j.kind, j.state, j.error, COUNT(p.number) AS total, SUM(p.state = 'done') AS done
         FROM jobs j LEFT JOIN job_parts p ON p.job_id = j.id WHERE j.id = ? GROUP BY j.id`,
      { replacements: [id], type: QueryTypes.SELECT },
    )
    if (!row) throw new HttpProblem(404, `there is no job ${id}`)
    const results = await this.db.sequelize.query<{ result: string }>(
      `SELECT result FROM job_parts WHERE job_id = ? AND state = 'done' ORDER BY done_at, number LIMIT 2000 OFFSET ?`,
      { replacements: [id, after], type: QueryTypes.SELECT },
    )
    return {
      id,
      kind: row.kind as Job['kind'],
      state: row.state as Job['state'],
      total: Number(row.total),
      done: Number(row.done ?? 0),
      error: row.error,
      results: results.map((r) => JSON.parse(r.result) as Job['results'][number]),
    }
  }

  private async change(sql: string, replacements: unknown[], transaction?: Transaction): Promise<number> {
    const [, count] = await this.db.sequelize.query(sql, { replacements, transaction, type: QueryTypes.UPDATE })
    return count
  }
}
