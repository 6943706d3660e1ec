import {
  applyPatch,
  assertEdited,
  Fold,
  LevelError,
  lockedBy,
  valueAt,
  placesTouch,
  pointerKeys,
  type Clash,
  type Edit,
  type EditResult,
  type Level,
  type PatchOp,
} from '@tidytrail/core/level'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, triggerRef } from 'vue'
import { makeFrom } from '../api/levels'
import { Autosave, type KeepState } from '../autosave/autosave'
import type { Aside } from '../autosave/outbox'
import { faultWords } from '../kinds/place-words'
import { toast } from '../ui/toasts'
import { History, type HistoryEntry } from './history'

/** Who hears of every change to the level, as patches. */
type Listener = (level: Level, patch: PatchOp[] | 'anew') => void

/** Edits that touch more places than this are looked at when their gesture ends, not with every move of the hand. */
const LOOKED_AT_ONCE = 300

/** A step that would undo or redo over what others have changed: what it would write, and what is there now. */
export interface Doubt {
  readonly how: 'undo' | 'redo'
  readonly label: string
  readonly clashes: readonly Clash[]
}

/** The open level: the document, its history, and how far it has been kept. */
export const useLevelStore = defineStore('level', () => {
  const id = ref('')
  const level = shallowRef<Level>()
  const keepState = ref<KeepState>('kept')
  const revision = ref(0)
  const waiting = ref(0)
  /** What both this tab and others changed, while somebody has to choose. */
  const conflict = shallowRef<readonly Clash[]>()
  const conflictShown = ref(false)
  const aside = shallowRef<readonly Aside[]>([])
  const doubt = shallowRef<Doubt>()
  const history = new History()
  const steps = shallowRef({
    past: history.past as readonly HistoryEntry[],
    future: history.future as readonly HistoryEntry[],
  })
  const listeners = new Set<Listener>()
  let autosave: Autosave | undefined
  /** A gesture that was broken off: what its hand still does is not heeded. */
  let brokenOff: string | undefined
  /** The drag under way: its patches go to the autosave when it ends. */
  let held: { gesture: string; label: string; fold: Fold; unseen: boolean } | undefined

  const doc = computed(() => level.value!)

  function tell(patch: PatchOp[] | 'anew') {
    for (const listener of listeners) listener(level.value!, patch)
  }

  function listen(listener: Listener): () => void {
    listeners.add(listener)
    return () => listeners.delete(listener)
  }

  async function open(levelId: string): Promise<void> {
    close()
    id.value = levelId
    conflict.value = undefined
    conflictShown.value = false
    doubt.value = undefined
    history.clear()
    autosave = new Autosave(levelId, {
      state(state, count, rev) {
        keepState.value = state
        waiting.value = count
        revision.value = rev
      },
      others(ops, why) {
        level.value = applyPatch(doc.value, ops)
        tell(ops)
        toast(why)
      },
      replaced(next, why) {
        level.value = withHeld(next)
        tell('anew')
        toast(why)
      },
      overtaken(ops) {
        history.overtake(ops)
        triggerRef(steps)
      },
      conflict(clashes) {
        conflict.value = clashes
        conflictShown.value = clashes !== undefined
      },
      aside(all) {
        aside.value = all
      },
      said(text) {
        toast(text)
      },
      busy: () => held !== undefined,
    })
    level.value = await autosave.open()
    triggerRef(steps)
    tell('anew')
  }

  function close(): void {
    release()
    autosave?.close()
    autosave = undefined
    level.value = undefined
  }

  /** A level with the drag under way on top, as long as it still fits. */
  function withHeld(next: Level): Level {
    try {
      return held ? applyPatch(next, held.fold.patch) : next
    } catch {
      held = undefined
      return next
    }
  }

  /** Why a level may not become what an edit would make of it, in words; undefined when it may. */
  function faultOf(next: Level, patch: readonly PatchOp[]): string | undefined {
    try {
      assertEdited(next, patch)
      return undefined
    } catch (error) {
      if (!(error instanceof LevelError)) throw error
      return faultWords(next, error)
    }
  }

  /** @returns whether the edit was taken; one that the level may not hold is refused, and said so */
  function take(result: EditResult, label: string, gesture?: string): boolean {
    if (result.patch.length === 0) return true
    if (gesture !== undefined && gesture === brokenOff) return false
    const locked = lockedBy(doc.value, result.patch)
    if (locked) {
      const { name } = doc.value[locked.in][locked.id] as { name: string }
      const why = locked.lays
        ? `${name || 'Its road'} lays this lane: change the road, or take it apart.`
        : `${name || 'It'} is locked.`
      toast(`${label}: not done. ${why}`, { kind: 'alarm' })
      triggerRef(level)
      return false
    }
    if (held && held.gesture !== gesture) release()
    const unseen = gesture !== undefined && result.patch.length > LOOKED_AT_ONCE
    const fault = unseen ? undefined : faultOf(result.level, result.patch)
    if (fault !== undefined) {
      toast(`${label}: not done. ${fault}`, { kind: 'alarm' })
      triggerRef(level)
      return false
    }
    level.value = result.level
    history.push({ label, patch: result.patch, inverse: result.inverse, gesture, at: Date.now() })
    triggerRef(steps)
    if (gesture === undefined) autosave?.add(result.patch, label)
    else {
      held ??= { gesture, label, fold: new Fold(), unseen: false }
      held.fold.add(result.patch, result.inverse)
      held.label = label
      held.unseen ||= unseen
    }
    tell(result.patch)
    return true
  }

  /** Makes an edit. With a gesture, edits of the same one become a single step to undo, kept when `release` is called. */
  function perform<A>(edit: Edit<A>, args: A, gesture?: string): boolean {
    return take(edit.apply(doc.value, args), edit.label(doc.value, args), gesture)
  }

  /** Makes several edits as one step. */
  function together(label: string, edits: ((level: Level) => EditResult)[]): boolean {
    let next = doc.value
    const patch: PatchOp[] = []
    const inverse: PatchOp[] = []
    for (const edit of edits) {
      const result = edit(next)
      next = result.level
      patch.push(...result.patch)
      inverse.unshift(...result.inverse)
    }
    return take({ level: next, patch, inverse }, label)
  }

  /** Ends a gesture: what it changed is kept now, or taken back when the level may not hold it. */
  function release(): void {
    if (!held) return
    const { fold, label, unseen } = held
    const ops = fold.patch
    held = undefined
    const fault = unseen ? faultOf(doc.value, ops) : undefined
    if (fault !== undefined) {
      const inverse = history.drop()?.inverse ?? []
      level.value = applyPatch(doc.value, inverse)
      triggerRef(steps)
      tell(inverse)
      toast(`${label}: not done. ${fault}`, { kind: 'alarm' })
    } else autosave?.add(ops, label)
    autosave?.free()
  }

  /** Breaks the drag under way off, as if it had never been begun; false when there is none. */
  function abandon(): boolean {
    if (!held) return false
    brokenOff = held.gesture
    held = undefined
    const inverse = history.drop()?.inverse ?? []
    level.value = applyPatch(doc.value, inverse)
    triggerRef(steps)
    tell(inverse)
    autosave?.free()
    return true
  }

  /** Takes the step made last back as if it had never been made, with nothing to redo, if it is the one called so. */
  function takeBackIf(label: string): boolean {
    release()
    if (history.past.at(-1)?.label !== label) return false
    const entry = history.drop()!
    level.value = applyPatch(doc.value, entry.inverse)
    triggerRef(steps)
    autosave?.add(entry.inverse, `Take back ${label}`)
    tell(entry.inverse)
    return true
  }

  /** Undoes the step that was made last, for as long as it is the last. */
  function undoLast(): { label: string; run: () => void; valid: () => boolean } {
    const entry = history.past.at(-1)
    return { label: 'Undo', run: undo, valid: () => steps.value.past.at(-1) === entry }
  }

  /** What a step would write where others have changed something since, beside what they left there. */
  function clashesWith(ops: readonly PatchOp[]): Clash[] {
    return ops.map((op) => ({
      path: op.path,
      mine: op.op === 'remove' ? undefined : op.value,
      theirs: valueAt(doc.value, pointerKeys(op.path)),
    }))
  }

  function move(how: Doubt['how'], sure: boolean): void {
    release()
    const entry = how === 'undo' ? history.past.at(-1) : history.future.at(-1)
    if (!entry) return
    const ops = how === 'undo' ? entry.inverse : entry.patch
    if (entry.overtaken && !sure) {
      doubt.value = { how, label: entry.label, clashes: clashesWith(ops) }
      return
    }
    let next: Level
    try {
      if (misfits(ops)) throw new LevelError('patch-refused', '', '')
      next = applyPatch(doc.value, ops)
      const fault = faultOf(next, ops)
      if (fault !== undefined) throw new LevelError('not-valid', '', fault)
    } catch (error) {
      skipStep(how)
      const why = error instanceof LevelError && error.problem === 'not-valid' ? ` ${error.why}` : ''
      toast(`“${entry.label}” no longer fits the level and was passed over.${why}`, { kind: 'alarm' })
      return
    }
    if (how === 'undo') history.undo()
    else history.redo()
    entry.overtaken = false
    level.value = next
    triggerRef(steps)
    autosave?.add(ops, `${how === 'undo' ? 'Undo' : 'Redo'} ${entry.label}`)
    tell(ops)
  }

  /** Would a patch change or take out what is not there? */
  function misfits(ops: readonly PatchOp[]): boolean {
    return ops.some(
      (op, i) =>
        op.op !== 'add' &&
        valueAt(doc.value, pointerKeys(op.path)) === undefined &&
        !ops.slice(0, i).some((earlier) => placesTouch(earlier.path, op.path)),
    )
  }

  /** Lets a step of the history go without doing it. */
  function skipStep(how: Doubt['how']): void {
    ;(how === 'undo' ? history.past : history.future).pop()
    triggerRef(steps)
  }

  const undo = () => move('undo', false)
  const redo = () => move('redo', false)

  /** What becomes of a step there was a doubt about. */
  function settleDoubt(choice: 'do' | 'skip' | 'leave'): void {
    const asked = doubt.value
    doubt.value = undefined
    if (!asked || choice === 'leave') return
    if (choice === 'do') move(asked.how, true)
    else skipStep(asked.how)
  }

  async function retryAside(asideId: string): Promise<void> {
    try {
      await autosave?.retry(asideId, doc.value)
    } catch (error) {
      toast(`It does not fit the level as it is now. ${(error as Error).message}`, { kind: 'alarm' })
    }
  }

  const letGoAside = (asideId: string) => autosave?.letGo(asideId)

  async function resolveConflict(how: 'mine' | 'theirs' | 'copy'): Promise<string | undefined> {
    if (how === 'copy') {
      const saved = await makeFrom({ ...doc.value, name: `${doc.value.name}, my version` })
      await autosave?.forget()
      conflict.value = undefined
      conflictShown.value = false
      return saved.id
    }
    await autosave?.resolve(how)
    return undefined
  }

  return {
    id,
    level,
    doc,
    keepState,
    revision,
    waiting,
    conflict,
    steps,
    listen,
    open,
    close,
    perform,
    together,
    release,
    abandon,
    undoLast,
    takeBackIf,
    undo,
    redo,
    resolveConflict,
    conflictShown,
    aside,
    retryAside,
    letGoAside,
    doubt,
    settleDoubt,
  }
})
