import { setThings, type Collection } from '@tidytrail/core/level'
import { useLevelStore } from '../stores/level'
import { requestZoom } from '../map/zoom-wish'

interface Kept {
  hidden: boolean
  locked: boolean
}

/** What every register of named things can do to its rows. */
export function useRegisterActions(collection: () => Collection) {
  const levels = useLevelStore()
  const set = (id: string, values: { name?: string; hidden?: boolean; locked?: boolean }, word: string) =>
    levels.perform(setThings, { things: [{ in: collection(), id, set: values }], word })
  const thing = (id: string) => levels.doc[collection()][id] as Kept
  return {
    rename: (id: string, name: string) => set(id, { name }, 'Rename'),
    hide: (id: string) => set(id, { hidden: !thing(id).hidden }, thing(id).hidden ? 'Show' : 'Hide'),
    lock: (id: string) => set(id, { locked: !thing(id).locked }, thing(id).locked ? 'Unlock' : 'Lock'),
    zoom: (id: string) => requestZoom(id),
  }
}
