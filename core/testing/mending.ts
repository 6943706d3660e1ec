import { applyFix, CheckedSurvey, SEVERITIES, waysOf, waysOut, type Finding, type Fix } from '@tidytrail/core/checks'
import type { Level } from '@tidytrail/core/level'
import { chance } from './scenes'

/** How many findings of each severity there are, the gravest first. */
export const tally = (findings: readonly Finding[]) =>
  SEVERITIES.map((s) => findings.filter((f) => f.severity === s).length)

/** Is the first count smaller where the two first differ? */
const lighter = (a: readonly number[], b: readonly number[]) => {
  const k = a.findIndex((n, i) => n !== b[i])
  return k >= 0 && a[k] < b[k]
}

/**
 * Mends whatever is offered, in an order by chance, until nothing is.
 * @param tried which of the ways out are looked at
 * @throws Error where a fix leaves the level worse off, or mending does not end
 */
export function mendAll(level: Level, seed: number, tried: (fix: Fix) => boolean = () => true) {
  const next = chance(seed)
  const survey = new CheckedSurvey()
  const first = tally(survey.update(level))
  for (let steps = 0; steps < 2000; steps++) {
    const shuffled = survey.findings.map((f) => ({ f, key: next() })).sort((p, q) => p.key - q.key)
    let fix: Fix | undefined
    for (const { f } of shuffled) {
      const good = waysOut(survey, f, Infinity, waysOf(f).filter(tried))
      fix = good[Math.floor(next() * good.length)]
      if (fix) break
    }
    if (!fix) return { level: survey.level!, findings: survey.findings, first, last: tally(survey.findings), steps }
    const before = tally(survey.findings)
    const { level: after, patch } = applyFix(survey.level!, fix)
    const now = tally(survey.update(after, patch))
    if (!lighter(now, before)) throw new Error(`${fix.label}: ${before.join()} → ${now.join()}`)
  }
  throw new Error('Mending one finding after the other does not end.')
}
