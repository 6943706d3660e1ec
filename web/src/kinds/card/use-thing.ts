import { removeThings, setThings, type Collection, type ThingOf } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'

/** What every card about one thing does: read it, set some of it, delete it. */
export function useThing<C extends Collection>(collection: C, id: () => string) {
  const levels = useLevelStore()
  const sheet = useSheetStore()
  const thing = computed(() => levels.doc[collection][id()] as ThingOf<C>)
  const things = computed(() => [{ id: id(), thing: thing.value as object }])
  /** Sets properties; with a gesture, until `release`, as one step. */
  const set = (values: Partial<ThingOf<C>>, gesture?: string) =>
    levels.perform(setThings, { things: [{ in: collection, id: id(), set: values }], word: 'Change' }, gesture)
  /** Sets what a field has made of the thing. */
  const setField = (values: (thing: object) => object, gesture: string | undefined) =>
    set(values(thing.value as object) as Partial<ThingOf<C>>, gesture)
  const release = () => levels.release()
  function remove(): void {
    levels.perform(removeThings, { ids: [id()] })
    sheet.choose([])
  }
  return { levels, sheet, thing, things, set, setField, release, remove }
}
