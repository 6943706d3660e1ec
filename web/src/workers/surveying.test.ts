import { CheckedSurvey, keyOf } from '@tidytrail/core/checks'
import { movePlaces, removeThings, type Level } from '@tidytrail/core/level'
import { smallLevel as small } from '@tidytrail/core/testing'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { SurveyReport } from './surveyor.protocol'
import { makeSurveyor } from './surveying'
import type { Offers } from './trying'

/** The small level on even ground, its route where one can walk. */
const smallLevel = (): Level =>
  movePlaces.apply(
    { ...small(), ground: { baseM: 0, heights: null } },
    { places: { wp_a: [20, 20, 0], wp_b: [40, 20, 0] } },
  ).level

const reports: SurveyReport[] = []
const failures: string[] = []
let runs = 0
/** What the newest surveyor offers. */
const offered: [number, Offers][] = []
const breathe = () => new Promise<void>((resolve) => setTimeout(resolve, 0))
const settled = async () => {
  for (let k = 0; k < 50; k++) await breathe()
}
function started(survey = new CheckedSurvey()) {
  const mine = ++runs
  const surveyor = makeSurveyor(breathe, survey)
  surveyor.start({
    report: (r) => reports.push(r),
    offers: (stamp, offers) => mine === runs && offered.push([stamp, offers]),
    progress: () => {},
    failed: (why) => failures.push(why),
    news: () => {},
    runFailed: (_run, why) => failures.push(why),
  })
  return surveyor
}
beforeEach(() => {
  reports.length = failures.length = offered.length = 0
})

it('tells of a level as a whole, and after an edit only what is other', async () => {
  const surveyor = started()
  const level = smallLevel()
  surveyor.setLevel(level, 1)
  await settled()
  const [first] = reports
  expect(first.stamp).toBe(1)
  const [profileId] = Object.keys(first.profiles)
  expect(first.profiles[profileId].anew).toBe(true)
  expect(Object.keys(first.profiles[profileId].tiles).length).toBeGreaterThan(0)
  expect(first.routes.rt_a?.paths.length).toBeGreaterThan(0)

  const [x, y, z] = level.waypoints.wp_a.at
  const { patch } = movePlaces.apply(level, { places: { wp_a: [x + 1, y, z] } })
  surveyor.patch(patch, 2)
  await settled()
  const last = reports.at(-1)!
  expect(last.stamp).toBe(2)
  expect(last.profiles[profileId]).toMatchObject({ anew: false, tiles: {} })
  expect(last.routes.rt_a?.paths).not.toEqual(first.routes.rt_a?.paths)
})

it('says that a route is gone', async () => {
  const surveyor = started()
  const level = smallLevel()
  surveyor.setLevel(level, 1)
  await settled()
  surveyor.patch(removeThings.apply(level, { ids: ['rt_a'] }).patch, 2)
  await settled()
  expect(reports.at(-1)!.routes.rt_a).toBeNull()
})

it('answers with the newest level only, however fast they come', async () => {
  const surveyor = started()
  let level: Level = smallLevel()
  surveyor.setLevel(level, 1)
  for (let k = 2; k < 12; k++) {
    const result = movePlaces.apply(level, { places: { wp_a: [5 + k / 2, 5, 0] } })
    level = result.level
    surveyor.patch(result.patch, k)
  }
  await settled()
  expect(reports.at(-1)!.stamp).toBe(11)
  expect(reports.length).toBeLessThan(10)
})

it('says in words that it failed, and works on with the next level', async () => {
  class Breaking extends CheckedSurvey {
    broken = true;
    override *updating(...args: Parameters<CheckedSurvey['updating']>) {
      if (this.broken) throw new Error('a tile is too large')
      yield* super.updating(...args)
    }
  }
  const survey = new Breaking()
  const surveyor = started(survey)
  surveyor.setLevel(smallLevel(), 1)
  await settled()
  expect(failures).toEqual(['a tile is too large'])
  expect(reports).toEqual([])
  survey.broken = false
  surveyor.setLevel(smallLevel(), 2)
  await settled()
  expect(reports.map((r) => r.stamp)).toEqual([2])
})

describe('fixes', () => {
  /** The stop hangs in the air, and another lies where nobody can stand. */
  const faulty = () => movePlaces.apply(smallLevel(), { places: { wp_a: [20, 20, 2], wp_b: [40, 20, 1] } }).level

  it('are tried once nothing else is to be done, and only those that help are offered', async () => {
    const surveyor = started()
    surveyor.setLevel(faulty(), 1)
    await vi.waitFor(() => expect(offered.length).toBeGreaterThan(0))
    const offers = Object.assign({}, ...offered.map(([, o]) => o)) as Offers
    const { findings } = reports.at(-1)!
    expect(Object.keys(offers).sort()).toEqual([...new Set(findings.map(keyOf))].sort())
    expect(offers['waypoint.floating wp_a'].map((f) => f.label)).toEqual(['Settle it on the floor'])
  })

  it('are not tried while the thread is spared, and are when it no longer is', async () => {
    const surveyor = started()
    surveyor.hush(true)
    surveyor.setLevel(faulty(), 1)
    await settled()
    await new Promise((resolve) => setTimeout(resolve, 600))
    expect(reports).toHaveLength(1)
    expect(offered).toEqual([])
    surveyor.hush(false)
    await vi.waitFor(() => expect(offered.length).toBeGreaterThan(0))
  })

  it('are not told of a level that has been left behind', async () => {
    const surveyor = started()
    const level = faulty()
    surveyor.setLevel(level, 1)
    await vi.waitFor(() => expect(reports).toHaveLength(1), { interval: 2 })
    surveyor.patch(movePlaces.apply(level, { places: { wp_b: [40, 20, 0] } }).patch, 2)
    await vi.waitFor(() => expect(offered.length).toBeGreaterThan(0))
    expect(offered.map(([stamp]) => stamp)).not.toContain(1)
  })

  it('are tried when they are asked for, alone and in turn', async () => {
    const surveyor = started()
    surveyor.setLevel(faulty(), 1)
    await settled()
    const [fix] = surveyor.waysOut('waypoint.floating wp_a')!
    expect(fix.label).toBe('Settle it on the floor')
    expect(surveyor.helps('waypoint.floating wp_a', fix)).toBe(true)
    expect(surveyor.helps('waypoint.floating wp_b', fix)).toBe(false)
    expect(surveyor.waysOut('waypoint.floating wp_z')).toBeUndefined()
    const both = ['waypoint.floating wp_a', 'waypoint.floating wp_b']
    expect(surveyor.mendable(both)!.map((f) => f.label)).toEqual(both.map(() => 'Settle it on the floor'))
    // Trying leaves no trace: the next edit is told of as any other.
    surveyor.patch(movePlaces.apply(faulty(), { places: { wp_a: [20, 20, 0] } }).patch, 2)
    await settled()
    expect(reports.at(-1)!.findings.map(keyOf)).not.toContain('waypoint.floating wp_a')
  })
})
