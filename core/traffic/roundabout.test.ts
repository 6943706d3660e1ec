import { describe, expect, it } from 'vitest'
import { addAndSet, driveOn, type Level } from '@tidytrail/core/level'
import { collisionsIn, driven, framesOf, withRoads, withStreams } from '@tidytrail/core/testing'
import { armsOfRing, laneNet, pairsOf, roundaboutAt, sidesChanged, suggestJoins, yieldRing } from '.'

type Place = [number, number, number]
/** Roads that lead from all over to a place, ending 24 m before it: of so many arms. */
function armsTo(arms: number, side: 'left' | 'right' = 'left', at = [200, 200], oneWay: readonly number[] = []): Level {
  const roads = Object.fromEntries(
    Array.from({ length: arms }, (_, k) => {
      const rad = (2 * Math.PI * k) / arms + 0.1
      const far = (m: number): Place => [at[0] + m * Math.cos(rad), at[1] + m * Math.sin(rad), 0]
      return [`arm${k}`, { points: [far(120), far(24)], ...(oneWay.includes(k) && { back: 0 }) }]
    }),
  )
  const level = withRoads(roads)
  return driveOn.apply(level, { side }).level
}
const ASK = {
  at: [200, 200, 0] as const,
  radiusM: 14,
  widthM: 4,
  name: 'Ring',
  laneId: 'rt_ring',
  junctionId: 'jn_ring',
}
function made(level: Level, ask = ASK): Level {
  const round = roundaboutAt(level, ask)
  if ('why' in round) throw new Error(round.why)
  return addAndSet.apply(level, { add: round.add, set: [], label: 'Add' }).level
}
/** The sign of the area a closed lane leads round: positive when it leads to the left all along. */
function turns(level: Level, laneId = 'rt_ring'): number {
  const { places } = laneNet(level).lanes.get(laneId)!.line
  return Math.sign(places.slice(1).reduce((sum, [x, y], k) => sum + places[k][0] * y - x * places[k][1], 0))
}

describe.each(['left', 'right'] as const)('a roundabout driven on the %s', (side) => {
  it.each([3, 4, 5])(
    'of %i arms has a way in and a way out of each, leads the right way round, and is settled',
    (arms) => {
      const level = made(armsTo(arms, side))
      const net = laneNet(level)
      expect(net.into.get('rt_ring')).toHaveLength(arms)
      expect(net.out.get('rt_ring')).toHaveLength(arms)
      expect(turns(level)).toBe(side === 'right' ? 1 : -1)
      // Nothing more is to be joined, and each that comes in gives way to who is on the ring.
      expect(suggestJoins(net, side)).toEqual([])
      const pairs = pairsOf(level, net, level.junctions.jn_ring)
      expect(pairs.filter((p) => p.settled.by === 'nothing')).toEqual([])
      expect(yieldRing(pairs)).toBeUndefined()
      for (const way of net.into.get('rt_ring')!)
        expect(
          pairs.some(
            (p) => [p.a.id, p.b.id].includes('rt_ring') && p.settled.by === 'gives-way' && p.settled.who === way.id,
          ),
        ).toBe(true)
      // No way in or out bends back on itself.
      for (const way of net.moves.values()) expect(Math.abs(way.turnRad)).toBeLessThan(2)
    },
  )

  it('changed over is one driven on the other side, and changed back the same again', () => {
    const level = made(armsTo(4, side, [200, 200], [2]))
    const other = driveOn.apply(level, sidesChanged(level)).level
    expect(turns(other)).toBe(-turns(level))
    const net = laneNet(other)
    expect(pairsOf(other, net, other.junctions.jn_ring).filter((p) => p.settled.by === 'nothing')).toEqual([])
    for (const way of net.moves.values()) expect(Math.abs(way.turnRad)).toBeLessThan(2)
    const back = driveOn.apply(other, sidesChanged(other)).level
    const first = level.routes.rt_ring.order[0]
    const from = (order: readonly string[]) => [
      ...order.slice(order.indexOf(first)),
      ...order.slice(0, order.indexOf(first)),
    ]
    expect(from(back.routes.rt_ring.order)).toEqual(level.routes.rt_ring.order)
    for (const [id, { at }] of Object.entries(level.waypoints))
      expect(Math.hypot(back.waypoints[id].at[0] - at[0], back.waypoints[id].at[1] - at[1])).toBeLessThan(0.4)
    expect(new Set(back.junctions.jn_ring.yields.map((y) => `${y.linkId} ${y.toLaneId ?? y.toLinkId}`))).toEqual(
      new Set(level.junctions.jn_ring.yields.map((y) => `${y.linkId} ${y.toLaneId ?? y.toLinkId}`)),
    )
  })

  it('is driven round without a collision, and left by every arm', () => {
    const level = withStreams(made(armsTo(4, side)), { perH: 250 })
    const run = driven(level, 200)
    expect(collisionsIn(run)).toEqual([])
    const out = new Set<number>()
    for (const rows of framesOf(run))
      for (const r of rows) {
        const [dx, dy] = [r.x - 200, r.y - 200]
        const leads = Math.cos(r.heading) * dx + Math.sin(r.heading) * dy
        if (Math.hypot(dx, dy) > 60 && leads > 50)
          out.add(Math.round((4 * (Math.atan2(dy, dx) - 0.1)) / (2 * Math.PI) + 4) % 4)
      }
    expect(out.size).toBe(4)
  })
})

describe('a roundabout that cannot be', () => {
  it.each([
    [
      'no road leads there',
      armsTo(4),
      { ...ASK, at: [80, 320, 0] as const },
      'No lane ends or begins within 26 m of the ring: roads that meet there have to end before it.',
    ],
    [
      'two arms lie next to each other',
      withRoads({
        a: {
          points: [
            [320, 200, 0],
            [220, 200, 0],
          ],
        },
        b: {
          points: [
            [300, 265, 0],
            [218, 213, 0],
          ],
        },
      }),
      { ...ASK, radiusM: 8 },
      'Two arms are too near to each other for a ring of this size.',
    ],
  ] as const)('says so: %s', (_, level, ask, why) => {
    expect(roundaboutAt(level, ask)).toEqual({ why })
    expect(armsOfRing(level, ask.at, ask.radiusM)).toBe(why)
  })
})
