import { enablePatches, produceWithPatches, type Draft } from 'immer'
import { FOLLOWS } from './follows'
import { Copying, listOps, pointerOf, toJsonPatch, valueAt, type PatchOp } from './patch'
import type { Level } from './schema'

enablePatches()

/** What an edit did: the new level, the way there and the way back. */
export interface EditResult {
  level: Level
  patch: PatchOp[]
  inverse: PatchOp[]
}

/** A change somebody can make to a level. `label` is what the undo list calls it. */
export interface Edit<Args> {
  label: (level: Level, args: Args) => string
  apply: (level: Level, args: Args) => EditResult
}

/**
 * An edit from a recipe that changes a draft. What is only looked at is better looked at in the base, the level as it
 * was: reading a draft costs as much as changing it. There is no other way to change a level.
 */
export function defineEdit<Args>(
  label: Edit<Args>['label'],
  recipe: (draft: Draft<Level>, args: Args, base: Level) => void,
): Edit<Args> {
  return {
    label,
    apply(level, args) {
      const [next, patches, inverse] = produceWithPatches(level, (draft) => recipe(draft, args, level))
      return {
        level: next,
        patch: toJsonPatch(patches, level, next),
        inverse: toJsonPatch(inverse, next, level),
      }
    },
  }
}

/** The operations of an edit, made one after the other on a copy of what they touch. */
export class Changes {
  private readonly copying: Copying
  private readonly patch: PatchOp[] = []
  private readonly inverse: PatchOp[] = []

  constructor(readonly base: Level) {
    this.copying = new Copying(base)
  }

  /** The level as it is now. */
  get level(): Level {
    return this.copying.level
  }

  /** Puts a value at a place, unless it is there already. */
  set(keys: readonly string[], value: unknown): void {
    const before = valueAt(this.level, keys)
    if (before === value) return
    this.make({ op: before === undefined ? 'add' : 'replace', path: pointerOf(keys), value }, keys)
  }

  /** Sets some properties of what is at a place; where there is nothing, nothing happens. */
  assign(keys: readonly string[], values: object): void {
    const holder = valueAt(this.level, keys)
    if (typeof holder !== 'object' || holder === null) return
    for (const [key, value] of Object.entries(values)) {
      const before = (holder as Record<string, unknown>)[key]
      if (Array.isArray(before) && Array.isArray(value) && typeof before[0] !== 'number')
        this.list([...keys, key], value)
      else this.set([...keys, key], value)
    }
  }

  /** Makes the list at a place another, telling only what is taken out and put in. */
  list(keys: readonly string[], after: readonly unknown[]): void {
    const before = valueAt(this.level, keys) as readonly unknown[]
    for (const op of listOps(pointerOf(keys), before, after)) this.make(op)
  }

  /** Puts a value into the list at a place. */
  insert(keys: readonly string[], index: number, value: unknown): void {
    this.make({ op: 'add', path: pointerOf([...keys, String(index)]), value })
  }

  /** The things of a collection that have been written to or are gone. */
  touched(collection: string): ReadonlySet<string> {
    const ids = new Set<string>()
    for (const { path } of this.patch) {
      if (!path.startsWith(`/${collection}/`)) continue
      ids.add(path.split('/', 3)[2])
    }
    return ids
  }

  remove(keys: readonly string[]): void {
    if (valueAt(this.level, keys) !== undefined) this.make({ op: 'remove', path: pointerOf(keys) }, keys)
  }

  private make(op: PatchOp, keys?: readonly string[]): void {
    this.inverse.push(this.copying.apply(op, keys))
    this.patch.push(op)
  }

  result(): EditResult {
    return { level: this.copying.done(), patch: this.patch, inverse: this.inverse.reverse() }
  }
}

/** An edit that says what it writes place by place: for what may touch thousands of things, or large ones a little. */
export function defineChanges<Args>(
  label: Edit<Args>['label'],
  make: (changes: Changes, args: Args, base: Level) => void,
): Edit<Args> {
  return {
    label,
    apply(level, args) {
      const changes = new Changes(level)
      make(changes, args, level)
      for (const { in: collection, follow } of FOLLOWS)
        for (const id of changes.touched(collection)) follow(changes, id)
      return changes.result()
    },
  }
}
