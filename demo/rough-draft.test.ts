import { applyFix, changesProfiles, CHECKS, CheckedSurvey, RUN_CHECKS } from '@tidytrail/core/checks'
import { assertEdited, Ledger, sameValue, type Level } from '@tidytrail/core/level'
import { foundIn, goneBackIn, mendAll, rehearsedOver } from '@tidytrail/core/testing'
import { expect, it } from 'vitest'
import { DEMO_LEVELS } from '.'

/** Both are worked out once, and nobody changes them. */
const level = DEMO_LEVELS.find((d) => d.slug === 'rough-draft')!.make()
const survey = new CheckedSurvey()
survey.update(level)

it('Rough draft shows every kind of finding there is', () => {
  const found = new Set(survey.findings.map((f) => f.check))
  expect([...CHECKS.map((c) => c.id)].filter((id) => !found.has(id))).toEqual([])
})

it('Rough draft shows every kind of finding that only a rehearsal makes', () => {
  const found = foundIn(rehearsedOver(level, survey), 1)
  expect([...new Set(found.map((f) => f.check))].sort()).toEqual(RUN_CHECKS.map((c) => c.id).sort())
  const first = (check: string, name: string) => found.find((f) => f.check === check && f.message.startsWith(name))
  expect(first('rehearsal.stuck', 'Pen watch')!.message).toContain('keeping clear of In the door')
  expect(first('rehearsal.overlap', 'Flap runner')!.message).toContain('stood in Flap guard')
  expect(first('rehearsal.never-arrived', 'Tower watch')!.moment).toBeLessThan(10)
})

it('every fix offered in Rough draft makes a level that may be kept, on the page as on the server', () => {
  const fixes = survey.findings.flatMap((f) => (f.fix ? [f.fix] : []))
  expect(fixes.length).toBeGreaterThan(20)
  for (const fix of fixes) {
    const done = applyFix(level, fix)
    expect(() => assertEdited(done.level, done.patch), fix.label).not.toThrow()
    const ledger = new Ledger(JSON.parse(JSON.stringify(level)) as Level)
    ledger.apply(JSON.parse(JSON.stringify(done.patch)))
    expect(sameValue(ledger.level, done.level), fix.label).toBe(true)
    ledger.apply(JSON.parse(JSON.stringify(done.inverse)))
    expect(sameValue(ledger.level, level), fix.label).toBe(true)
  }
})

it('mending Rough draft with whatever is offered ends with fewer findings and none graver', () => {
  const { first, last, findings, level: mended } = mendAll(level, 1, (fix) => !changesProfiles(fix))
  expect(last[0]).toBeLessThan(first[0] / 2)
  expect(last[1]).toBeLessThan(first[1])
  expect(findings).toEqual(new CheckedSurvey().update(mended))
}, 180_000)

it('Rough draft rehearsed, gone back in and gone on with gives the very same bits', () => {
  const again = rehearsedOver(level, survey, 30)
  const same = { hash: again.hash, verdicts: again.verdicts() }
  expect(goneBackIn(again, [17.3, 2, 29])).toEqual([same, same, same])
})
