import { CheckedSurvey } from '@tidytrail/core/checks'
import { changeStops } from '@tidytrail/core/level'
import { foundIn, goneBackIn, rehearsedOver, rowsOfSpawner } from '@tidytrail/core/testing'
import { expect, it } from 'vitest'
import { DEMO_LEVELS } from '.'

/** Both are worked out once, and nobody changes them. */
const level = DEMO_LEVELS.find((d) => d.slug === 'lanternquay')!.make()
const survey = new CheckedSurvey()
survey.update(level)

const run = rehearsedOver(level, survey)

it('Lanternquay by night has nothing wrong, and everyone follows', () => {
  expect(survey.findings).toEqual([])
  const followers = run.verdicts().filter((v) => v.route)
  expect(followers.map((v) => `${v.name} ${v.verdict}`)).toEqual(followers.map((v) => `${v.name} follows`))
  expect(followers).toHaveLength(15)
  // All but the trial that just fails.
  expect(foundIn(run).map((f) => [f.check, f.subjects[0]])).toEqual([['rehearsal.trial-failed', 'tl_past']])
})

it('the trial of Lanternquay that just fails holds with a pause two seconds longer, and all others hold as well', () => {
  const { stops, order } = level.routes.rt_roofbeat
  const lookout = order.find((s) => level.waypoints[stops[s].waypointId].name === 'Lookout')!
  const { minS, maxS } = stops[lookout].pause
  const set = { pause: { minS: minS + 2, maxS: maxS + 2 } }
  const mended = changeStops.apply(level, { stops: { rt_roofbeat: [lookout] }, set }).level
  survey.apart(() => {
    survey.update(mended)
    expect(foundIn(rehearsedOver(mended, survey))).toEqual([])
  })
})

it('Lanternquay by night shows a guard who leaves his post and comes back, sentries in turns, eight porters, and a carter who drives', () => {
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

it('Lanternquay by night rehearsed, gone back in and gone on with gives the very same bits', () => {
  const again = rehearsedOver(level, survey, 30)
  const same = { hash: again.hash, verdicts: again.verdicts() }
  expect(goneBackIn(again, [17.3, 2, 29])).toEqual([same, same, same])
})
