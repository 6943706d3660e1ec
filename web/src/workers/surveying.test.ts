import { CheckedSurvey } from '@tidytrail/core/checks'
import { movePlaces, removeThings, type Level } from '@tidytrail/core/level'
import { smallLevel as small } from '@tidytrail/core/testing'
import { beforeEach, expect, it } from 'vitest'
import type { SurveyReport } from './surveyor.protocol'
import { makeSurveyor } from './surveying'

/** The small level on even ground, its route where one can walk. */
const smallLevel = (): Level =>
  movePlaces.apply(
    { ...small(), ground: { baseM: 0, heights: null } },
    { places: { wp_a: [20, 20, 0], wp_b: [40, 20, 0] } },
  ).level

const reports: SurveyReport[] = []
const failures: string[] = []
const breathe = () => new Promise<void>((resolve) => setTimeout(resolve, 0))
const settled = async () => {
  for (let k = 0; k < 50; k++) await breathe()
}
function started(survey = new CheckedSurvey()) {
  const surveyor = makeSurveyor(breathe, survey)
  surveyor.start({ report: (r) => reports.push(r), progress: () => {}, failed: (why) => failures.push(why) })
  return surveyor
}
beforeEach(() => {
  reports.length = failures.length = 0
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
