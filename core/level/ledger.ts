import { LevelError } from './error'
import { COLLECTIONS, isCollection, WITH_PARTS } from './kinds/collections'
import { operate, refused, type Operating } from './operate'
import { pointerKeys, pointerOf, valueAt, type PatchOp } from './pointer'
import { assertTame, mostThings } from './read'
import { assertOrder, references, visitReferences } from './references'
import type { Collection, Level } from './schema'
import { assertUnits, sameValue } from './units'

/** One operation of a JSON Patch (RFC 6902) as it comes in: any of the six. */
export type IncomingOp =
  PatchOp | { op: 'test'; path: string; value: unknown } | { op: 'move' | 'copy'; path: string; from: string }

/** What a patch did: as plain operations, and the way back. */
export interface Entry {
  readonly patch: PatchOp[]
  readonly inverse: PatchOp[]
}

/** Values that all copies of one patch may make together. */
const MOST_COPIED = 200_000

type Keyed = Record<string, unknown>

/**
 * A level that is changed in place by patches, each looked at no further than it reaches, so that a change costs what
 * it touches and not how large the level is. Whoever makes a ledger gives the level away.
 */
export class Ledger {
  /** How often a thing of a collection is referred to. */
  private readonly uses = new Map<Collection, Map<string, number>>()
  private readonly counts = new Map<Collection, number>()

  constructor(readonly level: Level) {
    for (const collection of COLLECTIONS) {
      this.uses.set(collection, new Map())
      this.counts.set(collection, Object.keys(level[collection]).length)
    }
    visitReferences([], level, this.used(1))
  }

  /**
   * Applies a patch, whole or not at all.
   * @throws LevelError that names the operation or the place of the first fault; the level is then as it was
   */
  apply(ops: readonly IncomingOp[]): Entry {
    const patch: PatchOp[] = []
    const inverse: PatchOp[] = []
    const change = (op: PatchOp) => {
      inverse.push(this.primitive(op))
      patch.push(op)
    }
    try {
      let copied = 0
      for (const [i, op] of ops.entries()) {
        try {
          for (const plain of this.plain(
            op,
            () => MOST_COPIED - copied,
            (n) => (copied += n),
          ))
            change(plain)
        } catch (error) {
          if (!(error instanceof LevelError) || error.problem !== 'patch-refused') throw error
          throw new LevelError('patch-refused', `operation ${i + 1}`, error.why)
        }
      }
      this.assertSound(patch, change)
    } catch (error) {
      for (const op of inverse.reverse()) this.primitive(op)
      throw error
    }
    return { patch, inverse: inverse.reverse() }
  }

  /** An operation as those a level is changed by. */
  private *plain(op: IncomingOp, left: () => number, spend: (values: number) => void): Generator<PatchOp> {
    switch (op.op) {
      case 'test': {
        const { found, value } = this.find(op.path)
        if (!found || !sameValue(value, op.value)) throw refused(`the value at ${op.path.slice(0, 80)} is another`)
        return
      }
      case 'remove':
        yield { op: 'remove', path: op.path }
        return
      case 'move': {
        if (op.path.startsWith(`${op.from}/`)) throw refused('moves a value into itself')
        const { found, value } = this.find(op.from)
        if (!found) throw refused(`there is nothing at ${op.from.slice(0, 80)}`)
        if (op.path === op.from) return
        yield { op: 'remove', path: op.from }
        yield { op: 'add', path: op.path, value }
        return
      }
      case 'copy': {
        const { found, value } = this.find(op.from)
        if (!found) throw refused(`there is nothing at ${op.from.slice(0, 80)}`)
        spend(countUpTo(value, left()))
        if (left() <= 0) throw refused(`copies more than ${MOST_COPIED.toLocaleString('en')} values`)
        yield { op: 'add', path: op.path, value }
        return
      }
      default:
        assertTame(op.value, pointerKeys(op.path).join('.'))
        yield { op: op.op, path: op.path, value: op.value }
    }
  }

  private find(path: string): { found: boolean; value?: unknown } {
    let value: unknown = this.level
    for (const key of pointerKeys(path)) {
      if (typeof value !== 'object' || value === null || !Object.hasOwn(value, key)) return { found: false }
      if (Array.isArray(value) && !/^(0|[1-9]\d*)$/.test(key)) return { found: false }
      value = (value as Keyed)[key]
    }
    return { found: true, value }
  }

  /** How changes are made: in place, with values of its own, and the books kept. */
  private readonly how: Operating = {
    open: (_holder, _key, inside) => inside,
    own: (value) => structuredClone(value),
    gone: (keys, value) => visitReferences(keys, value, this.used(-1)),
    come: (keys, value) => visitReferences(keys, value, this.used(1)),
    counted: (keys, was, is) => this.count(keys, was, is),
  }

  private primitive(op: PatchOp): PatchOp {
    const [, top] = op.path.split('/', 2)
    if (top === 'format' || top === 'version') throw refused(`the ${top} is not changed by a patch`)
    return operate(this.level, op, this.how)
  }

  private count(keys: readonly string[], was: boolean, is: boolean): void {
    const [collection] = keys
    if (!isCollection(collection)) return
    if (keys.length === 2) this.counts.set(collection, this.counts.get(collection)! + Number(is) - Number(was))
    if (keys.length === 1) {
      const things = this.level[collection] as unknown
      this.counts.set(collection, typeof things === 'object' && things !== null ? Object.keys(things).length : 0)
    }
  }

  private readonly used = (by: number) => (to: Collection, id: string) => {
    const uses = this.uses.get(to)!
    const n = (uses.get(id) ?? 0) + by
    if (n === 0) uses.delete(id)
    else uses.set(id, n)
  }

  /** Looks at what a patch touched: values, numbers of things, references and orders. */
  private assertSound(patch: readonly PatchOp[], change: (op: PatchOp) => void): void {
    const touched = patch.map((op) => ({ keys: pointerKeys(op.path), replaces: op.op === 'replace' }))
    assertUnits(this.level, touched, (keys, value) => {
      const known = valueAt(this.level, keys) !== undefined
      change({ op: known ? 'replace' : 'add', path: pointerOf(keys), value })
    })
    for (const [collection, count] of this.counts) {
      const most = mostThings(collection)
      if (count > most && touched.some(({ keys }) => keys[0] === collection))
        throw new LevelError('too-large', collection, `would hold ${count} things; at most ${most} are kept`, [
          collection,
        ])
    }
    for (const [i, { keys }] of touched.entries()) {
      if (patch[i].op === 'remove') continue
      visitReferences(keys, (patch[i] as { value: unknown }).value, (to, id, at) => {
        if (!Object.hasOwn(this.level[to], id) && this.uses.get(to)!.has(id)) this.failReference(at())
      })
    }
    for (const { keys } of touched) {
      if (!isCollection(keys[0]) || keys.length > 2) continue
      if (keys.length === 1) this.assertAllThere(keys[0])
      else if (!Object.hasOwn(this.level[keys[0]], keys[1]) && this.uses.get(keys[0])!.has(keys[1]))
        this.failReference(undefined, keys[0], keys[1])
    }
    for (const kind of WITH_PARTS) {
      const ids = new Set(touched.filter(({ keys }) => keys[0] === kind.in).map(({ keys }) => keys[1]))
      for (const id of ids.has(undefined as never) ? Object.keys(this.level[kind.in]) : ids)
        if (Object.hasOwn(this.level[kind.in], id)) assertOrder(this.level, kind, id)
    }
  }

  private assertAllThere(collection: Collection): void {
    for (const id of this.uses.get(collection)!.keys())
      if (!Object.hasOwn(this.level[collection], id)) this.failReference(undefined, collection, id)
  }

  /** Finds who refers to what is not there: slow, but only once something is wrong. */
  private failReference(at?: string, to?: Collection, id?: string): never {
    const r = references(this.level).find((r) => !r.found && (at ? r.at === at : r.in === to && r.id === id))
    const place = r?.at ?? at ?? ''
    throw new LevelError(
      'dangling-reference',
      place,
      r ? `refers to ${r.id}, which is not among the ${r.in}` : 'refers to what is not there',
      place.split('.'),
    )
  }
}

/** How many values something is made of, counted no further than a limit. */
function countUpTo(value: unknown, most: number): number {
  let n = 0
  const visit = (v: unknown): void => {
    if (++n > most || typeof v !== 'object' || v === null) return
    for (const key in v) {
      if (n > most) return
      visit((v as Keyed)[key])
    }
  }
  visit(value)
  return n
}

/** The places a patch reads or writes, for `placeBothTouch`. */
export const pathsOf = (ops: readonly IncomingOp[]): { op: string; path: string }[] =>
  ops.flatMap((op) => ('from' in op ? [op, { op: 'remove', path: op.from }] : [op]))
