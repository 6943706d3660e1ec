import { applyPatch, patchesTouch, type Level, type PatchOp } from '@tidytrail/core/level'
import { ApiProblem, NoConnection } from '../api/client'
import { fetchLevel, fetchRevisions, saveLevel } from '../api/levels'
import { adoptLeftovers, keepWaiting, type Batch } from './outbox'

export type KeepState = 'kept' | 'keeping' | 'no-connection' | 'conflict' | 'refused'

/** What the keeper tells about. */
export interface KeeperEvents {
  state(state: KeepState, waiting: number, revision: number): void
  /** The level changed by somebody else's doing; it already holds this tab's own waiting changes. */
  replaced(level: Level, why: string): void
  /** Both sides changed the same thing: somebody has to choose. */
  conflict(theirs: Level): void
  refused(detail: string): void
}

const GATHER_MS = 250
const RETRY_MS = [1_000, 2_000, 4_000, 8_000]

/**
 * Brings every accepted edit of one level to the server, in order and once. What is not yet accepted waits in the
 * browser's own store; a revision somebody else made is taken in when it touches other things, and otherwise asked about.
 */
export class Keeper {
  private revision = 0
  private waiting: Batch[] = []
  private sending: Promise<void> | undefined
  private timer: ReturnType<typeof setTimeout> | undefined
  private failures = 0
  private state: KeepState = 'kept'
  private closed = false
  private readonly channel = new BroadcastChannel('tidytrail-levels')

  constructor(
    readonly levelId: string,
    private readonly events: KeeperEvents,
  ) {
    this.channel.onmessage = (message: MessageEvent<{ levelId: string; revision: number }>) => {
      if (message.data.levelId === this.levelId && message.data.revision > this.revision) void this.catchUp()
    }
  }

  /** Fetches the level, with whatever an earlier tab left unsent put on top. */
  async open(): Promise<Level> {
    const { level, revision } = await fetchLevel(this.levelId)
    this.revision = revision
    let mine = level
    for (const left of await adoptLeftovers(this.levelId)) {
      const accepted = left.revision < revision ? await fetchRevisions(this.levelId, left.revision) : []
      const batches = left.batches.filter((b) => !accepted.some((r) => r.editId === b.id))
      try {
        for (const batch of batches) {
          mine = applyPatch(mine, batch.ops)
          this.waiting.push(batch)
        }
        if (batches.length > 0) this.events.replaced(mine, 'Changes that had not been kept yet are back.')
      } catch {
        this.events.refused('Changes left from an earlier visit no longer fit this level and were set aside.')
      }
    }
    await this.store()
    this.report('kept')
    if (this.waiting.length > 0) this.soon(0)
    return mine
  }

  /** Takes over a change. It is written to the browser's store at once and sent shortly after. */
  add(ops: PatchOp[]): void {
    if (ops.length === 0) return
    const last = this.waiting.at(-1)
    // The batch being sent must not change any more; a later one can still gather.
    if (last && this.waiting.length > (this.sending ? 1 : 0)) last.ops.push(...ops)
    else this.waiting.push({ id: crypto.randomUUID(), ops: [...ops] })
    void this.store()
    if (this.state === 'conflict') return
    this.report(this.state === 'no-connection' ? 'no-connection' : 'keeping')
    if (this.state !== 'no-connection') this.soon(GATHER_MS)
  }

  /** Settles a conflict: put the own changes on top of theirs, or let them go. */
  async resolve(how: 'mine' | 'theirs'): Promise<void> {
    const { level, revision } = await fetchLevel(this.levelId)
    this.revision = revision
    if (how === 'theirs') {
      this.waiting = []
      await this.store()
      this.report('kept')
      this.events.replaced(level, 'The other version was taken.')
      return
    }
    try {
      const mine = this.waiting.reduce((l, b) => applyPatch(l, b.ops), level)
      await this.store()
      this.report('keeping')
      this.events.replaced(mine, 'Your changes were put on top.')
      this.soon(0)
    } catch {
      this.events.refused('Your changes do not fit the other version; keep yours as a copy instead.')
      this.events.conflict(level)
    }
  }

  /** Lets own changes go, after they were kept elsewhere. */
  async forget(): Promise<void> {
    this.waiting = []
    await this.store()
  }

  close(): void {
    this.closed = true
    clearTimeout(this.timer)
    this.channel.close()
    if (this.waiting.length > 0 && this.state !== 'conflict') void this.flush()
  }

  private async store(): Promise<void> {
    await keepWaiting(this.levelId, { revision: this.revision, batches: this.waiting })
  }

  private report(state: KeepState): void {
    this.state = state
    this.events.state(state, this.waiting.length, this.revision)
  }

  private soon(ms: number): void {
    clearTimeout(this.timer)
    this.timer = setTimeout(() => void this.flush(), ms)
  }

  private flush(): Promise<void> {
    this.sending ??= this.sendAll().finally(() => {
      this.sending = undefined
    })
    return this.sending
  }

  private async sendAll(): Promise<void> {
    while (this.waiting.length > 0) {
      const batch = this.waiting[0]
      try {
        const saved = await saveLevel(this.levelId, this.revision, batch.id, batch.ops)
        this.revision = saved.revision
        this.waiting.shift()
        this.failures = 0
        if (!this.closed) this.channel.postMessage({ levelId: this.levelId, revision: saved.revision })
        await this.store()
        this.report(this.waiting.length > 0 ? 'keeping' : 'kept')
      } catch (error) {
        if (error instanceof NoConnection) {
          this.report('no-connection')
          if (!this.closed) this.soon(RETRY_MS[Math.min(this.failures++, RETRY_MS.length - 1)])
          return
        }
        if (error instanceof ApiProblem && error.problem.status === 412) {
          if (await this.rebase()) continue
          return
        }
        this.report('refused')
        this.events.refused(`The server did not keep the last changes: ${(error as Error).message}`)
        return
      }
    }
  }

  /** Takes in what others changed since; false when somebody has to choose first. */
  private async rebase(): Promise<boolean> {
    const theirs = await fetchRevisions(this.levelId, this.revision)
    this.waiting = this.waiting.filter((b) => !theirs.some((r) => r.editId === b.id))
    const { level, revision } = await fetchLevel(this.levelId)
    const touch = this.waiting.some((b) => theirs.some((r) => patchesTouch(b.ops, r.patch)))
    if (touch) {
      this.report('conflict')
      this.events.conflict(level)
      return false
    }
    this.revision = revision
    try {
      const mine = this.waiting.reduce((l, b) => applyPatch(l, b.ops), level)
      this.events.replaced(mine, 'Changes made elsewhere were taken in.')
    } catch {
      this.report('conflict')
      this.events.conflict(level)
      return false
    }
    await this.store()
    return true
  }

  /** Another tab kept something: take it in when nothing of one's own is under way. */
  private async catchUp(): Promise<void> {
    if (this.sending || this.waiting.length > 0 || this.state === 'conflict') return
    try {
      const { level, revision } = await fetchLevel(this.levelId)
      if (this.waiting.length > 0 || revision <= this.revision) return
      this.revision = revision
      this.report('kept')
      this.events.replaced(level, 'Changed in another tab; this one has taken it in.')
    } catch {
      // The next save will find out.
    }
  }
}
