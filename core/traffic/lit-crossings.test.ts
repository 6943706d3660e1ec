import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addAndSet, blankLevel, phaseSchema, type Level } from '@tidytrail/core/level'
import { ARMS, walkedCrossroads, withLanes } from '@tidytrail/core/testing'
import {
  crossingOver,
  crossingsAt,
  laneNet,
  lightAt,
  litCrossings,
  longestS,
  redBeforeM,
  sidesChanged,
  straightOver,
  untilNextS,
  usualPhases,
  walkNet,
  walkS,
  waysOf,
} from '.'

const at = (level: Level) => crossingsAt(level, laneNet(level), walkNet(level), level.junctions.jn_0)
const idsOf = (level: Level) => at(level).map((a) => a.crossing.laneId)

describe.each(['left', 'right'] as const)('crossings at a junction, driven on the %s', (side) => {
  it('are those close to it, and no others', () => {
    expect(idsOf(walkedCrossroads(side))).toEqual(['rt_xe', 'rt_xn', 'rt_xs', 'rt_xw'])
    // 3 m wide, so that the nearer edge lies 14.5 m and 15.5 m before the end.
    expect(idsOf(walkedCrossroads(side, { beforeM: 16 }))).toHaveLength(4)
    expect(idsOf(walkedCrossroads(side, { beforeM: 17 }))).toEqual([])
  })

  it('are passed by the ways that come in or go out along their arm', () => {
    const level = walkedCrossroads(side)
    const armOf = (laneId: string) => ARMS.find((key) => Object.values(level.roads[`rd_${key}`].lanes).some((l) => l.laneId === laneId)) // prettier-ignore
    for (const { crossing, ways } of at(level)) {
      const arm = crossing.laneId.slice(4)
      const through = waysOf(level, laneNet(level), level.junctions.jn_0).filter((w) => armOf(w.from) === arm || armOf(w.to) === arm) // prettier-ignore
      expect(ways.map((w) => w.way.id).sort()).toEqual(through.map((w) => w.id).sort())
    }
  })

  it('move the place where one waits at red before them', () => {
    const level = walkedCrossroads(side)
    for (const way of waysOf(level, laneNet(level), level.junctions.jn_0))
      expect(redBeforeM(way, at(level))).toBeCloseTo(4 + 1.5, 6)
  })

  it('have green in the usual stages where nobody goes straight on over them, long enough to get over', () => {
    const level = walkedCrossroads(side)
    const phases = usualPhases(level, laneNet(level), level.junctions.jn_0)
    for (const one of at(level)) {
      const green = phases.filter((p) => p.laneIds.includes(one.crossing.laneId))
      expect(green).toHaveLength(1)
      expect(straightOver(green[0], one)).toEqual([])
      expect(green[0].greenS + green[0].amberS + green[0].allRedS).toBeGreaterThan(walkS(one.crossing))
    }
    expect(litCrossings(level, laneNet(level), walkNet(level)).size).toBe(4)
  })

  it('keep their green where the side that is driven on changes', () => {
    const level = walkedCrossroads(side)
    const { junctions } = sidesChanged(level)
    expect(junctions!.jn_0.phases.map((p) => [...p.laneIds].sort())).toEqual(
      level.junctions.jn_0.phases.map((p) => [...p.laneIds].sort()),
    )
  })
})

it('a crossing in the middle of a street has a stage of its own', () => {
  const street = withLanes({ a: [[10, 100, 0], [200, 100, 0]], b: [[200, 104, 0], [10, 104, 0]] }, { settings: blankLevel('S', 220, 220).settings }) // prettier-ignore
  const over = { a: [100, 96, 0], b: [100, 108, 0] } as const
  const waypoints = { ...street.waypoints, wp_k: { ...street.waypoints.wp_a0, at: [...over.a] as [number, number, number] }, wp_l: { ...street.waypoints.wp_a0, at: [...over.b] as [number, number, number] } } // prettier-ignore
  const stops = { st_k: { ...street.routes.rt_a.stops.st_a0, waypointId: 'wp_k' }, st_l: { ...street.routes.rt_a.stops.st_a0, waypointId: 'wp_l' } } // prettier-ignore
  const route = { ...street.routes.rt_a, name: 'Over', use: 'walk' as const, stops, order: ['st_k', 'st_l'] }
  const ring: [number, number][] = [[95, 95], [105, 95], [105, 109], [95, 109]] // prettier-ignore
  const level = { ...street, waypoints, routes: { ...street.routes, rt_k: route }, junctions: { jn_0: { ...walkedCrossroads().junctions.jn_0, phases: [], yields: [], ring } } } // prettier-ignore
  const phases = usualPhases(level, laneNet(level), level.junctions.jn_0)
  expect(phases.map((p) => [...p.laneIds].sort())).toEqual([['rt_a', 'rt_b'], ['rt_k']])
  expect(phases[1].name).toBe('Walkers')
  // 4 m between the middles of lanes whose vehicles are 2 m wide.
  const [walk] = at(level)
  expect(walk.crossing.toM - walk.crossing.fromM).toBeCloseTo(4 + 3, 6)
  expect(phases[1].greenS + phases[1].amberS + phases[1].allRedS).toBeGreaterThan(7 / 1.2)
})

it('a lane that leads over two arms has green in a stage of its own, as nobody may go straight on over either', () => {
  const level = walkedCrossroads()
  // From beyond the eastern arm round to beyond the northern one.
  const bend = withLanes({ r: [[215, 190, 0], [215, 215, 0], [190, 215, 0]] }) // prettier-ignore
  const routes = { ...level.routes, rt_r: { ...bend.routes.rt_r, use: 'walk' as const } }
  const both = { ...level, waypoints: { ...level.waypoints, ...bend.waypoints }, routes }
  const over = at(both).filter((a) => a.crossing.laneId === 'rt_r')
  expect(over).toHaveLength(2)
  const phases = usualPhases(both, laneNet(both), both.junctions.jn_0)
  expect(phases.filter((p) => p.laneIds.includes('rt_r')).map((p) => p.name)).toEqual(['Walkers'])
  for (const p of phases) for (const one of at(both)) if (p.laneIds.includes(one.crossing.laneId)) expect(straightOver(p, one)).toEqual([]) // prettier-ignore
})

it('the junction that comes first by its id has the lights where two could have them', () => {
  const level = walkedCrossroads()
  const two = { ...level, junctions: { jn_1: level.junctions.jn_0, jn_0: level.junctions.jn_0 } }
  const lit = [...litCrossings(two, laneNet(two), walkNet(two)).values()]
  expect(lit.map((l) => l.id)).toEqual(['jn_0', 'jn_0', 'jn_0', 'jn_0'])
  const dark = { ...level.junctions.jn_0, control: 'give-way' as const }
  expect(litCrossings({ ...level, junctions: { jn_0: dark } }, laneNet(level), walkNet(level)).size).toBe(0)
})

it('a crossing laid on a road without a junction near has no lights', () => {
  const level = walkedCrossroads()
  const ids = { laneId: 'rt_far', fromId: 'wp_far1', toId: 'wp_far2' }
  const more = addAndSet.apply(level, { add: crossingOver(level, 'rd_n', 20, ids), set: [], label: 'Lay' }).level
  expect(idsOf(more)).not.toContain('rt_far')
})

describe('how long green lasts', () => {
  const phase = fc.record({
    greenS: fc.integer({ min: 0, max: 9 }),
    amberS: fc.integer({ min: 0, max: 3 }),
    allRedS: fc.integer({ min: 0, max: 3 }),
    laneIds: fc.constantFrom<string[]>([], ['rt_k']),
  })
  const plans = fc.record({
    offsetS: fc.integer({ min: -20, max: 20 }),
    phases: fc.array(phase.map((p) => phaseSchema.parse(p)), { minLength: 1, maxLength: 4 }), // prettier-ignore
  })

  it('is what turning the clock tells', () => {
    fc.assert(
      fc.property(plans, fc.integer({ min: 0, max: 60 }), (plan, t) => {
        const told = untilNextS(plan, 'rt_k', t + 0.25)
        // On to a quarter of a second at which it is no longer green, and then over what lies between.
        let s = 0
        while (s < 100 && lightAt(plan, 'rt_k', t + 0.25 + s) === 'green') s += 0.25
        if (s === 0 || s === 100) expect(told).toBe(s === 0 ? 0 : Infinity)
        else {
          expect(told).toBeGreaterThanOrEqual(s - 0.25)
          expect(told).toBeLessThanOrEqual(s + 6)
          expect(told).toBeLessThanOrEqual(longestS(plan, 'rt_k'))
        }
      }),
    )
  })
})
