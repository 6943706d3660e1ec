import { applyFix, type Finding, type Fix } from '@tidytrail/core/checks'
import { footprint, standsOnFloor } from '@tidytrail/core/ground'
import { COLLECTIONS, pointsIn, waive, type Route } from '@tidytrail/core/level'
import { useLevelStore } from '../stores/level'
import { randomId } from '../stores/random-id'
import { useSheetStore } from '../stores/sheet'
import { useSurveyStore } from '../stores/survey'
import { toast } from '../ui/toasts'

/** Takes a way out of a finding as an ordinary step that can be undone, unless the level has changed so that it would not help. */
export async function mend(finding: Finding, fix: Fix): Promise<void> {
  endPreview()
  const levels = useLevelStore()
  if (!(await useSurveyStore().stillHelps(finding, fix))) {
    toast(`“${fix.label}” would not help any more: the level has changed.`)
    return
  }
  if (!levels.together(fix.label, [(level) => applyFix(level, fix)])) return
  toast(`${fix.label}.`, { action: levels.undoLast() })
}

/** Mends as many findings of one check as can be, one after the other, as a single step. */
export async function mendAll(findings: readonly Finding[]): Promise<void> {
  const levels = useLevelStore()
  const fixes = await useSurveyStore().mendable(findings)
  if (fixes.length === 0) {
    toast('Nothing that is offered would help any more.')
    return
  }
  const label = `Mend ${fixes.length} of one kind`
  const done = levels.together(
    label,
    fixes.map((fix) => (level) => applyFix(level, fix)),
  )
  if (!done) return
  const left = findings.length - fixes.length
  toast(left > 0 ? `${label}; ${left} need a look of their own.` : `${label}.`, {
    action: levels.undoLast(),
  })
}

/** What a fix would do to routes, places, solids and passages, to be shown before it is done. */
export function previewFix(fix: Fix): void {
  const levels = useLevelStore()
  const sheet = useSheetStore()
  const before = levels.doc
  const after = applyFix(before, fix).level
  const ghosts: { from: readonly number[]; to: readonly number[] }[] = []
  for (const collection of COLLECTIONS) {
    if (!standsOnFloor(collection) || before[collection] === after[collection]) continue
    for (const [id, thing] of Object.entries(after[collection])) {
      const was = before[collection][id]
      if (was === thing) continue
      const [to] = pointsIn(collection, thing)
      const [from] = was ? pointsIn(collection, was) : [to]
      if (!was || from !== to) ghosts.push({ from, to })
    }
  }
  sheet.ghosts = ghosts
  const line = (r: Route) => r.order.map((s) => after.waypoints[r.stops[s].waypointId].at)
  const routes = Object.entries(after.routes).flatMap(([id, r]) =>
    r.kind !== 'network' &&
    (before.routes[id] !== r ||
      r.order.some((s) => before.waypoints[r.stops[s].waypointId] !== after.waypoints[r.stops[s].waypointId]))
      ? [{ line: line(r), closed: r.travel === 'round' }]
      : [],
  )
  const links = Object.entries(after.links).flatMap(([id, l]) =>
    before.links[id] === l ? [] : [{ line: [after.waypoints[l.fromId].at, after.waypoints[l.toId].at] }],
  )
  const passages = Object.entries(after.passages).flatMap(([id, p]) =>
    before.passages[id] === p ? [] : [{ line: [p.from, p.to], bare: true }],
  )
  const solids = Object.entries(after.solids).flatMap(([id, solid]) =>
    before.solids[id] === solid ? [] : [{ line: footprint(solid), closed: true, bare: true }],
  )
  sheet.sketch = [...routes, ...links, ...passages, ...solids]
}
export function endPreview(): void {
  const sheet = useSheetStore()
  if (!sheet.laying) sheet.sketch = []
  if (!sheet.settling) sheet.ghosts = []
}

/** Accepts a finding for a reason. */
export function waiveFinding(finding: Finding, reason: string): void {
  const levels = useLevelStore()
  const { check, subjects } = finding
  levels.perform(waive, { id: randomId('waivers'), check, subjects: [...subjects], reason })
  toast('The finding is waived.', { action: levels.undoLast() })
}
