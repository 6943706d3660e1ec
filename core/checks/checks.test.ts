import { describe, expect, it } from 'vitest'
import {
  newStep,
  addThing,
  assignRoute,
  changeThings,
  levelSchema,
  movePlaces,
  removeThings,
  setTravel,
  spawnerSchema,
  waive,
  type Level,
} from '@tidytrail/core/level'
import { box, chance, sceneLevel } from '@tidytrail/core/testing'
import { applyFix, CHECKS, CheckedSurvey } from '.'

/** A level with nothing wrong: a patrol of three stops round a shed, and a warden who walks it. */
function sound(): Level {
  const places: [number, number, number][] = [
    [5, 5, 0],
    [25, 5, 0],
    [25, 25, 0],
  ]
  return levelSchema.parse({
    ...sceneLevel(60, 40, { sd_shed: box(12, 8, 18, 14, 3, { name: 'Shed' }) }),
    waypoints: Object.fromEntries(places.map((at, i) => [`wp_${i}`, { at }])),
    routes: {
      rt_a: {
        name: 'Beat',
        travel: 'round',
        stops: Object.fromEntries(places.map((_, i) => [`st_${i}`, { waypointId: `wp_${i}` }])),
        order: places.map((_, i) => `st_${i}`),
      },
    },
    briefs: { br_a: { name: 'Brief', steps: { bs_a: { kind: 'follow-route', routeId: 'rt_a' } }, order: ['bs_a'] } },
    spawners: { sp_a: { name: 'Gate', at: [4, 4, 0], profileId: 'pf_warden', briefId: 'br_a' } },
  })
}
const findings = (level: Level) => new CheckedSurvey().update(level)
const ids = (level: Level) => findings(level).map((f) => f.check)
const move = (level: Level, id: string, at: [number, number, number]) =>
  movePlaces.apply(level, { places: { [id]: at } }).level
const addBox = (level: Level, id: string, ...args: Parameters<typeof box>) =>
  addThing.apply(level, { in: 'solids', id, thing: levelSchema.shape.solids.parse({ [id]: box(...args) })[id] }).level
/** The level after the first fix of a check has been applied. */
const mended = (level: Level, check: string) => {
  const finding = findings(level).find((f) => f.check === check)
  expect(finding?.fix).toBeDefined()
  return applyFix(level, finding!.fix!).level
}

describe('the checks', () => {
  it('find nothing wrong with a sound level', () => {
    expect(findings(sound())).toEqual([])
  })

  it.each([
    ['waypoint.floating', (l: Level) => move(l, 'wp_1', [25, 5, 1.2]), 'Stop 2 of Beat hangs 1.20 m above the ground.'],
    ['waypoint.buried', (l: Level) => move(l, 'wp_1', [25, 5, -0.6]), 'Stop 2 of Beat lies 0.60 m below the ground.'],
    [
      'waypoint.off-reach',
      (l: Level) => move(l, 'wp_1', [15, 11, 0]),
      'Warden cannot stand at stop 2 of Beat: inside Shed.',
    ],
    ['spawner.inside-solid', (l: Level) => move(l, 'sp_a', [15, 11, 0]), 'Gate lies inside Shed.'],
    [
      'spawner.off-reach',
      (l: Level) => move(l, 'sp_a', [15, 11, 3]),
      'Warden cannot stand at Gate: on top of Shed, which is not for walking on.',
    ],
    [
      'brief.dangling',
      (l: Level) =>
        changeThings.apply(l, {
          in: 'briefs',
          changes: { br_a: { steps: { bs_a: newStep('follow-route') } } },
        }).level,
      'Gate is told to follow a route, but none is chosen.',
    ],
    [
      'route.unassigned',
      (l: Level) =>
        assignRoute.apply(l, { spawnerId: 'sp_a', routeId: null, briefId: 'br_b', stepId: 'bs_b' }).level &&
        changeThings.apply(l, { in: 'spawners', changes: { sp_a: { briefId: null } } }).level,
      'Nobody follows Beat.',
    ],
    [
      'reach.islands',
      (l: Level) => move(addBox(l, 'sd_deck', 40, 10, 50, 20, 1, { walkable: true }), 'sp_a', [45, 15, 1]),
      'down from a solid it is 1.00 m, and Warden steps 0.40 m.',
    ],
    [
      'route.leg-blocked',
      (l: Level) => move(addBox(l, 'sd_deck', 30, 20, 40, 30, 1, { walkable: true }), 'wp_2', [31, 25, 1]),
      'Warden cannot walk leg 2 to 3 of Beat: up onto a solid it is 1.00 m, and Warden steps 0.40 m.',
    ],
  ])('%s is found, said in words and mended by its fix', (check, spoil, message) => {
    const level = spoil(sound())
    const found = findings(level).find((f) => f.check === check)
    expect(found?.message).toContain(message)
    expect(ids(mended(level, check))).not.toContain(check)
  })

  it('route.too-few is found for routes of one stop and of none', () => {
    const one = removeThings.apply(sound(), { ids: ['wp_1', 'wp_2'] }).level
    expect(findings(one).find((f) => f.check === 'route.too-few')?.message).toBe(
      'Beat has only one stop; a route needs at least two.',
    )
    const none = removeThings.apply(one, { ids: ['wp_0'] }).level
    expect(ids(mended(none, 'route.too-few'))).not.toContain('route.too-few')
  })

  it('route.leg-blocked offers to go round when only the drawn line is barred', () => {
    const level = move(
      changeThings.apply(sound(), { in: 'routes', changes: { rt_a: { legs: 'drawn', travel: 'one-way' } } }).level,
      'wp_1',
      [25, 17, 0],
    )
    expect(findings(level)).toMatchObject([{ check: 'route.leg-blocked', fix: { label: 'Find a way round' } }])
    expect(findings(level)[0].message).toContain('as drawn: it gets to where it is too close to Shed (0.')
    expect(ids(mended(level, 'route.leg-blocked'))).toEqual([])
  })

  it('say nothing about a finding that was waived', () => {
    const level = move(sound(), 'wp_1', [25, 5, 1.2])
    const waived = waive.apply(level, {
      id: 'wv_a',
      check: 'waypoint.floating',
      subjects: ['wp_1'],
      reason: 'a lookout on a mast',
    }).level
    expect(ids(waived)).toEqual([])
  })

  it('work on a level that has nothing in it, or no profile', () => {
    const empty = sceneLevel(20, 20, {})
    expect(findings(empty)).toEqual([])
    expect(findings({ ...empty, profiles: {} })).toEqual([])
  })

  it('have each an id, a sentence and a stage of their own', () => {
    expect(new Set(CHECKS.map((c) => `${c.id} of ${c.each}`)).size).toBe(CHECKS.length)
    for (const check of CHECKS) expect(check.sentence).toMatch(/\.$/)
  })
})

it('finds after a run of edits the same as a survey from scratch', () => {
  const next = chance(12)
  const survey = new CheckedSurvey()
  let level = sound()
  survey.update(level)
  for (let k = 0; k < 60; k++) {
    const what = Math.floor(next() * 7)
    const at: [number, number, number] = [next() * 58 + 1, next() * 38 + 1, next() < 0.3 ? 1 : 0]
    if (what === 0)
      level = addBox(level, `sd_n${k}`, at[0], at[1], at[0] + 4, at[1] + 3, 1 + next(), { walkable: next() < 0.5 })
    else if (what === 1) level = move(level, `wp_${k % 3}`, at)
    else if (what === 2) level = move(level, 'sp_a', at)
    else if (what === 3)
      level = setTravel.apply(level, { routeId: 'rt_a', travel: next() < 0.5 ? 'round' : 'there-and-back' }).level
    else if (what === 4)
      level = assignRoute.apply(level, {
        spawnerId: 'sp_a',
        routeId: next() < 0.5 ? 'rt_a' : null,
        briefId: `br_n${k}`,
        stepId: `bs_n${k}`,
      }).level
    else if (what === 5) level = removeThings.apply(level, { ids: [Object.keys(level.solids)[0] ?? 'none'] }).level
    else if (what === 6 && Object.keys(level.spawners).length < 4) {
      level = addThing.apply(level, {
        in: 'spawners',
        id: `sp_n${k}`,
        thing: spawnerSchema.parse({ name: `S${k}`, at, profileId: 'pf_warden' }),
      }).level
    }
    // Sometimes an update is overtaken half way.
    if (k % 5 === 4) survey.updating(level).next()
    else expect(survey.update(level)).toEqual(findings(level))
  }
})
