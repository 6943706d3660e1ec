import { applyFix, CheckedSurvey, type Finding } from '.'
import {
  addLinks,
  addThing,
  changeThings,
  cutLinks,
  driveOn,
  levelSchema,
  removeThings,
  reverseRoutes,
  roadSchema,
  type Edit,
  type EditResult,
  type Level,
} from '@tidytrail/core/level'
import { box, crossroads, WAGON, withJoins, withLanes, withRoads, withStreams } from '@tidytrail/core/testing'
import { laneNet, usualYields } from '@tidytrail/core/traffic'
import { describe, expect, it } from 'vitest'

const solid = (input: ReturnType<typeof box>) => levelSchema.shape.solids.parse({ sd_a: input }).sd_a
const ofLanes = (findings: readonly Finding[]) => findings.filter((f) => /^(lane|junction)\./.test(f.check))
const fresh = (level: Level) => new CheckedSurvey().update(level)
const found = (level: Level, check: string) => fresh(level).filter((f) => f.check === check)

describe('checks of lanes', () => {
  it('after each of many edits say what they say from scratch', () => {
    let level = crossroads('left', { ahead: 1, back: 1 })
    const survey = new CheckedSurvey()
    survey.update(level)
    const laneId = level.roads.rd_n.lanes[0].laneId!
    const [linkId] = Object.keys(level.links)
    const step =
      <A>(edit: Edit<A>, args: A): ((l: Level) => EditResult) =>
      (l) =>
        edit.apply(l, args)
    const shift = (dx: number) =>
      level.roads.rd_e.points.map(([x, y, z]): [number, number, number] => [x + dx, y + dx / 2, z])
    const usual = usualYields(level, laneNet(level), level.junctions.jn_0)
    const looks = (watchM: number | null) => usual.map((y, k) => (k === 2 ? { ...y, watchM } : y))
    const steps = [
      step(changeThings, { in: 'junctions', changes: { jn_0: { control: 'give-way', yields: looks(null) } } }),
      step(changeThings, { in: 'junctions', changes: { jn_0: { yields: looks(7) } } }),
      step(addThing, { in: 'profiles', id: 'pf_slow', thing: { ...WAGON, accelMps2: 0.4 } }),
      step(removeThings, { ids: ['pf_slow'] }),
      step(changeThings, { in: 'junctions', changes: { jn_0: { control: 'all-way' } } }),
      step(cutLinks, { ids: [linkId] }),
      step(changeThings, { in: 'roads', changes: { rd_e: { points: shift(6) } } }),
      step(reverseRoutes, { routeIds: [laneId] }),
      step(driveOn, { side: 'right' }),
      step(removeThings, { ids: ['jn_0'] }),
      step(changeThings, { in: 'roads', changes: { rd_w: { ahead: 2 } } }),
      step(addLinks, { links: [{ id: 'ln_new', fromId: 'wp_na1e', toId: 'wp_ea1s', twoWay: false }] }),
      step(removeThings, { ids: ['rd_s'] }),
      step(addThing, {
        in: 'roads',
        id: 'rd_x',
        thing: roadSchema.parse({ name: 'Across', points: [[100, 100, 0], [300, 320, 0]] }), // prettier-ignore
      }),
    ]
    for (const edit of steps) {
      const before = level
      level = edit(level).level
      expect(level).not.toBe(before)
      expect(survey.update(level)).toEqual(fresh(level))
    }
    expect(ofLanes(survey.findings).length).toBeGreaterThan(3)
  })

  it('tell of ground off the road the same after each of many edits as from scratch', () => {
    const bare = withLanes({
      a: [[10, 50, 0], [50, 50, 0]],
      b: [[53, 50, 0], [90, 50, 0]],
      c: [[53, 90, 0], [90, 90, 0]],
    }) // prettier-ignore
    const link = (to: string) => ({ id: `ln_${to}`, fromId: 'wp_a1', toId: `wp_${to}0`, twoWay: false })
    const joined = addLinks.apply(bare, { links: [link('b'), link('c')] }).level
    const settings = { ...joined.settings, extent: { minX: 0, minY: 0, maxX: 120, maxY: 120 } }
    let level = withStreams({ ...joined, settings }, { laneIds: ['rt_a'] }, { radiusM: 0.5 })
    const { pf_w } = level.profiles
    level = addThing.apply(level, { in: 'profiles', id: 'pf_x', thing: { ...pf_w, name: 'Wide', radiusM: 1 } }).level
    const mixed = levelSchema.parse({ ...level, spawners: { sp_stream: { ...level.spawners.sp_stream, mix: [{ profileId: 'pf_x', weight: 1 }] } } }) // prettier-ignore
    const wall = (x: number, y: number) => box(x, y, x + 4, y + 3)
    const edits: [string, (l: Level) => Level][] = [
      ['a wall near b', (l) => addThing.apply(l, { in: 'solids', id: 'sd_b', thing: solid(wall(65, 50.8)) }).level],
      ['wide ones come too', () => ({ ...mixed, solids: level.solids })],
      ['a wall on the way to c', (l) => addThing.apply(l, { in: 'solids', id: 'sd_c', thing: solid(wall(50, 70)) }).level], // prettier-ignore
      ['b for those who are narrow', (l) => changeThings.apply(l, { in: 'routes', changes: { rt_b: { profileIds: ['pf_w'] } } }).level], // prettier-ignore
      ['no way to c', (l) => cutLinks.apply(l, { ids: ['ln_c'] }).level],
      ['b for all', (l) => changeThings.apply(l, { in: 'routes', changes: { rt_b: { profileIds: [] } } }).level],
      ['wide ones are narrower', (l) => changeThings.apply(l, { in: 'profiles', changes: { pf_x: { radiusM: 0.6 } } }).level], // prettier-ignore
    ]
    const survey = new CheckedSurvey()
    survey.update(level)
    const told = edits.map(([what, edit]) => {
      level = edit(level)
      const findings = survey.update(level)
      expect(findings, what).toEqual(fresh(level))
      return findings.filter((f) => f.check === 'lane.off-road').map((f) => f.subjects[0])
    })
    expect(told).toEqual([[], ['rt_b'], ['ln_c', 'rt_b'], ['ln_c'], [], ['rt_b'], []])
  })

  it('joins a chain drawn half backwards in two strokes', () => {
    const piece = (k: number): [number, number, number][] => [
      [k * 30, 50, 0],
      [k * 30 + 26, 50, 0],
    ]
    let level = withLanes({ a: piece(0), b: piece(1).reverse(), c: piece(2), d: piece(3).reverse(), e: piece(4) })
    const [first] = found(level, 'lane.backwards')
    expect(first.ways![0].label).toBe('Turn all 2 round that lead backwards')
    level = applyFix(level, first.ways![0]).level
    expect(found(level, 'lane.backwards')).toEqual([])
    for (const gap of found(level, 'lane.gap')) level = applyFix(level, gap.fix!).level
    expect(ofLanes(fresh(level)).map((f) => f.check)).toEqual(['lane.dead-end', 'lane.unfed'])
    expect(Object.keys(level.links)).toHaveLength(4)
  })

  it('settles a crossroads made of four roads by what is offered, one after the other', () => {
    const arm = (dx: number, dy: number): [number, number, number][] => [
      [200 + dx * 100, 200 + dy * 100, 0],
      [200 + dx * 12, 200 + dy * 12, 0],
    ]
    let level = withRoads({
      n: { points: arm(0, 1) },
      e: { points: arm(1, 0) },
      s: { points: arm(0, -1) },
      w: { points: arm(-1, 0) },
    })
    for (let round = 0; round < 60; round++) {
      const next = ofLanes(fresh(level)).find((f) => f.fix)
      if (!next) break
      level = applyFix(level, next.fix!).level
    }
    expect(Object.keys(level.links)).toHaveLength(12)
    expect(Object.keys(level.junctions)).toHaveLength(1)
    const left = ofLanes(fresh(level))
    expect(left.map((f) => f.check).filter((c) => c !== 'lane.unfed')).toEqual([])
  })

  it('says of signals what is wrong with them, and mends it', () => {
    const level = crossroads()
    const signals = { ...level, junctions: { jn_0: { ...level.junctions.jn_0, control: 'signals' as const } } }
    const [never] = found(signals, 'junction.phase-starved')
    expect(never.message).toContain('all see red for ever')
    let mended = applyFix(signals, never.fix!).level
    expect(mended.junctions.jn_0.phases).toHaveLength(2)
    const [open] = found(mended, 'junction.conflict-uncontrolled')
    expect(open.message).toContain('both have green together')
    mended = applyFix(mended, open.fix!).level
    expect(ofLanes(fresh(mended)).filter((f) => f.check.startsWith('junction'))).toEqual([])
  })

  it('say once that two roads which meet are not joined, and no more once they are', () => {
    const road = (x: number): [number, number, number][] => [
      [x, 100, 0],
      [x + 60, 100, 0],
    ]
    const level = withRoads({ a: { points: road(0) }, b: { points: road(60) } })
    const said = fresh(level)
    expect(said.map((f) => f.check)).toEqual(['lane.gap', 'lane.gap', 'lane.unfed', 'lane.unfed'])
    expect(said[0].message).toBe('a ahead 1 ends where b ahead 1 begins, and nothing joins them.')
    const joined = said.slice(0, 2).reduce((l, f) => applyFix(l, f.fix!).level, level)
    expect(fresh(joined).map((f) => f.check)).toEqual(['lane.dead-end', 'lane.dead-end', 'lane.unfed', 'lane.unfed'])
  })

  it('offers those who come to the end of a road to turn round there, as wide as the worst turner needs it', () => {
    const road = withRoads({ a: { points: [[20, 100, 0], [120, 100, 0]] } }) // prettier-ignore
    const level = withStreams(road, { laneIds: [road.roads.rd_a.lanes[0].laneId!] }, { turnM: 6.5 })
    const [end] = found(level, 'lane.dead-end')
    expect(end.fix!.label).toBe('Let those who come there leave')
    expect(end.ways!.map((w) => w.label)).toEqual(['Turn round there into a back 1'])
    const mended = applyFix(level, end.ways![0]).level
    expect(Object.values(mended.links)).toMatchObject([{ twoWay: false, turnM: 7.2 }])
    expect(found(mended, 'lane.dead-end').map((f) => f.message)).toEqual([
      'a back 1 ends, and no lane goes on from there.',
    ])
    expect(found(mended, 'lane.too-tight')).toEqual([])
    const tight = changeThings.apply(mended, { in: 'links', changes: { [Object.keys(mended.links)[0]]: { turnM: 4 } } })
    expect(found(tight.level, 'lane.too-tight')).toHaveLength(1)
    // A road wider than one turns across leads back over more than one is near to.
    const wide = withStreams(withRoads({ a: { points: [[20, 100, 0], [120, 100, 0]], medianM: 20 } }), { laneIds: ['rt_x'] }) // prettier-ignore
    expect(found(wide, 'lane.dead-end').flatMap((f) => f.ways?.map((w) => w.label))).not.toContain(
      'Turn round there into a back 1',
    )
  })

  it('say nothing of a track that bends and has passing places, but that nobody comes and where one could leave', () => {
    const points: [number, number, number][] = [[10, 60, 0], [120, 140, 0], [240, 60, 0], [330, 160, 0]] // prettier-ignore
    const level = withRoads({ a: { points, track: true, passing: [{ fromM: 100, toM: 130 }, { fromM: 220, toM: 240 }] } }) // prettier-ignore
    const streams = withStreams(level, {}, { turnM: 5 })
    expect(new Set(fresh(streams).map((f) => f.check))).toEqual(new Set(['lane.dead-end']))
  })

  it('mend a track in no more steps than there is to mend, also where bodies nobody sends are the widest', () => {
    const points: [number, number, number][] = [[10, 100, 0], [300, 100, 0]] // prettier-ignore
    const bare = withRoads({ a: { points, track: true, laneM: 2, passing: [{ fromM: 140, toM: 141 }] } })
    const wide = addThing.apply(bare, { in: 'profiles', id: 'pf_lorry', thing: { ...WAGON, name: 'Lorry', radiusM: 2 } }).level // prettier-ignore
    let level = withStreams(wide, {}, { keepsM: 8 })
    const labels: string[] = []
    for (let k = 0; k < 5; k++) {
      const [next] = found(level, 'lane.passing-short')
      if (!next) break
      labels.push(next.fix!.label)
      level = applyFix(level, next.fix!).level
    }
    expect(labels).toEqual(['Make its lanes 4.40 m wide', 'Make its passing places longer'])
    expect(found(level, 'lane.passing-short')).toEqual([])
    // More than the ends have room for is told, and not mended.
    const [long] = found(withStreams(level, {}, { keepsM: 40 }), 'lane.passing-short').filter((f) => !f.fix)
    const grown = applyFix(withStreams(level, {}, { keepsM: 40 }), found(withStreams(level, {}, { keepsM: 40 }), 'lane.passing-short')[0].fix!).level // prettier-ignore
    expect(long).toBeUndefined()
    expect(found(grown, 'lane.passing-short')).toMatchObject([{ message: expect.stringMatching(/^a has 2\d\.\d m at its end, and Wagon needs 42\.0 m/) }]) // prettier-ignore
    expect(found(grown, 'lane.passing-short')[0].fix).toBeUndefined()
  })

  it('leave lanes that only end side by side, and those of a road, in peace', () => {
    const level = withJoins(withRoads({ a: { points: [[0, 0, 0], [80, 0, 0]], ahead: 2, back: 2 } })) // prettier-ignore
    expect(ofLanes(fresh(level)).map((f) => f.check)).toEqual(Array.from({ length: 4 }, () => 'lane.unfed'))
  })
})
