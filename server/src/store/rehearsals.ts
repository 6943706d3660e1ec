import {
  MOST_STRETCHES,
  STRETCH_BYTES,
  type KeptRehearsal,
  type LevelSummary,
  type RehearsalAbout,
} from '@tidytrail/contract'
import { QueryTypes } from 'sequelize'
import { HttpProblem } from '../http/problem'
import type { Database } from './database'
import { newKey } from './key'

interface Row {
  readonly id: string
  readonly about: string
  readonly createdAt: Date
}
const told = ({ id, about, createdAt }: Row): KeptRehearsal => ({
  ...(JSON.parse(about) as RehearsalAbout),
  id,
  createdAt: createdAt.toISOString(),
})

/** Rehearsals that are kept: they come and go in stretches, and are there only once all of one is. */
export class RehearsalStore {
  constructor(private readonly db: Database) {}

  private select<T extends object>(sql: string, replacements: unknown[]): Promise<T[]> {
    return this.db.sequelize.query<T>(sql, { replacements, type: QueryTypes.SELECT })
  }

  /** Begins to keep one. @throws HttpProblem 404 when there is no such level */
  async begin(levelId: string, about: RehearsalAbout): Promise<string> {
    const level = await this.db.models.LevelRow.findOne({ where: { id: levelId, deletedAt: null } })
    if (!level) throw new HttpProblem(404, `there is no level ${levelId} on the shelf`)
    const id = newKey('rh')
    await this.db.sequelize.query(
      `INSERT INTO rehearsals (id, level_id, revision, name, about, bytes, whole, created_at) VALUES (?, ?, ?, ?, ?, ?, 0, NOW(3))`,
      {
        replacements: [id, levelId, about.revision, about.name, JSON.stringify(about), about.bytes],
        type: QueryTypes.INSERT,
      },
    )
    return id
  }

  /** Takes a stretch in; sent again it is what it was sent last. @throws HttpProblem 404, 409 once it is whole, 422 */
  async put(id: string, number: number, bytes: Uint8Array): Promise<void> {
    const [row] = await this.select<{ bytes: number; whole: number }>(
      'SELECT bytes, whole FROM rehearsals WHERE id = ?',
      [id],
    )
    if (!row) throw new HttpProblem(404, `there is no rehearsal ${id}`)
    if (row.whole) throw new HttpProblem(409, 'this rehearsal is kept already, and does not change')
    const due = Math.min(STRETCH_BYTES, row.bytes - number * STRETCH_BYTES)
    if (number >= MOST_STRETCHES || due <= 0)
      throw new HttpProblem(422, `stretch ${number} lies beyond its ${row.bytes} bytes`)
    if (bytes.byteLength !== due)
      throw new HttpProblem(422, `stretch ${number} must have ${due} bytes; ${bytes.byteLength} came`)
    await this.db.sequelize.query(
      'INSERT INTO rehearsal_chunks (rehearsal_id, number, bytes) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE bytes = VALUES(bytes)',
      { replacements: [id, number, Buffer.from(bytes)], type: QueryTypes.INSERT },
    )
  }

  /** All of it has been sent: from now on it is there. @throws HttpProblem 404, 409 with the stretches that are missing */
  async finish(id: string): Promise<KeptRehearsal> {
    const [row] = await this.select<Row & { bytes: number }>(
      'SELECT id, about, bytes, created_at AS createdAt FROM rehearsals WHERE id = ?',
      [id],
    )
    if (!row) throw new HttpProblem(404, `there is no rehearsal ${id}`)
    const there = await this.select<{ number: number }>('SELECT number FROM rehearsal_chunks WHERE rehearsal_id = ?', [
      id,
    ])
    const have = new Set(there.map((r) => r.number))
    const missing = Array.from({ length: Math.ceil(row.bytes / STRETCH_BYTES) }, (_, k) => k).filter(
      (k) => !have.has(k),
    )
    if (missing.length > 0)
      throw new HttpProblem(409, `${missing.length} stretches have not come: ${missing.slice(0, 5).join(', ')}`)
    await this.db.sequelize.query('UPDATE rehearsals SET whole = 1 WHERE id = ?', {
      replacements: [id],
      type: QueryTypes.UPDATE,
    })
    return told(row)
  }

  /** Those of a level, the newest first. */
  async list(levelId: string): Promise<KeptRehearsal[]> {
    const rows = await this.select<Row>(
      `SELECT id, about, created_at AS createdAt FROM rehearsals WHERE level_id = ? AND whole = 1 ORDER BY created_at DESC, id`,
      [levelId],
    )
    return rows.map(told)
  }

  /** How the one kept last of each level came out. */
  async latest(): Promise<Map<string, NonNullable<LevelSummary['rehearsed']>>> {
    const rows = await this.select<Row & { levelId: string }>(
      `SELECT r.id, r.level_id AS levelId, r.about, r.created_at AS createdAt FROM rehearsals r
        WHERE r.whole = 1 AND NOT EXISTS (
          SELECT 1 FROM rehearsals n WHERE n.level_id = r.level_id AND n.whole = 1
             AND (n.created_at > r.created_at OR (n.created_at = r.created_at AND n.id > r.id)))`,
      [],
    )
    return new Map(
      rows.map((row) => {
        const { name, revision, verdicts, trials, createdAt } = told(row)
        const follow = verdicts.follows + verdicts.remarks
        return [
          row.levelId,
          { name, revision, keptAt: createdAt, follow, fail: verdicts.fails, trialsFail: trials.fails },
        ]
      }),
    )
  }

  /** The bytes of one, stretch by stretch. @throws HttpProblem 404 */
  async open(id: string): Promise<{ about: KeptRehearsal; bytes: AsyncGenerator<Buffer> }> {
    const [row] = await this.select<Row>(
      'SELECT id, about, created_at AS createdAt FROM rehearsals WHERE id = ? AND whole = 1',
      [id],
    )
    if (!row) throw new HttpProblem(404, `there is no rehearsal ${id}`)
    return { about: told(row), bytes: this.bytes(id) }
  }

  private async *bytes(id: string): AsyncGenerator<Buffer> {
    for (let number = 0; ; number++) {
      const [row] = await this.select<{ bytes: Buffer }>(
        'SELECT bytes FROM rehearsal_chunks WHERE rehearsal_id = ? AND number = ?',
        [id, number],
      )
      if (!row) return
      yield row.bytes
    }
  }

  async remove(id: string): Promise<void> {
    const [, gone] = await this.db.sequelize.query('DELETE FROM rehearsals WHERE id = ?', {
      replacements: [id],
      type: QueryTypes.UPDATE,
    })
    if (gone === 0) throw new HttpProblem(404, `there is no rehearsal ${id}`)
  }
}
