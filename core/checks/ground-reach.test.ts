import { describe, expect, it } from 'vitest'
import { levelSchema, PRESETS, type Level, type LevelInput } from '@tidytrail/core/level'
import { box, sceneLevel } from '@tidytrail/core/testing'
import { applyFix, CheckedSurvey } from '.'

const findings = (level: Level) => new CheckedSurvey().update(level)
const only = (level: Level, check: string) => findings(level).filter((f) => f.check === check)
const mend = (level: Level, check: string) => applyFix(level, only(level, check)[0].fix!).level
const scene = (more: Partial<LevelInput>, solids: Parameters<typeof sceneLevel>[2] = {}) =>
  sceneLevel(40, 20, solids, more)

/** A warden who walks from (3, 10) to (20, 10). */
const walk = (more: Partial<LevelInput> = {}): Partial<LevelInput> => ({
  waypoints: { wp_a: { at: [3, 10, 0] }, wp_b: { at: [20, 10, 0] } },
  routes: {
    rt_a: {
      name: 'Beat',
      stops: { st_a: { waypointId: 'wp_a' }, st_b: { waypointId: 'wp_b' } },
      order: ['st_a', 'st_b'],
    },
  },
  briefs: { br_a: { name: 'B', steps: { bs_a: { kind: 'follow-route', routeId: 'rt_a' } }, order: ['bs_a'] } },
  spawners: { sp_a: { name: 'Gate', at: [3, 10, 0], profileId: 'pf_warden', briefId: 'br_a' } },
  ...more,
})
const deck = { sd_deck: box(10.1, 5.1, 25.1, 15.1, 4, { walkable: true, name: 'Deck' }) }
type Passage = NonNullable<LevelInput['passages']>[string]
const ladder = (more: Partial<Passage> = {}): Passage => ({
  name: 'Rungs',
  kind: 'ladder',
  from: [9, 10, 0],
  to: [11, 10, 4],
  ...more,
})

describe('what lies outside the level', () => {
  it('is named and moved to its edge', () => {
    const level = scene({ markers: { mk_a: { name: 'Buoy', at: [55, 10, 0] } } })
    expect(only(level, 'ground.outside-extent')[0].message).toBe('Buoy lies outside the extent of the level.')
    expect(mend(level, 'ground.outside-extent').markers.mk_a.at).toEqual([40, 10, 0])
  })
  it('is found when the extent shrinks, without anything else having changed', () => {
    const survey = new CheckedSurvey()
    const level = scene({ markers: { mk_a: { name: 'Buoy', at: [35, 10, 0] } } })
    expect(survey.update(level)).toEqual([])
    const smaller = { ...level, settings: { ...level.settings, extent: { ...level.settings.extent, maxX: 30 } } }
    expect(survey.update(smaller).map((f) => f.check)).toEqual(['ground.outside-extent'])
  })
})

it('a post swallowed by a solid is put on top of it', () => {
  const level = scene({ posts: { ps_a: { name: 'Lookout', at: [15, 10, 1] } } }, deck)
  expect(only(level, 'ground.solid-overlap')[0].message).toBe('Lookout lies 3.00 m inside Deck.')
  expect(mend(level, 'ground.solid-overlap').posts.ps_a.at).toEqual([15, 10, 4])
})

describe('a profile in use', () => {
  it('without any reach is a blocker that says why', () => {
    const skiff = PRESETS.find((p) => p.medium === 'water')!
    const level = scene(walk({ profiles: { pf_warden: skiff } }))
    expect(only(level, 'reach.none')[0].message).toBe(
      'Skiff can be nowhere in this level. There is no water deep and wide enough for it.',
    )
  })
  it('left out of a reach area its route crosses can be let in', () => {
    const ring = (x0: number, x1: number): [number, number][] => [
      [x0, 0],
      [x1, 0],
      [x1, 20],
      [x0, 20],
    ]
    const level = scene(
      walk({
        reachAreas: {
          ra_w: { name: 'West yard', ring: ring(0, 12), profileIds: ['pf_warden'] },
          ra_e: { name: 'East yard', ring: ring(12, 40), profileIds: [] },
        },
      }),
    )
    expect(only(level, 'reach.area-profile')[0].message).toBe(
      'Stop 2 of Beat lies in East yard, which leaves out Warden.',
    )
    expect(findings(mend(level, 'reach.area-profile'))).toEqual([])
  })
})

describe('passages', () => {
  const upstairs = (passage: Passage) =>
    scene(
      walk({ waypoints: { wp_a: { at: [3, 10, 0] }, wp_b: { at: [20, 10, 4] } }, passages: { pg_a: passage } }),
      deck,
    )

  it('that join what a route needs leave nothing to find', () => {
    expect(findings(upstairs(ladder()))).toEqual([])
  })
  it('whose end misses the floor say by how much, and are moved onto it', () => {
    const level = upstairs(ladder({ to: [9.6, 10, 4], catchM: 0.5 }))
    const [finding] = only(level, 'reach.passage-loose')
    expect(finding.message).toMatch(
      /^Rungs is loose: its end misses the floor Warden can stand on by 0\.85 m \(it catches within 0\.50 m\)\.$/,
    )
    expect(findings(level).some((f) => f.check === 'route.leg-blocked')).toBe(true)
    expect(findings(mend(level, 'reach.passage-loose'))).toEqual([])
  })
  it('more than a profile can do say so; a jump down only is made one way', () => {
    const jump = ladder({ kind: 'jump', name: 'Leap', from: [10.6, 10, 1.8], to: [9.6, 10, 0] })
    const low = scene({ passages: { pg_a: jump } }, { sd_deck: box(10.1, 5.1, 25.1, 15.1, 1.8, { walkable: true }) })
    expect(only(low, 'reach.passage-beyond')[0].message).toMatch(/^Leap is too much: it leads up 1\.80 m/)
    expect(only(mend(low, 'reach.passage-beyond'), 'reach.passage-beyond')).toEqual([])
  })
  it('one way to where nothing leads back are traps, unless another way does', () => {
    const level = upstairs(ladder({ twoWay: false }))
    expect(only(level, 'reach.passage-one-way-trap')[0].message).toBe(
      'Rungs is a trap for Warden: no way leads back from its end.',
    )
    const back = { ...ladder({ from: [11, 12, 4], to: [9, 12, 0], twoWay: false, name: 'Slide', kind: 'portal' }) }
    const both = levelSchema.parse({ ...level, passages: { ...level.passages, pg_b: back } })
    expect(only(both, 'reach.passage-one-way-trap')).toEqual([])
  })
  it('locked after the fact cut the route again', () => {
    const survey = new CheckedSurvey()
    const level = upstairs(ladder())
    expect(survey.update(level)).toEqual([])
    const locked = { ...level, passages: { pg_a: { ...level.passages.pg_a, state: 'locked' as const } } }
    expect(survey.update(locked).map((f) => f.check)).toContain('route.leg-blocked')
    expect(survey.update(level)).toEqual([])
  })
})

it('a leg through a gap hardly wider than the body is noted, an easy one not', () => {
  const gap = (m: number) =>
    scene(walk(), {
      sd_a: box(10, 0, 11, 10 - m / 2, 3, { name: 'North shed' }),
      sd_b: box(10, 10 + m / 2, 11, 20, 3, { name: 'South shed' }),
    })
  expect(only(gap(0.96), 'reach.narrow').map((f) => f.message)).toEqual([
    'Leg 1 to 2 of Beat squeezes Warden through 0.96 m between South shed and North shed; 1.10 m would be easy.',
  ])
  expect(only(gap(1.2), 'reach.narrow')).toEqual([])
})

it('waypoints of boats rest on the water', () => {
  const skiff = PRESETS.find((p) => p.medium === 'water')!
  const sea = (z: number) =>
    scene(
      walk({
        settings: { extent: { minX: 0, minY: 0, maxX: 40, maxY: 20 }, waterLevelM: 0 },
        ground: { baseM: -3 },
        profiles: { pf_warden: skiff },
        waypoints: { wp_a: { at: [3, 10, z] }, wp_b: { at: [20, 10, z] } },
        spawners: { sp_a: { name: 'Mooring', at: [3, 10, 0], profileId: 'pf_warden', briefId: 'br_a' } },
      }),
    )
  expect(findings(sea(0))).toEqual([])
  expect(findings(sea(1)).map((f) => f.message)).toContain('Stop 1 of Beat hangs 1.00 m above the water.')
})
