import { assertEdited, LevelError, type Level } from '@tidytrail/core/level'
import type { CheckedSurvey } from './checked-survey'
import { keyOf, SEVERITIES, type Finding } from './finding'
import { applyFix, type Fix } from './fix'

/** More findings than this in a row are not mended at one go. */
const MOST_IN_A_ROW = 2000

/** All that a check offers for a finding, the plain way first, whether it would do or not. */
export const waysOf = (finding: Finding): readonly Fix[] => [
  ...(finding.fix ? [finding.fix] : []),
  ...(finding.ways ?? []),
]

/** Does a fix change what profiles can do? Then their whole reach has to be worked out to try it. */
export const changesProfiles = (fix: Fix): boolean => fix.edit === 'changeThings' && fix.args.in === 'profiles'

/**
 * Is a level better off after a fix? The finding must be gone (or, where it is one of several of its kind about a thing,
 * one of them) and nothing as grave have come in its place, nor more than went. Blockers, warnings and notes counted in this order then grow smaller with every fix, so that mending one after the
 * other comes to an end.
 */
export function helps(finding: Finding, before: readonly Finding[], after: readonly Finding[]): boolean {
  if (after.length > before.length) return false
  const left = new Map<string, number>()
  for (const f of before) left.set(keyOf(f), (left.get(keyOf(f)) ?? 0) + 1)
  const gravity = SEVERITIES.indexOf(finding.severity)
  for (const f of after) {
    const n = left.get(keyOf(f)) ?? 0
    if (n === 0 && SEVERITIES.indexOf(f.severity) <= gravity) return false
    left.set(keyOf(f), n - 1)
  }
  const alike = (list: readonly Finding[]) =>
    list.filter((f) => f.check === finding.check && f.subjects[0] === finding.subjects[0]).length
  return (left.get(keyOf(finding)) ?? 0) > 0 || alike(after) < alike(before)
}

/** The level after a fix, and what is then found; undefined when the edit is refused, as it is when the level has changed. */
function findingsAfter(survey: CheckedSurvey, level: Level, fix: Fix) {
  try {
    const { level: after, patch } = applyFix(level, fix)
    // What may not be kept is not offered.
    assertEdited(after, patch)
    return { level: after, patch, findings: survey.update(after, patch) }
  } catch (error) {
    if (error instanceof LevelError) return undefined
    throw error
  }
}

/**
 * Those of a finding's ways out that help, each tried on the level as it is. The survey is afterwards as it was.
 * @param least stop when so many are found
 */
export function waysOut(survey: CheckedSurvey, finding: Finding, least = Infinity, ways = waysOf(finding)): Fix[] {
  const good: Fix[] = []
  for (const fix of ways) {
    if (good.length >= least) break
    if (survey.apart((level, before) => helps(finding, before, findingsAfter(survey, level, fix)?.findings ?? before)))
      good.push(fix)
  }
  return good
}

/** The fixes that mend as many of the findings as can be, one after the other, each tried where those before it have been made. */
export function mendInTurn(survey: CheckedSurvey, findings: readonly Finding[]): Fix[] {
  const done: Fix[] = []
  survey.apart((start) => {
    let level = start
    for (const { check, subjects } of findings.slice(0, MOST_IN_A_ROW)) {
      // What was offered may have changed with what was mended before it.
      const now = survey.findings.find((f) => keyOf(f) === keyOf({ check, subjects }))
      if (!now) continue
      const [fix] = waysOut(
        survey,
        now,
        1,
        waysOf(now).filter((way) => !changesProfiles(way)),
      )
      if (!fix) continue
      level = findingsAfter(survey, level, fix)!.level
      done.push(fix)
    }
  })
  return done
}
