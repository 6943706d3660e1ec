/**
 * `npm run attack -- storm [seconds] [clients] [seed]`: many clients change one level with random edits and undos, while
 * the database is killed twice. In the end all of them have the same document as the server, and every acknowledged edit
 * is in its history once.
 */
import { randomUUID } from 'node:crypto'
import type { Revision } from '@tidytrail/contract'
import { applyPatch, clashesOf, readLevel, sameValue, type Level, type PatchOp } from '@tidytrail/core/level'
import { DEMO_LEVELS } from '@tidytrail/demo'
import { pause } from '../../scripts/processes.mjs'
import { chance, seedOf } from './random'
import { call, post, sendPatch, serve, type Served } from './served'

interface Step {
  readonly patch: PatchOp[]
  readonly inverse: PatchOp[]
}

/** One who edits: a document, the revision it is at, and what can be undone. Shares no code with the page's keeper. */
class Client {
  level!: Level
  revision = 0
  readonly acknowledged = new Set<string>()
  refused = 0
  private readonly steps: Step[] = []
  private serial = 0

  constructor(
    private readonly name: string,
    private readonly served: Served,
    private readonly levelId: string,
    private readonly random: () => number,
  ) {}

  async open(): Promise<void> {
    const response = await fetch(`${this.served.url}/api/levels/${this.levelId}`)
    this.revision = Number(response.headers.get('etag')!.replaceAll('"', ''))
    this.level = readLevel(await response.json())
  }

  private pick<T>(list: readonly T[]): T | undefined {
    return list[Math.floor(this.random() * list.length)]
  }

  /** A random change, with the way back. */
  private step(): Step | undefined {
    const at = [Math.round(this.random() * 200), Math.round(this.random() * 150), 0]
    const what = this.random()
    if (what < 0.2 && this.steps.length > 0) {
      const last = this.steps.pop()!
      return { patch: last.inverse, inverse: last.patch }
    }
    if (what < 0.5) {
      const id = this.pick(Object.keys(this.level.waypoints))!
      const path = `/waypoints/${id}/at`
      return {
        patch: [{ op: 'replace', path, value: at }],
        inverse: [{ op: 'replace', path, value: this.level.waypoints[id].at }],
      }
    }
    if (what < 0.8) {
      const path = `/markers/mk_${this.name}x${this.serial++}`
      const value = { name: this.name, at, kind: 'place', note: '', tags: [], locked: false, hidden: false }
      return { patch: [{ op: 'add', path, value }], inverse: [{ op: 'remove', path }] }
    }
    const id = this.pick(Object.keys(this.level.markers).filter((k) => k.includes(this.name)))
    if (!id) return undefined
    const path = `/markers/${id}`
    return { patch: [{ op: 'remove', path }], inverse: [{ op: 'add', path, value: this.level.markers[id] }] }
  }

  private takeIn(changes: readonly Revision[], revision: number): void {
    for (const r of changes) {
      if (r.revision <= this.revision) continue
      const theirs = r.patch as PatchOp[]
      this.level = applyPatch(this.level, theirs)
      // What others overwrote is not undone any more.
      for (let k = this.steps.length - 1; k >= 0; k--)
        if (clashesOf(this.steps[k].patch, theirs, 1).length > 0) this.steps.splice(k, 1)
    }
    this.revision = revision
  }

  async catchUp(): Promise<void> {
    for (;;) {
      const answer = await call<{ revisions: Revision[]; more: boolean }>(
        this.served.url,
        'GET',
        `/api/levels/${this.levelId}/revisions?since=${this.revision}`,
      ).catch(() => undefined)
      if (!answer || answer.status === 503) {
        await pause(200)
        continue
      }
      if (answer.status !== 200) throw new Error(`no revisions: ${answer.status}`)
      const { revisions, more } = answer.body
      if (revisions.length > 0) this.takeIn(revisions, revisions.at(-1)!.revision)
      if (!more) return
    }
  }

  /** Makes one edit, sent until there is an answer. */
  async edit(): Promise<void> {
    const step = this.step()
    if (!step) return
    const editId = randomUUID()
    for (;;) {
      const base = this.revision
      const answer = await sendPatch<{ revision: number; others: Revision[] | null; changes?: Revision[] }>(
        this.served.url,
        this.levelId,
        base,
        editId,
        step.patch,
      ).catch(() => undefined)
      if (!answer || answer.status === 503) {
        await pause(100 + this.random() * 200)
        continue
      }
      if (answer.status === 200) {
        this.acknowledged.add(editId)
        const { revision, others } = answer.body
        // Sent again after a lost answer: what came between is fetched.
        if (others === null || revision <= base || others.length !== revision - base - 1) return this.catchUp()
        this.takeIn(others, revision)
        this.level = applyPatch(this.level, step.patch)
        this.steps.push(step)
        return
      }
      if (answer.status !== 412 && answer.status !== 422) throw new Error(`an answer of ${answer.status}`)
      this.refused++
      return this.catchUp()
    }
  }
}

export interface StormReport {
  readonly acknowledged: number
  readonly refused: number
  readonly faults: string[]
}

export async function storm(seconds: number, clients: number, seed: number): Promise<StormReport> {
  const served = await serve()
  const faults: string[] = []
  try {
    const id = await post(served.url, DEMO_LEVELS[0].make())
    const all = Array.from({ length: clients }, (_, k) => new Client(`c${k}`, served, id, chance(seed + k * 7919)))
    await Promise.all(all.map((c) => c.open()))
    const until = Date.now() + seconds * 1000
    const kills = (async () => {
      for (const share of [1 / 3, 2 / 3]) {
        await pause(Math.max(0, until - seconds * 1000 * (1 - share) - Date.now()))
        await served.crashDatabase()
      }
    })()
    await Promise.all(
      all.map(async (c) => {
        while (Date.now() < until) await c.edit()
      }),
    )
    await kills
    await Promise.all(all.map((c) => c.catchUp()))
    const final = readLevel((await call(served.url, 'GET', `/api/levels/${id}`)).body)
    for (const [k, c] of all.entries())
      if (!sameValue(c.level, final)) faults.push(`client ${k} has another document (seed ${seed})`)
    const inHistory = new Map<string, number>()
    for (let since = 0; ;) {
      const { revisions, more } = (
        await call<{ revisions: Revision[]; more: boolean }>(
          served.url,
          'GET',
          `/api/levels/${id}/revisions?since=${since}`,
        )
      ).body
      for (const r of revisions) if (r.editId) inHistory.set(r.editId, (inHistory.get(r.editId) ?? 0) + 1)
      if (!more) break
      since = revisions.at(-1)!.revision
    }
    let acknowledged = 0
    for (const c of all)
      for (const editId of c.acknowledged) {
        acknowledged++
        if (inHistory.get(editId) !== 1)
          faults.push(`edit ${editId} is there ${inHistory.get(editId) ?? 0} times (seed ${seed})`)
      }
    return { acknowledged, refused: all.reduce((n, c) => n + c.refused, 0), faults }
  } finally {
    await served.stop()
  }
}

export async function runStorm(words: string[]): Promise<boolean> {
  const [seconds = '120', clients = '50', seedWord] = words
  const seed = seedOf(seedWord)
  const report = await storm(Number(seconds), Number(clients), seed)
  process.stdout.write(
    `${clients} clients for ${seconds} s, the database killed twice (seed ${seed}): ${report.acknowledged} edits acknowledged, ${report.refused} refused as late, ${report.faults.length} faults\n`,
  )
  for (const fault of report.faults.slice(0, 20)) process.stdout.write(`  ${fault}\n`)
  return report.faults.length === 0
}
