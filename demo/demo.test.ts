import { expect, it } from 'vitest'
import { applyFix, changesProfiles, CheckedSurvey, RUN_CHECKS } from '@tidytrail/core/checks'
import { foundIn, mendAll, rowsOfSpawner } from '@tidytrail/core/testing'
import { rehearseLevel } from '@tidytrail/core/rehearsal'
import {
  assertEdited,
  Ledger,
  readLevelText,
  sameValue,
  writeLevelText,
  type Level,
  changeStops,
} from '@tidytrail/core/level'
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
  const { run, report } = rehearseLevel(level)
  const followers = report.verdicts.filter((v) => v.route)
  expect(followers.map((v) => `${v.name} ${v.verdict}`)).toEqual(followers.map((v) => `${v.name} follows`))
  expect(followers).toHaveLength(15)
  // All but the trial that just fails.
  expect(foundIn(run).map((f) => [f.check, f.subjects[0]])).toEqual([['rehearsal.trial-failed', 'tl_past']])
})

it('the trial of Lanternquay that just fails holds with a pause two seconds longer, and all others hold as well', () => {
  const level = make('lanternquay')
  const { stops, order } = level.routes.rt_roofbeat
  const lookout = order.find((s) => level.waypoints[stops[s].waypointId].name === 'Lookout')!
  const { minS, maxS } = stops[lookout].pause
  const set = { pause: { minS: minS + 2, maxS: maxS + 2 } }
  const mended = changeStops.apply(level, { stops: { rt_roofbeat: [lookout] }, set }).level
  expect(foundIn(rehearseLevel(mended).run)).toEqual([])
})

it('Lanternquay by night shows a guard who leaves his post and comes back, sentries in turns, eight porters, and a carter who drives', () => {
  const { run } = rehearseLevel(make('lanternquay'))
  const rows = (spawnerId: string) => rowsOfSpawner(run, spawnerId)
  const far = (r: { x: number; y: number }, x: number, y: number) => Math.hypot(r.x - x, r.y - y)
  // The guard of the office corner is at his post, away for the thief, and at his post again.
  const guard = rows('sp_office').map(([g]) => far(g, 179, 71))
  expect(guard[200]).toBeLessThan(0.6)
  expect(Math.max(...guard)).toBeGreaterThan(20)
  expect(guard.at(-1)).toBeLessThan(0.6)
  // Each of the three pier sentries has stood at the crane side.
  const stood = rows('sp_pier').flatMap((r) => r.filter((q) => far(q, 142, 44) < 0.6 && q.speed < 0.05))
  expect(new Set(stood.map((q) => q.key)).size).toBe(3)
  // From half a minute on there are eight porters, but for those on their way in; they are in one of two places.
  const porters = rows('sp_porters')
  expect(Math.max(...porters.map((r) => r.length))).toBe(8)
  expect(Math.min(...porters.slice(300).map((r) => r.length))).toBeGreaterThan(4)
  const south = new Set(porters.flatMap((r) => r.filter((q) => q.y < 62)).map((q) => q.key)).size
  expect(south).toBeGreaterThan(8)
  expect(south).toBeLessThan(24)
  // The carter goes as fast as carts do, and on foot in between.
  const speeds = rows('sp_carter').flatMap((r) => r.map((q) => q.speed))
  expect(Math.max(...speeds)).toBeGreaterThan(2.5)
  expect(run.engine.events.list.filter((e) => e.kind === 'got-out').length).toBeGreaterThan(5)
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
