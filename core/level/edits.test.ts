import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  addRoute,
  addStop,
  addThing,
  addThings,
  applyPatch,
  assertReferences,
  assignRoute,
  blankLevel,
  changeHeights,
  changeSettings,
  changeStops,
  changeThings,
  coverSchema,
  freshName,
  levelSchema,
  markerSchema,
  movePlaces,
  moveStop,
  patchesTouch,
  removeStops,
  removeThings,
  renameLevel,
  reverseRoute,
  reverseRoutes,
  setThings,
  setTravel,
  settleThings,
  solidSchema,
  spawnerSchema,
  type EditResult,
  type Level,
} from '.'

/** One random edit: numbers choose among what the level holds. */
const step = fc.tuple(fc.nat(12), fc.nat(1000), fc.nat(1000), fc.integer({ min: -50, max: 50 }))
type Step = [number, number, number, number]

const pick = (record: object, n: number): string | undefined => {
  const keys = Object.keys(record)
  return keys.length === 0 ? undefined : keys[n % keys.length]
}

function apply(level: Level, [what, a, b, v]: Step, serial: number): EditResult {
  const route = pick(level.routes, a)
  const stop = route ? pick(level.routes[route].stops, b) : undefined
  const spawner = pick(level.spawners, a)
  switch (what) {
    case 0:
      return addRoute.apply(level, { id: `rt_n${serial}`, name: freshName(level.routes, 'Patrol'), kind: 'patrol' })
    case 1:
    case 2:
    case 3: {
      const shared = b % 4 === 0 ? pick(level.waypoints, b) : undefined
      return addStop.apply(level, {
        routeId: route ?? 'rt_none',
        stopId: `st_n${serial}`,
        waypointId: shared ?? `wp_n${serial}`,
        at: shared ? undefined : [v, b / 10, 0],
        index: a % 3 === 0 ? 0 : undefined,
      })
    }
    case 4:
      return movePlaces.apply(level, { places: { [pick(level.waypoints, a) ?? 'wp_none']: [v, v, 1.23456] } })
    case 5:
      return removeStops.apply(level, { routeId: route ?? 'rt_none', stopIds: [stop ?? 'st_none'] })
    case 6:
      return moveStop.apply(level, { routeId: route ?? 'rt_none', stopId: stop ?? 'st_none', to: v })
    case 7:
      return reverseRoute.apply(level, { routeId: route ?? 'rt_none' })
    case 8:
      return removeThings.apply(level, {
        ids: [pick({ ...level.routes, ...level.waypoints, ...level.spawners, ...level.profiles }, b) ?? 'rt_none'],
      })
    case 9:
      return addThing.apply(level, {
        in: 'spawners',
        id: `sp_n${serial}`,
        thing: spawnerSchema.parse({ name: `S${serial}`, at: [v, 0, 0], profileId: pick(level.profiles, a) ?? null }),
      })
    case 10:
      return assignRoute.apply(level, {
        spawnerId: spawner ?? 'sp_none',
        routeId: b % 5 === 0 ? null : (route ?? null),
        briefId: `br_n${serial}`,
        stepId: `bs_n${serial}`,
      })
    case 11:
      return changeStops.apply(level, {
        stops: { [route ?? 'rt_none']: [stop ?? 'st_none'] },
        set: { pause: { minS: a, maxS: a + b } },
      })
    default:
      return a % 2
        ? setTravel.apply(level, { routeId: route ?? 'rt_none', travel: 'round' })
        : renameLevel.apply(level, { name: `Level ${v}` })
  }
}

describe('any sequence of edits', () => {
  it('followed by its undos gives back the same document, and its patches bring a mirror along', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
        const first = blankLevel('Edits')
        let level = first
        let mirror = JSON.parse(JSON.stringify(first)) as Level
        const undos: EditResult['inverse'][] = []
        steps.forEach((s, serial) => {
          const result = apply(level, s, serial)
          level = result.level
          undos.push(result.inverse)
          mirror = applyPatch(mirror, JSON.parse(JSON.stringify(result.patch)))
          assertReferences(level)
        })
        expect(mirror).toEqual(level)
        for (const inverse of undos.reverse()) level = applyPatch(level, inverse)
        expect(level).toEqual(first)
      }),
      { numRuns: 150 },
    )
  })
})

const patrol = (): Level => {
  let level = addRoute.apply(blankLevel('P'), { id: 'rt_a', name: 'Patrol 1', kind: 'patrol' }).level
  for (const k of [1, 2, 3, 4]) {
    level = addStop.apply(level, { routeId: 'rt_a', stopId: `st_${k}`, waypointId: `wp_${k}`, at: [k, 0, 0] }).level
  }
  return level
}

describe('edits of a route', () => {
  it('that turn it round keep the stretches on which lanes are not changed where they are', () => {
    // Three metres long; not to be left to the left on its first.
    const noChange = [{ fromM: 0, toM: 1, side: 'left' as const }]
    const level = changeThings.apply(patrol(), { in: 'routes', changes: { rt_a: { noChange } } }).level
    const there = reverseRoute.apply(level, { routeId: 'rt_a' }).level
    expect(there.routes.rt_a.noChange).toEqual([{ fromM: 2, toM: 3, side: 'right' }])
    const many = reverseRoutes.apply(there, { routeIds: ['rt_a'] }).level
    expect(many.routes.rt_a.noChange).toEqual([{ fromM: 0, toM: 1, side: 'left' }])
  })

  it('that turn it round keep its platforms and parking places where they are', () => {
    const halt = { where: 'left' as const, fromM: 0, toM: 1, minS: 5, maxS: 9, share: 0.5, placeM: 4, profileIds: [] }
    const halts = [halt, { ...halt, where: 'on' as const, fromM: 1, toM: 2 }]
    const level = changeThings.apply(patrol(), { in: 'routes', changes: { rt_a: { halts } } }).level
    const there = reverseRoute.apply(level, { routeId: 'rt_a' }).level
    expect(there.routes.rt_a.halts).toEqual([
      { ...halts[1], fromM: 1, toM: 2 },
      { ...halt, where: 'right', fromM: 2, toM: 3 },
    ])
    expect(reverseRoutes.apply(there, { routeIds: ['rt_a'] }).level.routes.rt_a.halts).toEqual(halts)
  })

  it('reversed twice are nothing', () => {
    const level = patrol()
    const twice = reverseRoute.apply(reverseRoute.apply(level, { routeId: 'rt_a' }).level, { routeId: 'rt_a' }).level
    expect(twice).toEqual(level)
  })

  it('keep a waypoint that another route shares, and drop one nobody uses', () => {
    let level = addRoute.apply(patrol(), { id: 'rt_b', name: 'Other', kind: 'patrol' }).level
    level = addStop.apply(level, { routeId: 'rt_b', stopId: 'st_b1', waypointId: 'wp_2' }).level
    level = removeThings.apply(level, { ids: ['rt_a'] }).level
    expect(Object.keys(level.waypoints)).toEqual(['wp_2'])
  })

  it('leave a brief without its route when that is deleted, rather than with a dead name', () => {
    let level = addThing.apply(patrol(), {
      in: 'spawners',
      id: 'sp_a',
      thing: spawnerSchema.parse({ name: 'S', at: [0, 0, 0], profileId: null }),
    }).level
    level = assignRoute.apply(level, { spawnerId: 'sp_a', routeId: 'rt_a', briefId: 'br_a', stepId: 'bs_a' }).level
    expect(level.briefs.br_a.steps.bs_a).toMatchObject({ routeId: 'rt_a' })
    level = removeThings.apply(level, { ids: ['rt_a'] }).level
    expect(level.briefs.br_a.steps.bs_a).toMatchObject({ routeId: null })
  })

  it('give a spawner that shares its brief one of its own', () => {
    let level = patrol()
    for (const id of ['sp_a', 'sp_b']) {
      level = addThing.apply(level, {
        in: 'spawners',
        id,
        thing: spawnerSchema.parse({ name: id, at: [0, 0, 0], profileId: null }),
      }).level
    }
    level = assignRoute.apply(level, { spawnerId: 'sp_a', routeId: 'rt_a', briefId: 'br_a', stepId: 'bs_a' }).level
    level = changeThings.apply(level, { in: 'spawners', changes: { sp_b: { briefId: 'br_a' } } }).level
    level = addRoute.apply(level, { id: 'rt_b', name: 'B', kind: 'patrol' }).level
    level = assignRoute.apply(level, { spawnerId: 'sp_b', routeId: 'rt_b', briefId: 'br_b', stepId: 'bs_b' }).level
    expect([level.spawners.sp_a.briefId, level.spawners.sp_b.briefId]).toEqual(['br_a', 'br_b'])
    expect(level.briefs.br_a.steps.bs_a).toMatchObject({ routeId: 'rt_a' })
  })

  it('touch other things by value only where they changed something', () => {
    const level = patrol()
    const result = movePlaces.apply(level, { places: { wp_1: [9, 9, 9] } })
    expect(result.patch).toEqual([{ op: 'replace', path: '/waypoints/wp_1/at', value: [9, 9, 9] }])
    expect(result.level.routes).toBe(level.routes)
    expect(result.level.waypoints.wp_2).toBe(level.waypoints.wp_2)
  })
})

it('tells patches that touch the same thing from those that do not', () => {
  const level = patrol()
  const move = (id: string) => movePlaces.apply(level, { places: { [id]: [7, 7, 7] } }).patch
  expect(patchesTouch(move('wp_1'), move('wp_1'))).toBe(true)
  expect(patchesTouch(move('wp_1'), move('wp_2'))).toBe(false)
  expect(patchesTouch(move('wp_1'), removeThings.apply(level, { ids: ['rt_a'] }).patch)).toBe(true)
  expect(patchesTouch(changeSettings.apply(level, { set: { gridM: 2 } }).patch, move('wp_1'))).toBe(false)
})

it('refuses patches that do not fit or reach for a prototype', () => {
  const level = patrol()
  expect(() => applyPatch(level, [{ op: 'replace', path: '/nothing/here/at/all', value: 1 }])).toThrow('does not fit')
  expect(() => applyPatch(level, [{ op: 'add', path: '/__proto__/x', value: 1 }])).toThrow('not allowed')
  expect(solidSchema.safeParse({ shape: 'sphere' }).success).toBe(false)
})

describe('edits of the ground', () => {
  const heights = {
    originX: 0,
    originY: 0,
    spacingM: 5,
    rows: [0, 1, 2].map(() => [0, 0, 0]),
    assetId: null,
    changed: {},
  }
  const level = (): Level => ({ ...blankLevel('Ground'), ground: { baseM: 0, heights } })

  it('change only the rows they touch, and are undone by their inverse', () => {
    const before = level()
    const result = changeHeights.apply(before, { rows: { 1: [1, 2, 3], 9: [9, 9, 9] }, word: 'Raise' })
    expect(result.level.ground.heights!.rows).toEqual([
      [0, 0, 0],
      [1, 2, 3],
      [0, 0, 0],
    ])
    expect(result.patch).toEqual([{ op: 'replace', path: '/ground/heights/rows/1', value: [1, 2, 3] }])
    expect(applyPatch(result.level, result.inverse)).toEqual(before)
  })

  it('add and set things of several kinds as one step', () => {
    const cover = coverSchema.parse({
      name: 'Mud',
      kind: 'mud',
      ring: [
        [0, 0],
        [4, 0],
        [4, 4],
      ],
    })
    const marker = markerSchema.parse({ name: 'Buoy', at: [1, 1, 0] })
    const added = addThings.apply(level(), {
      things: [
        { in: 'covers', id: 'cv_a', thing: cover },
        { in: 'markers', id: 'mk_a', thing: marker },
      ],
    })
    const set = setThings.apply(added.level, {
      things: [
        { in: 'covers', id: 'cv_a', set: { grip: 0.3 } },
        { in: 'markers', id: 'mk_a', set: { at: [2, 1, 0] } },
        { in: 'markers', id: 'mk_gone', set: { at: [0, 0, 0] } },
      ],
    })
    expect(set.level.covers.cv_a.grip).toBe(0.3)
    expect(set.level.markers.mk_a.at).toEqual([2, 1, 0])
    expect(Object.keys(set.level.markers)).toEqual(['mk_a'])
    expect(applyPatch(applyPatch(set.level, set.inverse), added.inverse)).toEqual(level())
  })

  it('settle solids by their underside and places by their height, and leave the rest', () => {
    const solid = solidSchema.parse({ shape: 'cylinder', name: '', at: [5, 5], radiusM: 1, baseM: 3, heightM: 2 })
    const base = {
      ...level(),
      solids: { sd_a: solid },
      markers: { mk_a: markerSchema.parse({ name: '', at: [1, 1, 4] }) },
    }
    const result = settleThings.apply(base, { heights: { sd_a: 0.5, mk_a: 1, xx_gone: 7 } })
    expect(result.level.solids.sd_a.baseM).toBe(0.5)
    expect(result.level.markers.mk_a.at).toEqual([1, 1, 1])
    expect(settleThings.label(base, { heights: { sd_a: 0.5, mk_a: 1 } })).toBe('Settle 2 things')
  })

  it('take a profile out of every passage, area and cover that named it', () => {
    const base = levelSchema.parse({
      ...level(),
      passages: { pg_a: { name: '', kind: 'door', from: [0, 0, 0], to: [1, 0, 0], profileIds: ['pf_warden'] } },
      covers: {
        cv_a: {
          name: '',
          kind: 'road',
          profileIds: ['pf_warden'],
          ring: [
            [0, 0],
            [4, 0],
            [4, 4],
          ],
        },
      },
    })
    const { level: after } = removeThings.apply(base, { ids: ['pf_warden'] })
    expect(after.passages.pg_a.profileIds).toEqual([])
    expect(after.covers.cv_a.profileIds).toEqual([])
  })
})
