import { describe, expect, it } from 'vitest'
import { applyFix, CheckedSurvey } from '.'
import { newStep, levelSchema, readLevel, WARDEN, type Level, type LevelInput } from '@tidytrail/core/level'
import { follower, net, planted, sceneLevel, withRoutes, type Place } from '@tidytrail/core/testing'

/** Levels with one fault each: plain, just beyond what is allowed, and just within it. */
const found = (level: Level, check: string) => new CheckedSurvey().update(level).filter((f) => f.check === check)
const withThings = (things: Partial<LevelInput>): Level => levelSchema.parse({ ...sceneLevel(100, 60, {}), ...things })
const square = (x: number, y: number, side = 10): [number, number][] => [
  [x, y],
  [x + side, y],
  [x + side, y + side],
  [x, y + side],
]

describe('ground.outside-extent', () => {
  const KINDS: [string, (ring: [number, number][]) => Partial<LevelInput>][] = [
    ['a cover', (ring) => ({ covers: { cv_a: { name: 'It', kind: 'road', ring } } })],
    ['a zone', (ring) => ({ zones: { zn_a: { name: 'It', ring } } })],
    ['a reach area', (ring) => ({ reachAreas: { ra_a: { name: 'It', ring, profileIds: ['pf_warden'] } } })],
    ['a junction', (ring) => ({ junctions: { jn_a: { name: 'It', ring } } })],
  ]
  it.each(KINDS)('finds %s that lies wholly outside, and none of which a corner lies inside', (_what, make) => {
    const outside = withThings(make(square(120, 10)))
    const [finding] = found(outside, 'ground.outside-extent')
    expect(finding.message).toBe('It lies wholly outside the extent of the level.')
    expect(found(applyFix(outside, finding.fix!).level, 'ground.outside-extent')).toEqual([])
    expect(found(withThings(make(square(100.01, 10))), 'ground.outside-extent')).toHaveLength(1)
    expect(found(withThings(make(square(99.9, 10))), 'ground.outside-extent')).toEqual([])
  })
})

describe('route.not-closed', () => {
  const ring: Place[] = [
    [10, 10, 0],
    [40, 10, 0],
    [40, 40, 0],
    [10, 40, 0],
  ]
  it('finds a circuit that is travelled there and back, and lets it go round', () => {
    const level = withRoutes({ a: { at: ring, kind: 'circuit', travel: 'there-and-back' } })
    const [finding] = found(level, 'route.not-closed')
    expect(finding.message).toBe('a is a circuit that turns back at its end instead of going round.')
    expect(found(applyFix(level, finding.fix!).level, 'route.not-closed')).toEqual([])
  })

  it('finds a lane that comes back to its start, but not one that ends far from it', () => {
    const back = (m: number) => withRoutes({ a: { at: [...ring, [10, 10 + m, 0]], kind: 'lane', travel: 'one-way' } })
    expect(found(back(3), 'route.not-closed')).toHaveLength(1)
    expect(found(back(3.9), 'route.not-closed')).toHaveLength(1)
    expect(found(back(4.1), 'route.not-closed')).toEqual([])
  })

  it('closes ends at one place without leaving two stops there', () => {
    const level = withRoutes({ a: { at: [...ring, [10, 10, 0]], travel: 'one-way' } }, follower('rt_a'))
    const [finding] = found(level, 'route.not-closed')
    const mended = applyFix(level, finding.fix!).level
    expect(mended.routes.rt_a).toMatchObject({ travel: 'round', order: ['st_a0', 'st_a1', 'st_a2', 'st_a3'] })
    expect(mended.waypoints.wp_a4).toBeUndefined()
    const grave = (l: Level) => new CheckedSurvey().update(l).filter((f) => f.severity !== 'note').length
    expect(grave(mended)).toBeLessThan(grave(level))
  })

  it('keeps what was said of the stop that goes, where the first says nothing', () => {
    const pause = { minS: 3, maxS: 5 }
    const say = { 4: { pause, note: 'lights the lamp' } }
    const level = withRoutes({ a: { at: [...ring, [10, 10, 0]], travel: 'one-way', say } })
    const mended = applyFix(level, found(level, 'route.not-closed')[0].fix!).level
    expect(mended.routes.rt_a.stops.st_a0).toMatchObject({ waypointId: 'wp_a0', pause, note: 'lights the lamp' })
  })
})

describe('route.crosses-itself', () => {
  /** A lane that doubles back so tightly that a smooth line through its stops crosses over. */
  const hook = (curve: 'smooth' | 'straight') =>
    withRoutes({
      a: {
        at: [
          [58, 28, 0],
          [35, 40, 0],
          [65, 24, 0],
          [62, 16, 0],
          [25, 12, 0],
        ],
        kind: 'lane',
        legs: 'drawn',
        curve,
      },
    })
  it('finds a smooth line that crosses itself though its stops do not, and straightens it', () => {
    const level = hook('smooth')
    const [finding] = found(level, 'route.crosses-itself')
    expect(finding?.message).toMatch(/^The curve of a crosses itself: /)
    expect(found(applyFix(level, finding.fix!).level, 'route.crosses-itself')).toEqual([])
  })
  it('says nothing of the same stops joined straight', () => {
    expect(found(hook('straight'), 'route.crosses-itself')).toEqual([])
  })
})

describe('route.number-order', () => {
  const named = (...names: string[]) =>
    withRoutes(
      { a: { at: names.map((_, i) => `wp_${i}`) } },
      {
        waypoints: Object.fromEntries(names.map((name, i) => [`wp_${i}`, { name, at: [10 + i * 10, 10, 0] as Place }])),
      },
    )
  it('finds numbers out of order beside names that have none, and leaves those alone', () => {
    const level = named('Q1', 'Gate', 'Q3', '', 'Q2')
    const [finding] = found(level, 'route.number-order')
    expect(finding.message).toBe('a is travelled from Q3 to Q2.')
    const mended = applyFix(level, finding.fix!).level
    expect(Object.values(mended.waypoints).map((w) => w.name)).toEqual(['Q1', 'Gate', 'Q2', '', 'Q3'])
  })
  it('says nothing of one number, of rising ones, or of numbers behind different words', () => {
    for (const level of [named('Q1', 'Gate'), named('Q1', 'Gate', 'Q2'), named('Q2', 'P1', 'R3')])
      expect(found(level, 'route.number-order')).toEqual([])
  })
})

describe('route.gait-missing', () => {
  const asking = (gait: string | null) => {
    const told = follower('rt_a')
    const level = withRoutes(
      {
        a: {
          at: [
            [10, 10, 0],
            [30, 10, 0],
          ],
        },
      },
      told,
    )
    const step = newStep('follow-route', { routeId: 'rt_a', gait })
    return { ...level, briefs: { br_a: { ...level.briefs.br_a, steps: { bs_a: step } } } } as Level
  }
  it('finds a brief that asks for a gait its profile does not have', () => {
    const level = asking('gallop')
    const [finding] = found(level, 'route.gait-missing')
    expect(finding.message).toMatch(/^Step 1 of B asks for “gallop”; Warden of Gate knows walk, /)
    expect(found(applyFix(level, finding.fix!).level, 'route.gait-missing')).toEqual([])
  })
  it('says nothing of one it has, or of none', () => {
    for (const gait of ['run', null]) expect(found(asking(gait), 'route.gait-missing')).toEqual([])
  })
})

describe('a spawner', () => {
  const at = (z: number, x = 20) =>
    withThings({
      spawners: { sp_a: { name: 'Gate', at: [x, 20, z], profileId: 'pf_warden' } },
      solids: {
        sd_w: { shape: 'box', name: 'Wall', at: [30, 20], sizeX: 0.2, sizeY: 10, baseM: 0, heightM: 3 },
      },
    })
  it('high in the air is found and settled, but not one half a metre up', () => {
    const [finding] = found(at(30), 'spawner.floating')
    expect(finding.message).toBe('Gate hangs 30.00 m above the ground.')
    expect(applyFix(at(30), finding.fix!).level.spawners.sp_a.at).toEqual([20, 20, 0])
    expect(found(at(0.51), 'spawner.floating')).toHaveLength(1)
    expect(found(at(0.49), 'spawner.floating')).toEqual([])
  })
  it('too near to a wall is found with the true distance, and moved to where there is room', () => {
    const level = at(0, 29.65)
    const [finding] = found(level, 'spawner.off-reach')
    expect(finding.message).toBe('Warden cannot stand at Gate: too close to Wall (0.25 m of 0.35 m).')
    expect(applyFix(level, finding.fix!).level.spawners.sp_a.at[0]).toBeCloseTo(29.55, 2)
    expect(found(at(0, 29.56), 'spawner.off-reach')).toHaveLength(1)
    expect(found(at(0, 29.54), 'spawner.off-reach')).toEqual([])
  })
})

describe('a route nobody follows', () => {
  /** A low roof over the way: Wardens pass, whoever is taller does not. */
  const under = (more: Partial<LevelInput['settings']> = {}): Level => {
    const level = withRoutes(
      {
        a: {
          at: [
            [10, 10, 0],
            [40, 10, 0],
          ],
        },
      },
      { profiles: { pf_a: { ...WARDEN, name: 'Giant', heightM: 4 }, pf_z: { ...WARDEN, name: 'Ogre', heightM: 5 } } },
      { sd_r: { shape: 'box', name: 'Roof', at: [25, 30], sizeX: 4, sizeY: 70, baseM: 3, heightM: 1 } },
    )
    return { ...level, settings: { ...level.settings, ...more } } as Level
  }
  it('is judged by the slimmest when the level names nobody, however many others there are', () => {
    expect(found(under(), 'route.leg-blocked')).toEqual([])
  })
  it('is judged by whom the level names, and says so', () => {
    const [finding] = found(under({ usualProfileId: 'pf_a' }), 'route.leg-blocked')
    expect(finding.message).toMatch(/^Giant cannot walk leg 1 to 2 of a: .*judged by the usual profile\.$/)
    expect(found(under({ usualProfileId: 'pf_gone' }), 'route.leg-blocked')).toEqual([])
  })
})

describe('fixes of a network', () => {
  const square: Place[] = [
    [10, 10, 0],
    [30, 10, 0],
    [30, 30, 0],
    [10, 30, 0],
  ]
  const wall = {
    shape: 'box' as const,
    name: 'Wall',
    at: [20, 30] as [number, number],
    sizeX: 0.4,
    sizeY: 80,
    baseM: 0,
    heightM: 3,
  }
  const grave = (l: Level) => new CheckedSurvey().update(l).filter((f) => f.severity !== 'note')

  it('link parts where one can walk straight, and link none through a wall', () => {
    const apart = (solids = {}) =>
      net(
        square,
        [
          [0, 3],
          [1, 2],
        ],
        {},
        solids,
      )
    const [open] = found(apart(), 'network.split')
    expect(grave(applyFix(apart(), open.fix!).level)).toEqual([])
    const [shut] = found(apart({ sd_w: wall }), 'network.split')
    expect(shut.fix).toBeUndefined()
    expect(shut.message).toContain('nothing leads straight from one to the other')
  })

  it('put a node at a place that no node sees, and link it; but not where nobody can come', () => {
    const lost = (at: Place, solids = {}) =>
      net(square.slice(0, 2), [[0, 1]], { markers: { mk_a: { name: 'Crate', at } } }, solids)
    const open = lost([60, 10, 0])
    const before = grave(open).length
    const mended = applyFix(open, found(open, 'network.unseen-place')[0].fix!).level
    expect(grave(mended).length).toBeLessThan(before)
    expect(found(mended, 'network.split')).toEqual([])
    const inside = lost([60, 10, 0], { sd_h: { ...wall, at: [60, 10], sizeX: 6, sizeY: 6 } })
    expect(found(inside, 'network.unseen-place')[0].fix).toBeUndefined()
  })
})

it('a stop in the air is none of the faults of a route for those who fly', () => {
  const gull = { ...WARDEN, name: 'Gull', medium: 'air' as const, minAltitudeM: 2, maxAltitudeM: 20 }
  const level = (profileId: string) =>
    withRoutes(
      {
        a: {
          at: [
            [10, 10, 8],
            [40, 10, 8],
          ],
          profileIds: [profileId],
        },
      },
      { profiles: { pf_gull: gull } },
    )
  expect(found(level('pf_gull'), 'waypoint.floating')).toEqual([])
  expect(found(level('pf_warden'), 'waypoint.floating')).toHaveLength(2)
})

it('a link that cannot be walked says what stands in it', () => {
  const places: Place[] = [
    [10, 30, 0],
    [50, 30, 0],
  ]
  const wall = {
    shape: 'box' as const,
    name: 'Hoarding',
    at: [30, 30] as [number, number],
    sizeX: 1,
    sizeY: 20,
    baseM: 0,
    heightM: 3,
  }
  const [finding] = found(net(places, [[0, 1]], {}, { sd_w: wall }), 'link.blocked')
  expect(finding.message).toMatch(
    /^Warden cannot take the link between node 1 of Net and node 2 of Net: it gets to where it is too close to Hoarding \(0\.\d\d m of 0\.35 m\)/,
  )
  expect(finding.at[0]).toBeCloseTo(29.15, 1)
})

it('several briefs that say nothing are mended one after the other, each with a step of its own', () => {
  const base = planted.briefed()
  const { sp_a } = base.spawners
  let level: Level = {
    ...base,
    briefs: { ...base.briefs, br_b: { ...base.briefs.br_a, name: 'C' } },
    spawners: { ...base.spawners, sp_b: { ...sp_a, at: [4, 40, 0], briefId: 'br_b' } },
  }
  for (let k = 0; k < 2; k++) level = applyFix(level, found(level, 'brief.empty')[0].fix!).level
  expect(found(level, 'brief.empty')).toEqual([])
  const steps = Object.values(level.briefs).flatMap((b) => Object.keys(b.steps))
  expect(new Set(steps).size).toBe(2)
  expect(readLevel(level)).toEqual(level)
})
