import {
  changesProfiles,
  keyOf,
  waysOf,
  waysOut,
  type CheckedSurvey,
  type Finding,
  type Fix,
} from '@tidytrail/core/checks'

/** Which ways out of findings help, by the keys of the findings. */
export type Offers = Record<string, readonly Fix[]>

/** So long nothing must have happened before fixes are tried, ms. */
const QUIET_MS = 250
/** Offers are told about so often, ms. */
const TOLD_EVERY_MS = 60

/** Ways out of a finding that take no working out of a whole reach. */
const waysToTry = (finding: Finding | undefined): readonly Fix[] =>
  finding ? waysOf(finding).filter((fix) => !changesProfiles(fix)) : []

/**
 * Tries the fixes of all findings, the gravest first, while there is nothing else to do. What changes a profile is not
 * tried here: its whole reach would have to be worked out.
 * @param tell is given what has been tried since it was last told
 */
export function makeTrier(survey: CheckedSurvey, tell: (stamp: number, offers: Offers) => void) {
  let waiting: ReturnType<typeof setTimeout> | undefined
  let stamp = 0

  /** Goes on with a finding, of whose ways some have been tried and some found good. */
  function run(mine: number, findings: readonly Finding[], from: number, tried = 0, good: readonly Fix[] = []): void {
    waiting = undefined
    const offers: Record<string, readonly Fix[]> = {}
    const slice = performance.now()
    let k = from
    let ways = waysToTry(findings[k])
    while (k < findings.length && performance.now() - slice < TOLD_EVERY_MS) {
      // One at a time: each may take a while, and who waits is let in between.
      if (tried < ways.length) good = [...good, ...waysOut(survey, findings[k], 1, [ways[tried++]])]
      if (tried < ways.length) continue
      offers[keyOf(findings[k])] = good
      ways = waysToTry(findings[++k])
      tried = 0
      good = []
    }
    tell(mine, offers)
    if (k < findings.length) waiting = setTimeout(() => run(mine, findings, k, tried, good), 0)
  }

  return {
    /** Something is about to happen: what is being tried is left. */
    stop(): void {
      clearTimeout(waiting)
      waiting = undefined
    },
    /** Nothing is left to do on the level of a stamp. @param wanted which findings are to be mended now; all when not given */
    start(of: number, wanted: (finding: Finding) => boolean = () => true): void {
      clearTimeout(waiting)
      stamp = of
      waiting = setTimeout(() => {
        const findings = survey.findings.filter(wanted)
        if (findings.length > 0) run(stamp, findings, 0)
      }, QUIET_MS)
    },
  }
}
