import type { Revision } from '@tidytrail/contract'
import { Ledger, LevelError, readLevel, type PatchOp } from '@tidytrail/core/level'
import { Op, type Transaction } from 'sequelize'
import type { Database } from './database'

/**
 * A whole copy is made once there are so many revisions since the last one, more of them for a large level, or once
 * their text is so much of the level's.
 */
const COPY_AFTER_REVISIONS = 500
const COPY_LETTERS_A_REVISION = 2_000
const COPY_AFTER_SHARE = 0.5
const COPY_AFTER_LETTERS = 256 * 1024
/** Letters of level text whose ledgers stay in memory, all levels together; the one in use always does. */
const HELD_LETTERS = 64 * 1024 * 1024
/** Revisions remembered beside a ledger, and the letters of their patches. */
const RECENT = 400
const RECENT_LETTERS = 4 * 1024 * 1024
/** How far behind a patch may be. */
const MOST_BEHIND = 5_000

/** An accepted change, as it is remembered. */
export interface Kept extends Revision {
  readonly letters: number
}

/** A level in memory: the document at one revision, and what led to it of late. */
export interface Held {
  readonly ledger: Ledger
  revision: number
  /** Letters of the document's text, kept up by what patches add and take away. */
  letters: number
  recent: Kept[]
  recentLetters: number
  /** Since the last whole copy. */
  revisionsSince: number
  lettersSince: number
}

/** The documents of levels in use, in memory, each at the revision the database was at when it was last looked at. */
export class HeldLevels {
  private readonly held = new Map<string, Held>()

  constructor(private readonly db: Database) {}

  /** Lets go of a level that may no longer be what the database has. */
  forget(id: string): void {
    this.held.delete(id)
  }

  /** What changed after a revision, oldest first; undefined when that is not known or too long ago. */
  async since(id: string, held: Held, base: number, transaction: Transaction): Promise<Kept[] | undefined> {
    const behind = held.revision - base
    if (behind === 0) return []
    if (behind < 0 || behind > MOST_BEHIND) return undefined
    if (behind <= held.recent.length) return held.recent.slice(-behind)
    const all = await this.fetchRevisions(id, base, held.revision, transaction)
    return all.length === behind ? all : undefined
  }

  async fetchRevisions(id: string, after: number, upTo: number, transaction?: Transaction): Promise<Kept[]> {
    const rows = await this.db.models.RevisionRow.findAll({
      attributes: ['revision', 'savedAt', 'editId', 'patch'],
      where: { levelId: id, revision: { [Op.gt]: after, [Op.lte]: upTo } },
      order: [['revision', 'ASC']],
      transaction,
    })
    return rows.map((r) => ({
      revision: r.revision,
      savedAt: r.savedAt.toISOString(),
      editId: r.editId,
      patch: JSON.parse(r.patch) as PatchOp[],
      letters: r.patch.length,
    }))
  }

  remember(held: Held, kept: Kept): void {
    held.revision = kept.revision
    held.recent.push(kept)
    held.recentLetters += kept.letters
    while (held.recent.length > 1 && (held.recent.length > RECENT || held.recentLetters > RECENT_LETTERS))
      held.recentLetters -= held.recent.shift()!.letters
    held.revisionsSince++
    held.lettersSince += kept.letters
  }

  /**
   * The level in memory, at a revision of the database: caught up by the patches since, or read from the last copy.
   * @throws LevelError when the document cannot be read
   */
  async caughtUp(id: string, revision: number, transaction?: Transaction): Promise<Held> {
    const known = this.held.get(id)
    if (known && known.revision === revision) return this.used(id, known)
    if (known && known.revision < revision) {
      const missing = await this.fetchRevisions(id, known.revision, revision, transaction)
      if (missing.length === revision - known.revision) return this.used(id, this.advance(id, known, missing))
    }
    this.held.delete(id)
    const copy = await this.db.models.CopyRow.findOne({
      where: { levelId: id, revision: { [Op.lte]: revision } },
      order: [['revision', 'DESC']],
      transaction,
    })
    if (!copy) throw new LevelError('not-valid', '', 'the document of this level is not in the database')
    const held: Held = {
      ledger: new Ledger(readLevel(JSON.parse(copy.document))),
      revision: copy.revision,
      letters: copy.document.length,
      recent: [],
      recentLetters: 0,
      revisionsSince: 0,
      lettersSince: 0,
    }
    const missing = await this.fetchRevisions(id, copy.revision, revision, transaction)
    if (missing.length !== revision - copy.revision)
      throw new LevelError(
        'not-valid',
        '',
        `revisions ${copy.revision} to ${revision} of this level are not all in the database`,
      )
    return this.used(id, this.advance(id, held, missing))
  }

  private advance(id: string, held: Held, missing: readonly Kept[]): Held {
    try {
      for (const kept of missing) {
        held.ledger.apply(kept.patch as PatchOp[])
        this.remember(held, kept)
      }
    } catch (error) {
      this.held.delete(id)
      throw error
    }
    return held
  }

  /** Keeps a level in memory, and lets go of those not used for longest. */
  private used(id: string, held: Held): Held {
    this.held.delete(id)
    this.held.set(id, held)
    let letters = 0
    for (const h of this.held.values()) letters += h.letters
    for (const [other, h] of this.held) {
      if (letters <= HELD_LETTERS || other === id) break
      this.held.delete(other)
      letters -= h.letters
    }
    return held
  }

  /** Is it time for a whole copy? */
  copyIsDue(id: string): boolean {
    const held = this.held.get(id)
    if (!held) return false
    return (
      held.revisionsSince >= Math.max(COPY_AFTER_REVISIONS, held.letters / COPY_LETTERS_A_REVISION) ||
      held.lettersSince > Math.max(COPY_AFTER_LETTERS, held.letters * COPY_AFTER_SHARE)
    )
  }

  /** Writes the whole document. The whole is looked at where each patch was only looked at as far as it reached. */
  async copy(id: string): Promise<void> {
    const held = this.held.get(id)
    if (!held) return
    const { revision } = held
    const document = JSON.stringify(held.ledger.level)
    held.letters = document.length
    held.revisionsSince = held.lettersSince = 0
    readLevel(JSON.parse(document))
    await this.db.models.CopyRow.bulkCreate([{ levelId: id, revision, savedAt: new Date(), document }], {
      ignoreDuplicates: true,
    })
  }
}
