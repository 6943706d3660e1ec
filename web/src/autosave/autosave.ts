import type { Revision } from '@tidytrail/contract'
import { applyPatch, assertEdited, clashesOf, type Clash, type Level, type PatchOp } from '@tidytrail/core/level'
import { ApiProblem, isPassing } from '../api/client'
import { fetchLevel, fetchRevisions, saveLevel } from '../api/levels'
import {
  adoptLeftovers,
  dropAside,
  dropBatches,
  keepBatches,
  listAside,
  putAside,
  type Aside,
  type Batch,
} from './outbox'

export type KeepState = 'kept' | 'keeping' | 'no-connection' | 'no-room' | 'gone' | 'conflict'

/** What the autosave tells about, and asks. */
export interface KeeperEvents {
  state(state: KeepState, waiting: number, revision: number): void
  /** Others changed something else than what waits here: this goes on top of the level as it is shown. */
  others(ops: PatchOp[], why: string): void
  /** The level is another one now; it already holds this tab's own waiting changes. */
  replaced(level: Level, why: string): void
  /** What others, or the server, did to these places: steps that would undo over them have to ask first. */
  overtaken(ops: readonly PatchOp[]): void
  /** Both sides changed the same things: somebody has to choose. Undefined when that is over. */
  conflict(clashes: readonly Clash[] | undefined): void
  /** Changes the server did not take, all there are. */
  aside(all: readonly Aside[]): void
  said(text: string): void
  /** Is something being dragged, so that the level should not change under the hand? */
  busy(): boolean
}

const GATHER_MS = 250
const RETRY_MS = [1_000, 2_000, 4_000, 8_000]

/**
 * Brings every accepted edit of one level to the server, in order and once. What is not yet accepted waits in the
 * browser's own store. What others did is taken in when it is about other things, and otherwise asked about; what the
 * server does not take is set aside and shown, and what came after it is kept all the same.
 */
export class Autosave {
  /** The revision of the level as it is shown, without what waits. */
  private revision = 0
  private waiting: Batch[] = []
  /** What others changed after that revision, not yet in the level as it is shown. */
  private arrived: Revision[] = []
  private head = 0
  private setAside: Aside[] = []
  /** Batches of this tab that have arrived: their revisions are nobody else's. */
  private readonly done = new Set<string>()
  private sending: Promise<void> | undefined
  private timer: ReturnType<typeof setTimeout> | undefined
  private failures = 0
  private state: KeepState = 'kept'
  private closed = false
  private saidNoStore = false
  private readonly channel = new BroadcastChannel('tidytrail-levels')

  constructor(
    readonly levelId: string,
    private readonly events: KeeperEvents,
  ) {
    this.channel.onmessage = (message: MessageEvent<{ levelId: string; revision: number }>) => {
      if (message.data.levelId === this.levelId && message.data.revision > this.head) void this.catchUp()
    }
  }

  /** Fetches the level, with whatever an earlier tab left unsent put on top. */
  async open(): Promise<Level> {
    const { level, revision } = await fetchLevel(this.levelId)
    this.revision = this.head = revision
    this.setAside = await listAside(this.levelId)
    this.events.aside(this.setAside)
    let mine = level
    const left = await adoptLeftovers(this.levelId)
    const since = left.length > 0 ? await this.since(Math.min(...left.map((b) => b.base))) : []
    const arrived = new Set((since ?? []).map((r) => r.editId))
    await dropBatches(
      this.levelId,
      left.filter((b) => arrived.has(b.id)),
    )
    for (const batch of left.filter((b) => !arrived.has(b.id))) {
      try {
        mine = soundly(mine, batch.ops)
        this.waiting.push(batch)
      } catch (error) {
        await this.putAside(batch, `it no longer fits the level: ${(error as Error).message}`)
      }
    }
    if (this.waiting.length > 0) this.events.said('Changes that had not been kept yet are back.')
    for (const batch of left) if (arrived.has(batch.id)) this.done.add(batch.id)
    this.arrived = (since ?? []).filter((r) => !this.done.has(r.editId ?? ''))
    const clashes = this.clashes()
    if (since === undefined || clashes.length > 0) this.disagree(clashes)
    else {
      this.settled()
      await keepBatches(this.levelId, this.waiting)
      this.report(this.waiting.length > 0 ? 'keeping' : 'kept')
      if (this.waiting.length > 0) this.soon(0)
    }
    return mine
  }

  /** Takes over a change. It is written to the browser's store at once and sent shortly after. */
  add(ops: PatchOp[], label = ''): void {
    if (ops.length === 0) return
    const last = this.waiting.at(-1)
    // A batch that was sent once, with or without an answer, is never added to: the server may have it already.
    const batch: Batch =
      last && !last.sent && last.base === this.revision
        ? last
        : { id: crypto.randomUUID(), label, ops: [], base: this.revision, sent: false }
    batch.ops.push(...ops)
    if (batch !== last) this.waiting.push(batch)
    keepBatches(this.levelId, [batch]).catch(() => this.noStore())
    this.supersede(ops)
    if (this.state === 'conflict') return this.report('conflict')
    this.takeIn([], this.head)
    if (this.inConflict()) return
    const waits = ['no-connection', 'no-room', 'gone'].includes(this.state)
    this.report(waits ? this.state : 'keeping')
    if (!waits) this.soon(GATHER_MS)
  }

  /** Settles a conflict: put the own changes on top of theirs, or let those go that are about the same things. */
  async resolve(how: 'mine' | 'theirs'): Promise<void> {
    const shown = this.arrived.length
    const newer = await this.since(this.head)
    this.arrived.push(...(newer ?? []).filter((r) => !this.done.has(r.editId ?? '')))
    if (newer && newer.length > 0) this.head = newer.at(-1)!.revision
    if (shown > 0 && this.arrived.length > shown && this.clashesWith(this.arrived.slice(shown)).length > 0) {
      this.events.said('It has changed again meanwhile; look once more.')
      return this.disagree(this.clashes())
    }
    const theirs = this.arrived.flatMap((r) => r.patch as PatchOp[])
    const { level, revision } = await fetchLevel(this.levelId)
    const dropped: Batch[] = []
    if (how === 'theirs') {
      const lost: PatchOp[] = [...theirs]
      for (const batch of this.waiting) {
        if (theirs.length > 0 && clashesOf(batch.ops, lost, 1).length === 0) continue
        dropped.push(batch)
        lost.push(...batch.ops)
      }
    }
    const staying = this.waiting.filter((b) => !dropped.includes(b))
    let mine = level
    try {
      for (const batch of staying) mine = soundly(mine, batch.ops)
    } catch (error) {
      if (how === 'mine') {
        this.events.said(
          `Your changes do not fit the other version (${(error as Error).message}); keep yours as a copy instead.`,
        )
        return
      }
      // What is left of them makes no sense without the rest.
      dropped.push(...staying.splice(0))
      mine = level
    }
    await dropBatches(this.levelId, dropped)
    this.waiting = staying
    this.revision = this.head = revision
    this.arrived = []
    this.settled()
    await keepBatches(this.levelId, this.waiting)
    this.events.conflict(undefined)
    this.events.overtaken(how === 'theirs' ? [...theirs, ...dropped.flatMap((b) => b.ops)] : [])
    this.events.replaced(mine, how === 'mine' ? 'Your changes were put on top.' : 'The other version was taken.')
    this.report(this.waiting.length > 0 ? 'keeping' : 'kept')
    if (this.waiting.length > 0) this.soon(0)
  }

  /** Lets own changes go, after they were kept elsewhere. */
  async forget(): Promise<void> {
    const gone = this.waiting
    this.waiting = []
    await dropBatches(this.levelId, gone)
  }

  /** Puts changes that were set aside back into the level, to be sent once more. */
  async retry(id: string, level: Level): Promise<void> {
    const aside = this.setAside.find((a) => a.id === id)
    if (!aside) return
    const ops = [...aside.ops]
    this.events.replaced(soundly(level, ops), 'Put back.')
    this.add(ops, aside.label)
    await this.letGo(id)
  }

  /** Lets changes that were set aside go. */
  async letGo(id: string): Promise<void> {
    this.setAside = this.setAside.filter((a) => a.id !== id)
    this.events.aside(this.setAside)
    await dropAside(this.levelId, id)
  }

  /** The hand is free again: what arrived meanwhile is taken in. */
  free(): void {
    this.takeIn([], this.head)
    if (this.waiting.length > 0 && ['kept', 'keeping'].includes(this.state)) this.soon(GATHER_MS)
  }

  close(): void {
    this.closed = true
    clearTimeout(this.timer)
    this.channel.close()
    if (this.waiting.length > 0 && this.state !== 'conflict') void this.flush()
  }

  /** The browser's own store is full or shut: said once, since saving goes on without it. */
  private noStore(): void {
    if (!this.saidNoStore)
      this.events.said('This browser keeps nothing aside; changes are safe only once they are kept.')
    this.saidNoStore = true
  }

  private inConflict(): boolean {
    return this.state === 'conflict'
  }

  private report(state: KeepState): void {
    this.state = state
    this.events.state(state, this.waiting.length, this.head)
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
    while (this.waiting.length > 0 && !this.inConflict()) {
      const batch = this.waiting[0]
      if (!batch.sent) {
        batch.sent = true
        await keepBatches(this.levelId, [batch]).catch(() => this.noStore())
      }
      try {
        const saved = await saveLevel(this.levelId, batch.base, batch.id, batch.ops)
        this.failures = 0
        await this.accepted(batch, saved.revision, saved.others)
      } catch (error) {
        if (isPassing(error) || !(error instanceof ApiProblem)) return this.retryLater(error)
        if (error.problem.status === 412) {
          const changes = error.problem.changes ?? (await this.since(this.head).catch(() => undefined))
          // Without what changed nobody can say whether it is about the same things.
          if (changes === undefined) return this.disagree([])
          const { base } = batch
          this.takeIn(changes, error.problem.revision ?? this.head)
          if (this.events.busy()) return
          if (!this.inConflict()) this.settled()
          // Refused as late, and yet not late as far as can be told: somebody has to look.
          if (this.waiting[0] === batch && batch.base === base && !this.inConflict()) this.disagree([])
          continue
        }
        await this.refused(batch, error.message)
      }
    }
  }

  private retryLater(error: unknown): void {
    const status = error instanceof ApiProblem ? error.problem.status : 0
    this.report(status === 507 ? 'no-room' : status === 404 ? 'gone' : 'no-connection')
    if (!this.closed) this.soon(RETRY_MS[Math.min(this.failures++, RETRY_MS.length - 1)])
  }

  private async accepted(batch: Batch, revision: number, others: Revision[] | null): Promise<void> {
    this.done.add(batch.id)
    this.waiting = this.waiting.filter((b) => b !== batch)
    await dropBatches(this.levelId, [batch])
    if (!this.closed) this.channel.postMessage({ levelId: this.levelId, revision })
    // One that was sent before, and whose answer was lost, is not told what came before it.
    const told = others !== null && others.length === revision - batch.base - 1
    const theirs = told ? others : (await this.since(this.head))?.filter((r) => r.revision < revision)
    if (theirs === undefined) return this.fetchAnew('Changes made elsewhere were taken in.')
    // A batch sent again was kept at a revision of the past.
    if (revision > this.head) {
      this.takeIn(theirs, revision)
      // Nothing of others came between: the level as it is shown has this revision.
      if (this.arrived.length === 0) this.settled()
    }
    if (!this.inConflict()) this.report(this.waiting.length > 0 ? 'keeping' : 'kept')
  }

  /** What others changed after a revision, oldest first; undefined when that is no longer known. */
  private async since(revision: number): Promise<Revision[] | undefined> {
    const all: Revision[] = []
    for (let after = revision; ;) {
      const { revisions, more } = await fetchRevisions(this.levelId, after)
      if (revisions.length > 0 && revisions[0].revision !== after + 1) return undefined
      all.push(...revisions)
      if (!more || revisions.length === 0) return all
      after = revisions.at(-1)!.revision
    }
  }

  /** Takes in what others changed up to a revision, unless something waiting is about the same things. */
  private takeIn(theirs: readonly Revision[], head: number): void {
    // A batch of one's own among them has arrived, though its answer did not.
    const done = this.waiting.filter((b) => theirs.some((r) => r.editId === b.id))
    for (const batch of done) this.done.add(batch.id)
    const news = theirs.filter((r) => r.revision > this.head && !this.done.has(r.editId ?? ''))
    if (done.length > 0) {
      this.waiting = this.waiting.filter((b) => !done.includes(b))
      void dropBatches(this.levelId, done)
    }
    this.arrived.push(...news)
    this.head = Math.max(this.head, head)
    if (this.events.busy() || this.inConflict()) return
    if (this.arrived.length === 0) {
      if (done.length > 0 || theirs.length > 0) this.settled()
      return
    }
    const clashes = this.clashes()
    if (clashes.length > 0) return this.disagree(clashes)
    const ops = this.arrived.flatMap((r) => r.patch as PatchOp[])
    this.arrived = []
    this.settled()
    this.events.overtaken(ops)
    this.events.others(ops, 'Changes made elsewhere were taken in.')
  }

  /** The level as it is shown holds everything up to the newest revision known. */
  private settled(): void {
    this.revision = this.head
    for (const batch of this.waiting) batch.base = this.head
  }

  private clashes(): Clash[] {
    return this.clashesWith(this.arrived)
  }

  private clashesWith(revisions: readonly Revision[]): Clash[] {
    return clashesOf(
      this.waiting.flatMap((b) => b.ops),
      revisions.flatMap((r) => r.patch as PatchOp[]),
    )
  }

  private disagree(clashes: readonly Clash[]): void {
    this.report('conflict')
    this.events.conflict(clashes)
  }

  /** Sets aside what the server does not take, takes it out of the level, and goes on with the rest. */
  private async refused(batch: Batch, why: string): Promise<void> {
    await this.putAside(batch, why)
    this.waiting = this.waiting.filter((b) => b !== batch)
    await dropBatches(this.levelId, [batch])
    this.events.overtaken(batch.ops)
    await this.fetchAnew('A change could not be kept and was set aside; what came after it goes on being kept.')
  }

  private async putAside(batch: Batch, why: string): Promise<void> {
    const aside: Aside = { id: batch.id, label: batch.label || 'A change', ops: batch.ops, why }
    await putAside(this.levelId, aside)
    await dropBatches(this.levelId, [batch])
    this.setAside = [...this.setAside, aside]
    this.events.aside(this.setAside)
  }

  /** What is set aside and has since been done in another way is no longer missed. */
  private supersede(ops: readonly PatchOp[]): void {
    const written = new Set(ops.map((o) => o.path))
    for (const aside of this.setAside) if (aside.ops.every((o) => written.has(o.path))) void this.letGo(aside.id)
  }

  /** The level from the server, with what waits on top; what does not fit any more is set aside as well. */
  private async fetchAnew(why: string): Promise<void> {
    let fetched
    try {
      fetched = await fetchLevel(this.levelId)
    } catch (error) {
      this.events.said(why)
      return this.retryLater(error)
    }
    let mine = fetched.level
    for (const batch of [...this.waiting]) {
      try {
        mine = soundly(mine, batch.ops)
      } catch (error) {
        this.waiting = this.waiting.filter((b) => b !== batch)
        await this.putAside(batch, `it builds on one that could not be kept: ${(error as Error).message}`)
      }
    }
    this.revision = this.head = fetched.revision
    this.arrived = []
    this.settled()
    this.events.replaced(mine, why)
    this.report(this.waiting.length > 0 ? 'keeping' : 'kept')
  }

  /** Another tab kept something: take it in. */
  private async catchUp(): Promise<void> {
    if (this.inConflict()) return
    try {
      const theirs = await this.since(this.head)
      if (this.sending || this.inConflict()) return
      if (theirs === undefined) return await this.fetchAnew('Changed in another tab; this one has taken it in.')
      if (theirs.length === 0) return
      this.takeIn(theirs, theirs.at(-1)!.revision)
      if (!this.inConflict()) this.report(this.waiting.length > 0 ? this.state : 'kept')
    } catch {
      // The next save will find out.
    }
  }
}

/** A level with a patch on top, in which nothing refers to what is not there. @throws LevelError when it cannot be had */
function soundly(level: Level, ops: readonly PatchOp[]): Level {
  const next = applyPatch(level, ops)
  assertEdited(next, ops)
  return next
}
