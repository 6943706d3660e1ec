import { settles } from '@tidytrail/core/ground'
import { movable, settleThings } from '@tidytrail/core/level'
import { useLevelStore } from '../stores/level'
import { useSheetStore } from '../stores/sheet'

/** Moving what is chosen up and down. */
export function useLifting() {
  const levels = useLevelStore()
  const sheet = useSheetStore()

  /** The things that can be moved up and down, with the height each has now. */
  function heights(): Record<string, number> {
    const out: Record<string, number> = {}
    for (const { in: collection, id, thing } of movable(levels.doc, sheet.selected)) {
      if (!settles(collection)) continue
      const { baseM, at } = thing as { baseM?: number; at: readonly number[] }
      out[id] = baseM ?? at[2]
    }
    return out
  }
  function lift(by: number, from = heights(), gesture?: string) {
    const to = Object.fromEntries(Object.entries(from).map(([id, z]) => [id, Math.round((z + by) * 100) / 100]))
    if (Object.keys(to).length > 0) levels.perform(settleThings, { heights: to }, gesture)
  }
  return { heights, lift }
}
