import { describe, expect, it } from 'vitest'
import { addLinks, changeThings, movePlaces } from '@tidytrail/core/level'
import { crossroads, withJoins, withLanes, withRoads } from '@tidytrail/core/testing'
import { backwardLanes, laneNet, suggestJoins, tightestM } from '.'

const pairsIn = (level: Parameters<typeof laneNet>[0], side: 'left' | 'right' = 'left') =>
  suggestJoins(laneNet(level), side).map((s) => `${s.from} ${s.to}`)

describe('the net of lanes', () => {
  it('joins lanes by links and by waypoints they share, and what leads nowhere joins nothing', () => {
    const level = withLanes({
      a: [
        [0, 0, 0],
        [50, 0, 0],
      ],
      b: [
        [60, 0, 0],
        [100, 0, 0],
      ],
      c: [
        [100, 0, 0],
        [140, 0, 0],
      ],
    })
    level.routes.rt_c.stops.st_c0.waypointId = 'wp_b1'
    const linked = addLinks.apply(level, {
      links: [{ id: 'ln_a', fromId: 'wp_a1', toId: 'wp_b0', twoWay: false }],
    }).level
    const net = laneNet(linked)
    expect([...net.moves.values()].map((m) => [m.id, m.from, m.to])).toEqual([
      ['ln_a', 'rt_a', 'rt_b'],
      ['rt_b>rt_c', 'rt_b', 'rt_c'],
    ])
    expect(net.moves.get('ln_a')!.line.lengthM).toBeCloseTo(10, 6)
    expect(net.out.get('rt_b')!.map((m) => m.to)).toEqual(['rt_c'])
    expect(laneNet(level).moves.size).toBe(1)
  })

  it('keeps the joins of a lane that is moved, and all that did not move as it was', () => {
    const level = crossroads()
    const before = laneNet(level)
    const [end] = [...before.moves.values()].filter((m) => m.from.includes('n'))
    const laneId = end.from
    const roadId = before.lanes.get(laneId)!.roadId!
    const { points } = level.roads[roadId]
    const shifted = points.map(([x, y, z]): [number, number, number] => [x, y + 2, z])
    const after = laneNet(changeThings.apply(level, { in: 'roads', changes: { [roadId]: { points: shifted } } }).level)
    expect([...after.moves.keys()]).toEqual([...before.moves.keys()])
    expect(after.moves.get(end.id)).not.toBe(end)
    for (const [id, lane] of after.lanes) if (lane.roadId !== roadId) expect(lane.line).toBe(before.lanes.get(id)!.line)
    const others = [...after.moves.values()].filter(
      (m) => ![m.from, m.to].some((l) => after.lanes.get(l)!.roadId === roadId),
    )
    expect(others.length).toBeGreaterThan(3)
    for (const m of others) expect(m).toBe(before.moves.get(m.id))
  })

  it('leads round a lane that is closed, and out of the middle of one by a link', () => {
    const level = withLanes({
      ring: [
        [0, 0, 0],
        [20, 0, 0],
        [20, 20, 0],
        [0, 20, 0],
      ],
      out: [
        [30, 20, 0],
        [60, 20, 0],
      ],
    })
    level.routes.rt_ring.travel = 'round'
    const linked = addLinks.apply(level, {
      links: [{ id: 'ln_o', fromId: 'wp_ring1', toId: 'wp_out0', twoWay: false }],
    }).level
    const net = laneNet(linked)
    expect(net.lanes.get('rt_ring')!.line.lengthM).toBeCloseTo(80, 6)
    expect(net.moves.get('ln_o')).toMatchObject({ fromM: 20, toM: 0 })
    expect(suggestJoins(net, 'left').map((s) => s.from)).not.toContain('rt_ring')
  })
})

describe('suggested joins', () => {
  it('join an end with the beginning ahead of it, and with nothing behind, beside or turned away', () => {
    const level = withLanes({
      a: [
        [0, 0, 0],
        [50, 0, 0],
      ],
      ahead: [
        [56, 0.5, 0],
        [100, 0, 0],
      ],
      behind: [
        [44, 4, 0],
        [100, 30, 0],
      ],
      against: [
        [58, 8, 0],
        [52, 8, 0],
      ],
    })
    expect(pairsIn(level).filter((p) => p.startsWith('rt_a '))).toEqual(['rt_a rt_ahead'])
    expect(suggestJoins(laneNet(level), 'left').find((s) => s.from === 'rt_a')).toMatchObject({ goesOn: true })
    expect(pairsIn(withJoins(level))).toEqual([])
  })

  it.each(['left', 'right'] as const)('make every turn at a crossroads but back, driving on the %s', (side) => {
    const level = crossroads(side)
    const net = laneNet(level)
    const roadOf = (id: string) => net.lanes.get(id)!.roadId
    // Each approach into the three other roads, once.
    const turns = [...net.moves.values()].map((m) => `${roadOf(m.from)} ${roadOf(m.to)}`)
    expect(new Set(turns).size).toBe(12)
    expect(turns).toHaveLength(12)
    for (const m of net.moves.values()) {
      expect(roadOf(m.from)).not.toBe(roadOf(m.to))
      expect(tightestM(m.line)).toBeGreaterThan(2.5)
    }
    expect(suggestJoins(net, side)).toEqual([])
  })

  it.each([
    ['left', 'a2'],
    ['right', 'a2'],
  ] as const)(
    'turn towards the kerb from the kerb lane and across from the inner one, driving on the %s',
    (side, kerb) => {
      const level = crossroads(side, { ahead: 2, back: 2 }, { endsM: 16 })
      const net = laneNet(level)
      const keyOf = (id: string) => net.lanes.get(id)!.key
      for (const m of net.moves.values()) {
        const toKerb = m.turnRad > 0 === (side === 'left')
        if (Math.abs(m.turnRad) < 0.5) expect(keyOf(m.to)!.slice(1)).toBe(keyOf(m.from)!.slice(1))
        else expect(keyOf(m.from)).toBe(toKerb ? kerb : 'a1')
      }
      expect([...net.moves.values()]).toHaveLength(16)
    },
  )

  it('join two roads that meet, at one place or at a bend, both ways, and say that they go on', () => {
    for (const rad of [0, 0.5, -0.5, 0.9]) {
      const level = withRoads({
        a: {
          points: [
            [0, 100, 0],
            [60, 100, 0],
          ],
        },
        b: {
          points: [
            [60, 100, 0],
            [60 + 60 * Math.cos(rad), 100 + 60 * Math.sin(rad), 0],
          ],
        },
      })
      const joins = suggestJoins(laneNet(level), 'left')
      expect(joins.map((s) => [s.from, s.to, s.goesOn])).toEqual([
        ['rt_aa1', 'rt_ba1', true],
        ['rt_bb1', 'rt_ab1', true],
      ])
    }
  })

  it('do not reach over one junction to the next', () => {
    const level = withRoads({
      w: {
        points: [
          [0, 100, 0],
          [90, 100, 0],
        ],
      },
      mid: {
        points: [
          [110, 100, 0],
          [128, 100, 0],
        ],
      },
      e: {
        points: [
          [140, 100, 0],
          [220, 100, 0],
        ],
      },
    })
    const roads = suggestJoins(laneNet(level), 'left').map((s) => {
      const of = (id: string) => laneNet(level).lanes.get(id)!.roadId!.slice(3)
      return `${of(s.from)} ${of(s.to)}`
    })
    expect(roads.sort()).toEqual(['e mid', 'mid e', 'mid w', 'w mid'])
  })
})

describe('lanes drawn backwards', () => {
  const chain = (flipped: readonly number[], count = 6) =>
    withLanes(
      Object.fromEntries(
        Array.from({ length: count }, (_, k) => {
          const places: [number, number, number][] = [
            [k * 30, 0, 0],
            [k * 30 + 14, k % 2, 0],
            [k * 30 + 27, 0, 0],
          ]
          return [`l${k}`, flipped.includes(k) ? places.reverse() : places]
        }),
      ),
    )
  const backIn = (level: ReturnType<typeof chain>, begins?: ReadonlySet<string>) =>
    backwardLanes(laneNet(level), 'left', begins)

  it('are those of a chain that lead against most of it', () => {
    expect(backIn(chain([]))).toEqual([])
    expect(backIn(chain([2]))).toEqual(['rt_l2'])
    expect(backIn(chain([0, 3]))).toEqual(['rt_l0', 'rt_l3'])
    expect(backIn(chain([0, 1, 2, 4, 5]))).toEqual(['rt_l3'])
  })

  it('are found half and half by where somebody is sent along, and by the side one drives on', () => {
    expect(backIn(chain([0, 1, 2]), new Set(['rt_l1']))).toEqual(['rt_l3', 'rt_l4', 'rt_l5'])
    expect(backIn(chain([0, 1, 2]), new Set(['rt_l4']))).toEqual(['rt_l0', 'rt_l1', 'rt_l2'])
    // One comes towards it on its right: so it leads east where one drives on the left.
    const beside = withLanes({
      a: [
        [0, 0, 0],
        [40, 0, 0],
      ],
      b: [
        [83, 0, 0],
        [43, 0, 0],
      ],
      back: [
        [40, -3, 0],
        [0, -3, 0],
      ],
    })
    expect(backwardLanes(laneNet(beside), 'left')).toEqual(['rt_b'])
    expect(backwardLanes(laneNet(beside), 'right')).toEqual(['rt_a'])
  })

  it('never are those of a road: what joins them is', () => {
    const level = withRoads(
      {
        r: {
          points: [
            [0, 0, 0],
            [50, 0, 0],
          ],
          ahead: 1,
          back: 0,
        },
      },
      withLanes({
        a: [
          [90, 0, 0],
          [55, 0, 0],
        ],
        b: [
          [130, 0, 0],
          [95, 0, 0],
        ],
      }),
    )
    expect(backwardLanes(laneNet(level), 'left')).toEqual(['rt_a', 'rt_b'])
    const moved = movePlaces.apply(level, { places: { wp_a1: [70, 40, 0] } }).level
    expect(backwardLanes(laneNet(moved), 'left')).toEqual([])
  })
})
