import { expect, it } from 'vitest'
import { applyFix, changesProfiles, CheckedSurvey, RUN_CHECKS } from '@tidytrail/core/checks'
import { foundIn, mendAll } from '@tidytrail/core/testing'
import { rehearseLevel } from '@tidytrail/core/rehearsal'
import { assertEdited, Ledger, readLevelText, sameValue, writeLevelText, type Level } from '@tidytrail/core/level'
import { DEMO_LEVELS } from '.'
import { wideSallow } from './wide-sallow'

const make = (slug: string) => DEMO_LEVELS.find((d) => d.slug === slug)!.make()

it.each(DEMO_LEVELS.filter((d) => d.onShelf))('$name is made the same each time and survives its file', ({ make }) => {
  const level = make()
  expect(readLevelText(writeLevelText(level))).toEqual(level)
  expect(make()).toEqual(level)
})

it('Lanternquay by night has nothing wrong, and everyone follows', () => {
  const level = make('lanternquay')
  expect(new CheckedSurvey().update(level)).toEqual([])
  const { verdicts } = rehearseLevel(level).report
  expect(verdicts.map((v) => `${v.name} ${v.verdict}`)).toEqual(verdicts.map((v) => `${v.name} follows`))
  expect(verdicts).toHaveLength(14)
})

it.each(DEMO_LEVELS.filter((d) => d.onShelf))(
  '$name rehearsed, gone back in and gone on with gives the very same bits',
  ({ make: made }) => {
    const level = made()
    const { run } = rehearseLevel(level, { seconds: 30 })
    const { hash } = run
    const verdicts = run.verdicts()
    for (const t of [17.3, 2, 29]) {
      run.backTo(t)
      run.runTo(30)
      expect(run.hash).toBe(hash)
      expect(run.verdicts()).toEqual(verdicts)
    }
  },
)

it('Rough draft shows every kind of finding there is', async () => {
  const { CHECKS } = await import('@tidytrail/core/checks')
  const found = new Set(new CheckedSurvey().update(make('rough-draft')).map((f) => f.check))
  expect([...CHECKS.map((c) => c.id)].filter((id) => !found.has(id))).toEqual([])
})

it('Rough draft shows every kind of finding that only a rehearsal makes', () => {
  const { run } = rehearseLevel(make('rough-draft'))
  const found = foundIn(run, 1)
  expect([...new Set(found.map((f) => f.check))].sort()).toEqual(RUN_CHECKS.map((c) => c.id).sort())
  const first = (check: string, name: string) => found.find((f) => f.check === check && f.message.startsWith(name))
  expect(first('rehearsal.stuck', 'Pen watch')!.message).toContain('keeping clear of In the door')
  expect(first('rehearsal.overlap', 'Flap runner')!.message).toContain('stood in Flap guard')
  expect(first('rehearsal.never-arrived', 'Tower watch')!.moment).toBeLessThan(10)
})

it('Wide Sallow is valid at a small size', () => {
  const level = wideSallow({ sideM: 300, blocks: 36, routes: 10, stopsPerRoute: 6 })
  expect(Object.keys(level.waypoints)).toHaveLength(60)
  expect(readLevelText(writeLevelText(level))).toEqual(level)
})

it('every fix offered in Rough draft makes a level that may be kept, on the page as on the server', () => {
  const level = make('rough-draft')
  const fixes = new CheckedSurvey().update(level).flatMap((f) => (f.fix ? [f.fix] : []))
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

it.each([1, 2])(
  'mending Rough draft with whatever is offered, in order %i, ends with fewer findings and none graver',
  (seed) => {
    const { first, last, findings, level, steps } = mendAll(make('rough-draft'), seed, (fix) => !changesProfiles(fix))
    console.info(`Rough draft: ${first.join('/')} blockers, warnings and notes; ${last.join('/')} after ${steps} fixes`)
    expect(last[0]).toBeLessThan(first[0] / 2)
    expect(last[1]).toBeLessThan(first[1])
    expect(findings).toEqual(new CheckedSurvey().update(level))
  },
  180_000,
)
