import { pointerKeys, valueAt, type PatchOp } from './patch'
import { visitReferences } from './references'

/** A place two patches disagree about: what each would have there; undefined where it has nothing. */
export interface Clash {
  readonly path: string
  readonly mine: unknown
  readonly theirs: unknown
}

const valueOf = (op: PatchOp, path: string): unknown =>
  op.op === 'remove' ? undefined : valueAt(op.value, pointerKeys(path.slice(op.path.length)))

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
    put(byPath, op.path, op)
    for (let cut = op.path.lastIndexOf('/'); cut > 0; cut = op.path.lastIndexOf('/', cut - 1))
      put(above, op.path.slice(0, cut), op)
  }
  for (const op of mine) {
    for (const other of above.get(op.path) ?? [])
      add({ path: other.path, mine: valueOf(op, other.path), theirs: valueOf(other, other.path) })
    for (let cut = op.path.length; cut > 0; cut = op.path.lastIndexOf('/', cut - 1))
      for (const other of byPath.get(op.path.slice(0, cut)) ?? [])
        add({ path: op.path, mine: valueOf(op, op.path), theirs: valueOf(other, op.path) })
  }
  const gone = removedBy(theirs)
  const taken = removedBy(mine)
  if (gone.size > 0)
    for (const [to, at, id] of referencesIn(mine)) if (gone.has(to)) add({ path: at, mine: id, theirs: undefined })
  if (taken.size > 0)
    for (const [to, at, id] of referencesIn(theirs)) if (taken.has(to)) add({ path: at, mine: undefined, theirs: id })
  return [...clashes.values()]
}
