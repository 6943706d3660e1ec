import { collectionOf, holderOf, type Level } from '@tidytrail/core/level'
import { watch } from 'vue'
import { useLevelStore } from '../stores/level'
import { useSheetStore } from '../stores/sheet'

const isIn = (level: Level, id: string) => collectionOf(level, id) !== undefined || holderOf(level, id) !== undefined

/** Lets go of what was chosen and is no more, as when making it is undone. */
export function useLiveChoice(): void {
  const levels = useLevelStore()
  const sheet = useSheetStore()
  watch(
    () => levels.level,
    (now, before) => {
      if (!now || !before || sheet.selected.length === 0) return
      const gone = new Set(sheet.selected.filter((id) => isIn(before, id) && !isIn(now, id)))
      if (gone.size > 0) sheet.choose(sheet.selected.filter((id) => !gone.has(id)))
    },
    // At each step: of several in one go only the last would be seen otherwise.
    { flush: 'sync' },
  )
}
