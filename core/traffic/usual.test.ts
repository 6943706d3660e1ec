import { describe, expect, it } from 'vitest'
import { driveOn, movePlaces } from '@tidytrail/core/level'
import { crossroads, withLanes } from '@tidytrail/core/testing'
import { laneNet, sidesSwapped, usualPhases, waitsAtM, watchedStretches, waysOf } from '.'

const only = (level: ReturnType<typeof crossroads>) => level.junctions.jn_0

describe('usual stages', () => {
  const level = crossroads()
  const net = laneNet(level)
  const phases = usualPhases(level, net, only(level))
  const armOf = (linkId: string) => net.lanes.get(net.moves.get(linkId)!.from)!.roadId!.slice(3)

  it('give those green together who face each other, and everybody once', () => {
    expect(phases.map((p) => [...new Set(p.linkIds.map(armOf))].sort().join('')).sort()).toEqual(['ew', 'ns'])
    const all = phases.flatMap((p) => p.linkIds)
    expect(new Set(all).size).toBe(12)
    expect(all).toHaveLength(12)
    for (const p of phases) expect(p.allRedS).toBeGreaterThanOrEqual(1)
  })

  it('last as long as what comes asks for', () => {
    const flow = (laneId: string) => (['n', 's'].includes(net.lanes.get(laneId)!.roadId!.slice(3)) ? 900 : 300)
    const greens = usualPhases(level, net, only(level), flow).map((p) => p.greenS)
    expect(Math.max(...greens) / Math.min(...greens)).toBeCloseTo(3, 0)
    expect(usualPhases(level, net, { ...only(level), ring: [[0, 0], [1, 0], [1, 1]] })).toEqual([]) // prettier-ignore
  })
})

describe('driving on the other side', () => {
  it('lets two lanes side by side change places, each going on where it led, and back again', () => {
    const level = withLanes({
      east: [
        [0, 3, 0],
        [40, 3, 0],
        [80, 13, 0],
      ],
      west: [
        [80, 10, 0],
        [40, 0, 0],
        [0, 0, 0],
      ],
      alone: [
        [0, 50, 0],
        [80, 50, 0],
      ],
    })
    const moves = sidesSwapped(laneNet(level), level.waypoints)
    expect(Object.keys(moves).sort()).toEqual(['wp_east0', 'wp_east1', 'wp_east2', 'wp_west0', 'wp_west1', 'wp_west2'])
    const other = driveOn.apply(level, { side: 'right', moves }).level
    expect(other.waypoints.wp_east0.at[1]).toBeCloseTo(0, 1)
    expect(other.waypoints.wp_west2.at[1]).toBeCloseTo(3, 1)
    // It still leads from west to east.
    expect(other.waypoints.wp_east2.at[0]).toBeGreaterThan(other.waypoints.wp_east0.at[0] + 70)
    const back = sidesSwapped(laneNet(other), other.waypoints)
    const again = movePlaces.apply(other, { places: back }).level
    for (const id of Object.keys(moves)) {
      const [x, y] = level.waypoints[id].at
      expect(Math.hypot(again.waypoints[id].at[0] - x, again.waypoints[id].at[1] - y)).toBeLessThan(1.2)
    }
  })
})

describe('what a give-way line watches', () => {
  const level = crossroads()
  const net = laneNet(level)
  const ways = waysOf(level, net, only(level))

  it('is so much of the way itself and of the lane it comes from', () => {
    const [way] = ways
    const own = 5
    const stretches = watchedStretches(net, way, own, 60)
    expect(stretches).toEqual([
      { id: way.id, isLane: false, fromM: 0, toM: own, aheadM: 0 },
      { id: way.from, isLane: true, fromM: expect.closeTo(way.fromM - 55, 6), toM: way.fromM, aheadM: own },
    ])
  })

  it('goes on into all that lead there, and round a lane that is closed but once', () => {
    const chain = withLanes(
      {
        a: [
          [0, 0, 0],
          [40, 0, 0],
        ],
        b: [
          [0, 30, 0],
          [44, 2, 0],
        ],
        c: [
          [50, 0, 0],
          [70, 0, 0],
        ],
        ring: [
          [200, 0, 0],
          [220, 0, 0],
          [220, 20, 0],
          [200, 20, 0],
        ],
      },
      {
        links: {
          ln_a: { fromId: 'wp_a1', toId: 'wp_c0', twoWay: false },
          ln_b: { fromId: 'wp_b1', toId: 'wp_c0', twoWay: false },
        },
      },
    )
    chain.routes.rt_ring.travel = 'round'
    const own = laneNet(chain)
    const through = (laneId: string, fromM: number) => ({ ...ways[0], isLink: false, from: laneId, fromM })
    const found = watchedStretches(own, through('rt_c', 10), 5, 40)
    expect(found.map((s) => s.id)).toEqual(['rt_c', 'ln_a', 'rt_a', 'ln_b', 'rt_b'])
    const sum = (id: string) => found.filter((s) => s.id === id).reduce((m, s) => m + s.toM - s.fromM, 0)
    // Forty in all: fifteen of the lane, the link, and what is left of the lane before.
    expect(sum('rt_c')).toBeCloseTo(15, 6)
    expect(sum('rt_a')).toBeCloseTo(40 - 15 - own.moves.get('ln_a')!.line.lengthM, 6)
    const round = watchedStretches(own, through('rt_ring', 10), 0, 1000)
    expect(round.reduce((m, s) => m + s.toM - s.fromM, 0)).toBeCloseTo(80, 6)
  })

  it('begins before the first conflict of the way, and never behind its own beginning', () => {
    expect(waitsAtM([{ own: { fromM: 6, toM: 9 } }, { own: { fromM: 4, toM: 5 } }])).toBeCloseTo(3.5, 9)
    expect(waitsAtM([{ own: { fromM: 0.2, toM: 5 } }])).toBe(0)
  })
})
