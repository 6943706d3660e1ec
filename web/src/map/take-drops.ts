import { assignRoute, nameOf, setThings, type Level } from '@tidytrail/core/level'
import type { useLevelStore } from '../stores/level'
import { randomId } from '../stores/random-id'
import type { useSheetStore } from '../stores/sheet'
import { toast } from '../ui/toasts'

type Levels = ReturnType<typeof useLevelStore>
type Sheet = ReturnType<typeof useSheetStore>

/** Has spawners follow a route, each by a brief that says so; all of it is one step to undo. */
export function giveRoute(levels: Levels, sheet: Sheet, routeId: string, spawnerIds: readonly string[]): void {
  if (spawnerIds.length === 0) {
    toast('Drop a route on a spawner to have its agents follow it, or choose spawners first.')
    return
  }
  const all = spawnerIds.map((spawnerId) => ({
    spawnerId,
    routeId,
    briefId: randomId('briefs'),
    stepId: randomId('steps'),
  }))
  const [one] = all
  const label =
    all.length === 1
      ? assignRoute.label(levels.doc, one)
      : `${all.length} spawners follow ${nameOf(levels.doc, routeId)}`
  const given = levels.together(
    label,
    all.map((args) => (level: Level) => assignRoute.apply(level, args)),
  )
  if (given) sheet.choose(spawnerIds)
}

/** What is dropped on a spawner: a route it is to follow, a brief it is told by, or a squad it belongs to. */
export function takeDrops(levels: Levels, sheet: Sheet, spawnerAt: (event: DragEvent) => string | undefined) {
  /** Tells a spawner by a brief, or puts it into a squad; where it is chosen with others all of them. */
  function tell(id: string, spawnerId: string | undefined) {
    const set = levels.doc.briefs[id] ? { briefId: id } : levels.doc.squads[id] ? { squadId: id } : undefined
    if (!set) return
    if (!spawnerId) {
      toast('Drop it on a spawner; on one of several that are chosen, for all of them.')
      return
    }
    const chosen = sheet.selected.filter((s) => levels.doc.spawners[s])
    const ids = chosen.includes(spawnerId) ? chosen : [spawnerId]
    levels.perform(setThings, { things: ids.map((s) => ({ in: 'spawners' as const, id: s, set })), word: 'Tell' })
    sheet.choose(ids)
  }

  return (event: DragEvent): void => {
    const told = event.dataTransfer?.getData('application/x-tidytrail-told')
    if (told) return tell(told, spawnerAt(event))
    const routeId = event.dataTransfer?.getData('application/x-tidytrail-route')
    if (!routeId || !levels.doc.routes[routeId]) return
    const spawnerId = spawnerAt(event)
    giveRoute(levels, sheet, routeId, spawnerId ? [spawnerId] : [])
  }
}
