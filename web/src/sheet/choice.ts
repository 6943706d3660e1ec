/** What can be done to the choice as a whole, whatever is in it. */
import { floorsAt, floorUnder, settles, standsOnFloor, terrainOf } from '@tidytrail/core/ground'
import {
  carriersOf,
  COLLECTIONS,
  collectionOf,
  isLocked,
  movable,
  movedThing,
  removeStops,
  removeThings,
  setThings,
  shift,
  type Level,
} from '@tidytrail/core/level'
import { useLevelStore } from '../stores/level'
import { useSheetStore } from '../stores/sheet'
import { thingsOfStage } from '../kinds'
import { count } from '../ui/figures'
import { toast } from '../ui/toasts'

export function useChoice() {
  const levels = useLevelStore()
  const sheet = useSheetStore()

  /** Deletes the chosen things and takes the chosen stops out of their routes; what is locked stays. */
  function remove(): void {
    const level = levels.doc
    const ids = sheet.selected.filter((id) => !isLocked(level, id))
    sayLocked()
    const things = ids.filter((id) => collectionOf(level, id))
    const stops = Object.entries(level.routes)
      .map(([routeId, r]) => ({ routeId, stopIds: ids.filter((id) => r.stops[id]) }))
      .filter((s) => s.stopIds.length > 0)
    if (things.length + stops.length === 0) return
    const label =
      things.length === 1 && stops.length === 0
        ? removeThings.label(level, { ids: things })
        : `Delete ${count(things.length + stops.reduce((n, s) => n + s.stopIds.length, 0), 'thing')}`
    levels.together(label, [
      ...(things.length > 0 ? [(l: Level) => removeThings.apply(l, { ids: things })] : []),
      ...stops.map((args) => (l: Level) => removeStops.apply(l, args)),
    ])
    sheet.choose([])
  }

  /** Chooses all stops of the chosen route, or all that the stage is about. */
  function all(): void {
    const level = levels.doc
    const route = sheet.stage === 'routes' ? level.routes[sheet.chosen ?? ''] : undefined
    if (route) return sheet.choose(route.order)
    if (sheet.stage === 'routes')
      return sheet.choose(Object.keys(level.routes).filter((id) => !level.routes[id].hidden))
    sheet.choose(thingsOfStage(level, sheet.stage, sheet.isShown))
  }

  /** Says that nothing was done where all that is chosen is locked. */
  function sayLocked(): void {
    const locked = sheet.selected.filter((id) => isLocked(levels.doc, id))
    if (locked.length > 0)
      toast(
        `${count(locked.length, 'thing')} of the choice ${locked.length > 1 ? 'are' : 'is'} locked and stayed as ${locked.length > 1 ? 'they were' : 'it was'}.`,
      )
  }

  /** Moves the choice by squares of the grid; what stands on floors stays on the floor it is on. */
  function nudge(dx: number, dy: number): boolean {
    const { gridM } = levels.doc.settings
    const terrain = terrainOf(levels.doc)
    const things = movable(levels.doc, sheet.selected).map((t) => {
      const set = movedThing(t.in, t.thing, shift(dx * gridM, dy * gridM))!
      const { at } = set as { at?: readonly number[] }
      if (!standsOnFloor(t.in) || !at) return { in: t.in, id: t.id, set }
      const z = floorUnder(floorsAt(terrain, at[0], at[1]), at[2]).z
      return { in: t.in, id: t.id, set: { ...set, at: [at[0], at[1], z] } }
    })
    if (things.length > 0) levels.perform(setThings, { things })
    if (sheet.selected.length > 0) sayLocked()
    return things.length > 0 || sheet.selected.some((id) => isLocked(levels.doc, id))
  }

  /** Shows what settling would do: for the choice, or for all that stands on floors when nothing is chosen. */
  function settle(): void {
    const level = levels.doc
    const chosen = sheet.selected.flatMap((id) => carriersOf(level, id)).filter((c) => settles(c.in))
    sheet.settling =
      chosen.length > 0
        ? [...new Set(chosen.map((c) => c.id))]
        : COLLECTIONS.filter(standsOnFloor).flatMap((c) => Object.keys(level[c]))
  }

  return { remove, all, nudge, settle }
}
