/** For tests: a server and a browser's store that are there in a moment, and can fail in all the ways those can. */
import {
  applyPatch,
  assertEdited,
  blankLevel,
  patchesTouch,
  renameLevel,
  type Level,
  type PatchOp,
} from '@tidytrail/core/level'
import { ApiProblem, NoConnection } from '../api/client'
import type { Aside, Batch } from './outbox'

/** A server in a few lines: one level, its revisions, and the ways in which it can fail. */
export const server = {
  level: blankLevel('Kept') as Level,
  revisions: [] as { revision: number; savedAt: string; editId: string; patch: PatchOp[] }[],
  down: false,
  full: false,
  gone: false,
  loseAnswers: 0,
  saves: 0,
}
/** A browser's store: what survives the tab. */
export const outbox = { batches: new Map<string, Batch>(), leftovers: [] as Batch[], aside: new Map<string, Aside>() }

export const problem = (status: number, detail: string, more = {}) =>
  new ApiProblem({ type: 'about:blank', title: '', status, detail, ...more })
export const reach = () => {
  if (server.down) throw new NoConnection()
  if (server.gone) throw problem(404, 'there is no such level')
}
export const copyOf = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

/** As the real one: on top of an older revision when it touches nothing that has changed since, and once. */
export function save(revision: number, editId: string, ops: PatchOp[]) {
  reach()
  server.saves++
  if (server.full) throw problem(507, 'the disk is full')
  const known = server.revisions.find((r) => r.editId === editId)
  if (known) return { id: 'lv_test', revision: known.revision, others: null }
  const others = server.revisions.filter((r) => r.revision > revision)
  if (others.some((r) => patchesTouch(ops, r.patch)))
    throw problem(412, 'stale', { revision: server.revisions.length + 1, changes: copyOf(others) })
  if (ops.some((o) => o.path === '/forbidden' || ('value' in o && o.value === 'forbidden')))
    throw problem(422, 'note: is not allowed')
  let next
  try {
    next = applyPatch(server.level, ops)
    assertEdited(next, ops)
  } catch (error) {
    throw others.length > 0
      ? problem(412, 'stale', { revision: server.revisions.length + 1, changes: copyOf(others) })
      : problem(422, (error as Error).message)
  }
  server.level = next
  server.revisions.push({ revision: server.revisions.length + 2, savedAt: '', editId, patch: copyOf(ops) })
  if (server.loseAnswers-- > 0) throw new NoConnection()
  return { id: 'lv_test', revision: server.revisions.length + 1, others: copyOf(others) }
}

export const rename = (name: string) => renameLevel.apply(blankLevel('x'), { name }).patch

export const note = (text: string): PatchOp[] => [{ op: 'replace', path: '/note', value: text }]

/** Somebody else saves. */
export const elsewhere = (ops: PatchOp[], id = `else-${server.revisions.length}`) =>
  save(server.revisions.length + 1, id, ops)

export const batch = (id: string, ops: PatchOp[], base = 1): Batch => ({ id, label: 'Left', ops, base, sent: true })
