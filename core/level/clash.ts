import { pointerKeys, valueAt, writtenPath, type PatchOp } from './pointer'
import { visitReferences } from './references'

/** A place two patches disagree about: what each would have there; undefined where it has nothing. */
export interface Clash {
  readonly path: string
  readonly mine: unknown
  readonly theirs: unknown
}

/** What an operation leaves at a place within the one it writes; of a list it adds to, what it adds. */
const valueOf = (op: PatchOp, path: string): unknown => {
  if (op.op === 'remove') return undefined
  return path.length < op.path.length ? op.value : valueAt(op.value, pointerKeys(path.slice(op.path.length)))
}

/** The places `/collection/id` a patch takes out. */
const removedBy = (ops: readonly PatchOp[]): Set<string> =>
  new Set(ops.flatMap((op) => (op.op === 'remove' && op.path.split('/').length === 3 ? [op.path] : [])))

/** References a patch makes: the place of the thing that is named, by the place that names it. */
function* referencesIn(ops: readonly PatchOp[]): Generator<[to: string, at: string, id: string]> {
  for (const op of ops) {
    if (op.op === 'remove') continue
    const found: [string, string, string][] = []
    visitReferences(pointerKeys(op.path), op.value, (to, id, at) =>
      found.push([`/${to}/${id}`, `/${at().replaceAll('.', '/')}`, id]),
    )
    yield* found
  }
}

/**
 * Where two patches made on the same level cannot both be had without one being lost: they write the same place, or one
 * refers to what the other takes out.
 * @param most so many are told at most
 */
export function clashesOf(mine: readonly PatchOp[], theirs: readonly PatchOp[], most = 50): Clash[] {
  const clashes = new Map<string, Clash>()
  const add = (clash: Clash) => {
    if (clashes.size < most) clashes.set(clash.path, clash)
  }
  const byPath = new Map<string, PatchOp[]>()
  const above = new Map<string, PatchOp[]>()
  const put = (map: Map<string, PatchOp[]>, path: string, op: PatchOp) => {
    const list = map.get(path)
    if (list) list.push(op)
    else map.set(path, [op])
  }
  for (const op of theirs) {
    const path = writtenPath(op)
    put(byPath, path, op)
    for (let cut = path.lastIndexOf('/'); cut > 0; cut = path.lastIndexOf('/', cut - 1))
      put(above, path.slice(0, cut), op)
  }
  for (const op of mine) {
    const path = writtenPath(op)
    for (const other of above.get(path) ?? []) {
      const at = writtenPath(other)
      add({ path: at, mine: valueOf(op, at), theirs: valueOf(other, at) })
    }
    for (let cut = path.length; cut > 0; cut = path.lastIndexOf('/', cut - 1))
      for (const other of byPath.get(path.slice(0, cut)) ?? [])
        add({ path, mine: valueOf(op, path), theirs: valueOf(other, path) })
  }
  const gone = removedBy(theirs)
  const taken = removedBy(mine)
  if (gone.size > 0)
    for (const [to, at, id] of referencesIn(mine)) if (gone.has(to)) add({ path: at, mine: id, theirs: undefined })
  if (taken.size > 0)
    for (const [to, at, id] of referencesIn(theirs)) if (taken.has(to)) add({ path: at, mine: undefined, theirs: id })
  return [...clashes.values()]
}
