import { changeThings } from '@tidytrail/core/level'
import { useLevelStore } from '../stores/level'
import { requestZoom } from './zoom'

type Named = 'solids' | 'routes' | 'spawners'

/** What every register of named things can do to its rows. */
export function useRegisterActions(collection: Named) {
  const levels = useLevelStore()
  const set = (id: string, values: { name?: string; hidden?: boolean; locked?: boolean }) =>
    levels.perform(changeThings, { in: collection, changes: { [id]: values } } as Parameters<
      typeof changeThings.apply
    >[1])
  return {
    rename: (id: string, name: string) => set(id, { name }),
    hide: (id: string) => set(id, { hidden: !levels.doc[collection][id].hidden }),
    lock: (id: string) => set(id, { locked: !levels.doc[collection][id].locked }),
    zoom: (id: string) => requestZoom(id),
  }
}
