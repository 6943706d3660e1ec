import { applyPatch, type Edit, type EditResult, type Level, type PatchOp } from '@tidytrail/core/level'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, triggerRef } from 'vue'
import { makeFrom } from '../api/levels'
import { Keeper, type KeepState } from '../keeping/keeper'
import { toast } from '../ui/toasts'
import { History, squeeze, type HistoryEntry } from './history'

/** Who hears of every change to the level, as patches. */
type Listener = (level: Level, patch: PatchOp[] | 'anew') => void

/** The open level: the document, its history, and how far it has been kept. */
export const useLevelStore = defineStore('level', () => {
  const id = ref('')
  const level = shallowRef<Level>()
  const keepState = ref<KeepState>('kept')
  const revision = ref(0)
  const waiting = ref(0)
  const conflict = shallowRef<Level>()
  const history = new History()
  const steps = shallowRef({
    past: history.past as readonly HistoryEntry[],
    future: history.future as readonly HistoryEntry[],
  })
  const listeners = new Set<Listener>()
  let keeper: Keeper | undefined
  /** The drag under way: its patches go to the keeper when it ends. */
  let held: { gesture: string; ops: PatchOp[] } | undefined

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
    history.clear()
    keeper = new Keeper(levelId, {
      state(state, count, rev) {
        keepState.value = state
        waiting.value = count
        revision.value = rev
      },
      replaced(next, why) {
        level.value = next
        conflict.value = undefined
        tell('anew')
        toast(why)
      },
      conflict(theirs) {
        conflict.value = theirs
      },
      refused(detail) {
        toast(detail, { kind: 'alarm' })
      },
    })
    level.value = await keeper.open()
    triggerRef(steps)
    tell('anew')
  }

  function close(): void {
    release()
    keeper?.close()
    keeper = undefined
    level.value = undefined
  }

  function take(result: EditResult, label: string, gesture?: string): void {
    if (result.patch.length === 0) return
    if (held && held.gesture !== gesture) release()
    level.value = result.level
    history.push({ label, patch: result.patch, inverse: result.inverse, gesture, at: Date.now() })
    triggerRef(steps)
    if (gesture === undefined) keeper?.add(result.patch)
    else held = { gesture, ops: squeeze([...(held?.ops ?? []), ...result.patch]) }
    tell(result.patch)
  }

  /** Makes an edit. With a gesture, edits of the same one become a single step to undo, kept when `release` is called. */
  function perform<A>(edit: Edit<A>, args: A, gesture?: string): void {
    take(edit.apply(doc.value, args), edit.label(doc.value, args), gesture)
  }

  /** Makes several edits as one step. */
  function together(label: string, edits: ((level: Level) => EditResult)[]): void {
    let next = doc.value
    const patch: PatchOp[] = []
    const inverse: PatchOp[] = []
    for (const edit of edits) {
      const result = edit(next)
      next = result.level
      patch.push(...result.patch)
      inverse.unshift(...result.inverse)
    }
    take({ level: next, patch, inverse }, label)
  }

  /** Ends a gesture: what it changed is kept now. */
  function release(): void {
    if (held) keeper?.add(held.ops)
    held = undefined
  }

  function move(entry: HistoryEntry | undefined, ops: PatchOp[] | undefined): void {
    if (!entry || !ops) return
    release()
    try {
      level.value = applyPatch(doc.value, ops)
    } catch {
      history.clear()
      triggerRef(steps)
      toast('That step no longer fits the level; the history was cleared.', { kind: 'alarm' })
      return
    }
    triggerRef(steps)
    keeper?.add(ops)
    tell(ops)
  }

  function undo(): void {
    const entry = history.undo()
    move(entry, entry?.inverse)
  }

  function redo(): void {
    const entry = history.redo()
    move(entry, entry?.patch)
  }

  async function resolveConflict(how: 'mine' | 'theirs' | 'copy'): Promise<string | undefined> {
    if (how === 'copy') {
      const saved = await makeFrom({ ...doc.value, name: `${doc.value.name}, my version` })
      await keeper?.forget()
      return saved.id
    }
    history.clear()
    triggerRef(steps)
    await keeper?.resolve(how)
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
    undo,
    redo,
    resolveConflict,
  }
})
