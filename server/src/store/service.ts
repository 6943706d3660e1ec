import type { LevelSummary, Revision, Saved } from '@tidytrail/contract'
import { blankLevel } from '@tidytrail/core/level'
import type { NewLevel } from '../reading/reader'
import { Thread } from '../threads/thread'

const THREADS = 2
/** A request that is not read within this time, or with this memory, is not read. */
const READING_MS = 60_000
const READING_MB = 3_000

/**
 * The levels, for those who answer requests: whatever reads, writes or checks a document happens in other threads, so
 * that the one that answers never stands still. A level is always served by the same thread, which keeps its document.
 */
export class LevelService {
  private readonly threads: readonly Thread[]
  private readonly reader = new Thread(new URL('../reading/reader.worker.ts', import.meta.url), {
    memoryMb: READING_MB,
    timeoutMs: READING_MS,
    whenDied: {
      status: 413,
      detail: 'reading this takes more time or memory than there is for it; nothing was changed',
    },
  })

  constructor(databaseUrl: string) {
    this.threads = Array.from(
      { length: THREADS },
      () =>
        new Thread(new URL('./store.worker.ts', import.meta.url), {
          data: { databaseUrl },
          whenDied: { status: 503, detail: 'the store had to start again; what was under way may or may not be kept' },
        }),
    )
  }

  /** Starts the threads before somebody waits for them. */
  async ready(): Promise<void> {
    await Promise.all(this.threads.map((thread) => thread.call('ready', [])))
  }

  private of(id: string): Thread {
    let sum = 0
    for (let k = 0; k < id.length; k++) sum = (sum * 31 + id.charCodeAt(k)) >>> 0
    return this.threads[sum % this.threads.length]
  }

  /** The levels on the shelf, newest change first. */
  async list(): Promise<LevelSummary[]> {
    const rows = await this.threads[0].call<{ id: string; summary: LevelSummary | undefined }[]>('list', [])
    const all = await Promise.all(
      rows.map((row) => row.summary ?? this.of(row.id).call<LevelSummary>('summary', [row.id]).catch(goneMeanwhile)),
    )
    return all.filter((s) => s !== undefined)
  }

  /** Makes the level a request asks for. @param body the request, as it came */
  async make(body: Uint8Array<ArrayBuffer>): Promise<Saved> {
    const asked = await this.reader.call<NewLevel>('readNewLevel', [body], [body.buffer])
    if ('copyOf' in asked) return this.of(asked.copyOf).call('addCopy', [asked.copyOf])
    if ('blank' in asked) {
      const level = blankLevel(asked.blank)
      return this.threads[0].call('add', [level.name, new TextEncoder().encode(JSON.stringify(level)), []])
    }
    const { name, document, assetIds } = asked
    return this.threads[0].call('add', [name, document, assetIds], [document.buffer])
  }

  read(id: string): Promise<{ document: Uint8Array; revision: number }> {
    return this.of(id).call('read', [id])
  }

  revision(id: string): Promise<number> {
    return this.of(id).call('revision', [id])
  }

  patch(id: string, base: number, body: Uint8Array<ArrayBuffer>, editId: string | null): Promise<Saved> {
    return this.of(id).call('patchBytes', [id, base, body, editId], [body.buffer])
  }

  revisions(id: string, since: number): Promise<{ revisions: Revision[]; more: boolean }> {
    return this.of(id).call('revisions', [id, since])
  }

  remove(id: string, expected?: number): Promise<void> {
    return this.of(id).call('remove', [id, expected])
  }

  restore(id: string): Promise<Saved> {
    return this.of(id).call('restore', [id])
  }

  async close(): Promise<void> {
    await Promise.all([...this.threads, this.reader].map((thread) => thread.stop()))
  }
}

/** A level that is taken off the shelf while it is being listed is not listed. */
function goneMeanwhile(error: { status?: number }): undefined {
  if (error.status !== 404) throw error
}
