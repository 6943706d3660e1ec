import { CheckedSurvey, keyOf, type Finding } from '@tidytrail/core/checks'
import { distanceToBox } from '@tidytrail/core/geometry'
import { movePlaces, removeThings, type Level, sneakLineSchema } from '@tidytrail/core/level'
import { smallLevel as small } from '@tidytrail/core/testing'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { heard } from './list-news'
import type { ProfileReach, SurveyReport, TileDrawing } from './surveyor.protocol'
import { makeSurveyor } from './surveying'
import type { Offers } from './trying'

/** The small level on even ground, its route where one can walk. */
const smallLevel = (): Level =>
  movePlaces.apply(
    { ...small(), ground: { baseM: 0, heights: null } },
    { places: { wp_a: [20, 20, 0], wp_b: [40, 20, 0] } },
  ).level

const reports: SurveyReport[] = []
/** The findings of the newest surveyor, as they are put together from its reports. */
let findings: readonly Finding[] = []
/** What was shown of the reach looked at, each with how many reports there had been. */
const pictures: { stamp: number; profileId: string; reach: ProfileReach; reports: number }[] = []
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
    report: (r) => {
      if (mine !== runs) return
      findings = heard(findings, r.findings)
      reports.push(r)
    },
    picture: (stamp, profileId, reach) =>
      mine === runs && pictures.push({ stamp, profileId, reach, reports: reports.length }),
    offers: (stamp, offers) => mine === runs && offered.push([stamp, offers]),
    progress: () => {},
    failed: (why) => failures.push(why),
    news: () => {},
    runFailed: (_run, why) => failures.push(why),
  })
  return surveyor
}
beforeEach(() => {
  reports.length = failures.length = offered.length = pictures.length = 0
  findings = []
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
    await vi.waitFor(() => expect(offered.length).toBeGreaterThan(0), { timeout: 20_000 })
    const offers = Object.assign({}, ...offered.map(([, o]) => o)) as Offers
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
    await vi.waitFor(() => expect(offered.length).toBeGreaterThan(0), { timeout: 20_000 })
  })

  it('are not tried on a survey that is being worked on', async () => {
    /** One that is not through before something comes of fixes that are tried too early. */
    class Slow extends CheckedSurvey {
      slow = false;
      override *updating(...asked: Parameters<CheckedSurvey['updating']>): ReturnType<CheckedSurvey['updating']> {
        const until = performance.now() + (this.slow ? 800 : 0)
        while (performance.now() < until) yield { done: 0, total: 1, boxes: () => [], ready: undefined, mapOf: () => undefined } // prettier-ignore
        yield* super.updating(...asked)
      }
    }
    const survey = new Slow()
    const surveyor = started(survey)
    surveyor.setLevel(faulty(), 1)
    await vi.waitFor(() => expect(offered.length).toBeGreaterThan(0), { timeout: 20_000 })
    offered.length = 0
    survey.slow = true
    surveyor.setLevel(faulty(), 2)
    surveyor.hush(true)
    surveyor.hush(false)
    await vi.waitFor(() => expect(reports.length + offered.length).toBeGreaterThan(1), { timeout: 5000, interval: 2 })
    survey.slow = false
    expect([reports.at(-1)!.stamp, offered]).toEqual([2, []])
  })

  it('of what is drawn for a rehearsal are tried even then', async () => {
    const surveyor = started()
    surveyor.hush(true)
    const level = faulty()
    const [id, spawner] = Object.entries(level.spawners)[0]
    const line = sneakLineSchema.parse({ name: 'Off', points: [[10, 10, 0], [500, 10, 0]] }) // prettier-ignore
    const sneak = { ...level, spawners: { ...level.spawners, [id]: { ...spawner, standIn: true } } }
    surveyor.setLevel({ ...sneak, sneakLines: { sl_a: line } }, 1)
    await vi.waitFor(() => expect(offered.length).toBeGreaterThan(0), { timeout: 20_000 })
    await new Promise((resolve) => setTimeout(resolve, 300))
    expect(offered.flatMap(([, o]) => Object.keys(o))).toEqual(['sneak-line.blocked sl_a'])
  })

  it('are not told of a level that has been left behind', async () => {
    const surveyor = started()
    const level = faulty()
    surveyor.setLevel(level, 1)
    await vi.waitFor(() => expect(reports).toHaveLength(1), { interval: 2, timeout: 20_000 })
    surveyor.patch(movePlaces.apply(level, { places: { wp_b: [40, 20, 0] } }).patch, 2)
    await vi.waitFor(() => expect(offered.length).toBeGreaterThan(0), { timeout: 20_000 })
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
    expect(findings.map(keyOf)).not.toContain('waypoint.floating wp_a')
  })
})

describe('the reach that is looked at', () => {
  it('is shown before the rest has been worked through, and not told again', async () => {
    const surveyor = started()
    const level = smallLevel()
    const [profileId] = Object.keys(level.profiles)
    surveyor.look(profileId, 20, 20)
    surveyor.setLevel(level, 1)
    await settled()
    const whole = pictures.find(({ reach }) => reach.islands.length > 0)!
    expect(whole).toMatchObject({ stamp: 1, profileId, reports: 0 })
    expect(Object.keys(whole.reach.tiles).length).toBeGreaterThan(0)
    expect(reports[0].profiles[profileId]).toMatchObject({ anew: false, tiles: {} })
    expect(reports[0].profiles[profileId].islands).toEqual(whole.reach.islands)
  })

  it('is shown as far as it has come where it takes long, the place looked at first', async () => {
    const now = vi.spyOn(performance, 'now')
    // Every look at the clock is half a second later: there is always time for another picture.
    let ms = 0
    now.mockImplementation(() => (ms += 500))
    const survey = new CheckedSurvey()
    const surveyor = started(survey)
    const level = smallLevel()
    const [profileId] = Object.keys(level.profiles)
    const [x, y] = [level.settings.extent.maxX - 1, level.settings.extent.maxY - 1]
    surveyor.look(profileId, x, y)
    surveyor.setLevel(level, 1)
    await settled()
    now.mockRestore()
    const { map } = survey.plannerFor(profileId)!
    const nearFirst = [...map.tiles.keys()].sort(
      (a, b) => distanceToBox(map.tileBox(a), x, y) - distanceToBox(map.tileBox(b), x, y),
    )
    const first = Object.keys(pictures[0].reach.tiles).map(Number)
    expect(first.length).toBeLessThan(map.tiles.length / 2)
    expect(nearFirst.slice(0, 8)).toEqual(expect.arrayContaining(first))
    // Put together, the pictures and the report hold every tile as it is.
    const told = new Map<number, TileDrawing>()
    for (const { reach } of [...pictures, { reach: reports[0].profiles[profileId] }])
      for (const [k, tile] of Object.entries(reach.tiles)) told.set(Number(k), tile)
    map.tiles.forEach((tile, k) =>
      expect(told.get(k)!.rings.map((r) => r.island)).toEqual(
        tile.outline.rings.map((r) => map.islands.ofPart[map.islands.partBase[k] + r.part]),
      ),
    )
  })
})
