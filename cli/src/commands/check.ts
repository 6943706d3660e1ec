import { checkReportSchema } from '@tidytrail/contract'
import { changesProfiles, CheckedSurvey, waysOf, waysOut } from '@tidytrail/core/checks'
import { EXIT, unreadable } from '../exit'
import { readLevelFile } from '../level-file'

/** Prints the findings of a level file; gives the exit code. */
export async function check(file: string, { format }: { format: 'text' | 'json' }): Promise<number> {
  const level = await readLevelFile(file).catch((error: Error) => error)
  if (level instanceof Error) return unreadable(level.message)
  const survey = new CheckedSurvey()
  const findings = survey.update(level)
  const blockers = findings.filter((f) => f.severity === 'blocker').length
  if (format === 'json') {
    const report = checkReportSchema.parse({
      level: level.name,
      // Only what has been tried and helps is offered.
      findings: findings.map(({ fix: _fix, ways: _ways, ...finding }, k) => {
        const tried = waysOf(findings[k]).filter((way) => !changesProfiles(way))
        return { ...finding, ways: waysOut(survey, findings[k], Infinity, tried) }
      }),
    })
    process.stdout.write(`${JSON.stringify(report, null, 2)}\n`)
  } else {
    for (const f of findings) {
      const [x, y, z] = f.at.map((m) => m.toFixed(1))
      process.stdout.write(`${f.severity.padEnd(8)} ${f.check.padEnd(22)} at ${x} ${y} ${z} m: ${f.message}\n`)
    }
    const rest = findings.length - blockers
    process.stdout.write(`${level.name}: ${blockers} ${blockers === 1 ? 'blocker' : 'blockers'}, ${rest} other\n`)
  }
  return blockers > 0 ? EXIT.faults : EXIT.fine
}
