import { applyFix, type Finding } from '@tidytrail/core/checks'
import { useLevelStore } from '../stores/level'
import { toast } from '../ui/toasts'

/** Applies the fix of a finding as an ordinary step that can be undone. */
export function mend(finding: Finding): void {
  const { fix } = finding
  if (!fix) return
  const levels = useLevelStore()
  levels.together(fix.label, [(level) => applyFix(level, fix)])
  toast(`${fix.label}.`, { action: { label: 'Undo', run: levels.undo } })
}
