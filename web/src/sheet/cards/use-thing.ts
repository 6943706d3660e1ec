import { removeThings, setThings, type Collection, type ThingOf } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'

/** What every card about one thing does: read it, set some of it, delete it. */
export function useThing<C extends Collection>(collection: C, id: () => string) {
  const levels = useLevelStore()
  const sheet = useSheetStore()
  const thing = computed(() => levels.doc[collection][id()] as ThingOf<C>)
  /** Sets properties; with a gesture, until `release`, as one step. */
  const set = (values: Partial<ThingOf<C>>, gesture?: string) =>
    levels.perform(setThings, { things: [{ in: collection, id: id(), set: values }], word: 'Change' }, gesture)
  const release = () => levels.release()
  function remove(): void {
    levels.perform(removeThings, { ids: [id()] })
    sheet.choose([])
  }
  return { levels, sheet, thing, set, release, remove }
}
