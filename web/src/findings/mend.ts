import { applyFix, type Finding } from '@tidytrail/core/checks'
import { standsOnFloor } from '@tidytrail/core/ground'
import { COLLECTIONS, pointsIn, waive, type Route } from '@tidytrail/core/level'
import { useLevelStore } from '../stores/level'
import { randomId } from '../stores/random-id'
import { useSheetStore } from '../stores/sheet'
import { toast } from '../ui/toasts'

/** Applies the fix of a finding as an ordinary step that can be undone. */
export function mend(finding: Finding): void {
  const { fix } = finding
  if (!fix) return
  endPreview()
  const levels = useLevelStore()
  levels.together(fix.label, [(level) => applyFix(level, fix)])
  toast(`${fix.label}.`, { action: { label: 'Undo', run: levels.undo } })
}

/** Applies the fixes of all findings of one check that have one, as a single step. */
export function mendAll(findings: readonly Finding[]): void {
  const levels = useLevelStore()
  const fixable = findings.filter((f) => f.fix)
  if (fixable.length === 0) return
  const label = `Mend ${fixable.length} × ${fixable[0].check}`
  levels.together(
    label,
    fixable.map((f) => (level) => applyFix(level, f.fix!)),
  )
  toast(`${label}.`, { action: { label: 'Undo', run: levels.undo } })
}

/** What a fix would do to routes and places, to be shown before it is done. */
export function previewFix(finding: Finding): void {
  const levels = useLevelStore()
  const sheet = useSheetStore()
  if (!finding.fix) return
  const before = levels.doc
  const after = applyFix(before, finding.fix).level
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
  sheet.sketch = [...routes, ...links]
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
  toast('The finding is waived.', { action: { label: 'Undo', run: levels.undo } })
}
