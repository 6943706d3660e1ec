import type { Box2 } from '@tidytrail/core/geometry'
import { CHECKS } from './all'
import { Look, type Check, type CheckView } from './check'
import { SEVERITIES, type Finding } from './finding'

interface Kept {
  readonly thing: unknown
  readonly look: Look
  readonly findings: readonly Finding[]
}

/** Runs all checks, and after an edit again only those that saw something that changed. */
export class CheckRunner {
  private readonly kept = new Map<Check, Map<string, Kept>>()

  constructor(private readonly checks: readonly Check[] = CHECKS) {}

  /** All findings that are not waived, gravest first. @param changed where the terrain or a reach map changed */
  run(view: CheckView, changed: readonly Box2[] | 'everywhere'): Finding[] {
    const findings: Finding[] = []
    for (const check of this.checks) {
      const before = this.kept.get(check)
      const after = new Map<string, Kept>()
      const things = view.level[check.each] as Record<string, unknown>
      for (const id in things) {
        let kept = before?.get(id)
        if (!kept || kept.thing !== things[id] || !kept.look.stillTrue(view, changed)) {
          const look = new Look(view)
          const { id: name, severity, stage } = check
          kept = {
            thing: things[id],
            look,
            findings: check.run(look, id).map((f) => ({ check: name, severity, stage, ...f })),
          }
        }
        after.set(id, kept)
        if (kept.findings.length > 0) findings.push(...kept.findings)
      }
      this.kept.set(check, after)
    }
    const waived = new Set(Object.values(view.level.waivers).map((w) => `${w.check} ${w.subjects.join(' ')}`))
    return findings.filter((f) => !waived.has(`${f.check} ${f.subjects.join(' ')}`)).sort(byGravity)
  }
}

function byGravity(a: Finding, b: Finding): number {
  const graver = SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity)
  if (graver !== 0) return graver
  const ka = `${a.check} ${a.subjects.join(' ')}`
  const kb = `${b.check} ${b.subjects.join(' ')}`
  return ka < kb ? -1 : ka > kb ? 1 : 0
}
