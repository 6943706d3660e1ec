import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { changeThings, junctionSchema, PRESETS, type Junction, type Level } from '@tidytrail/core/level'
import { crossroads, withLanes } from '@tidytrail/core/testing'
import { laneNet, pairsOf, suggestJunctions, usualYields, waysOf, yieldRing, type Pair, type Way } from '.'

const only = (level: Level): Junction => Object.values(level.junctions)[0]
const put = (level: Level, set: Partial<Junction>): Level =>
  changeThings.apply(level, { in: 'junctions', changes: { [Object.keys(level.junctions)[0]]: set } }).level
const pairsIn = (level: Level) => pairsOf(level, laneNet(level), only(level))
const settled = (level: Level, stops = false) =>
  put(level, { yields: usualYields(level, laneNet(level), only(level), stops) })
const arm = (level: Level, way: Way) => laneNet(level).lanes.get(way.from)!.roadId!.slice(3)
const to = (level: Level, way: Way) => laneNet(level).lanes.get(way.to)!.roadId!.slice(3)
const call = (level: Level, way: Way) => `${arm(level, way)}${to(level, way)}`
/** Who of two goes first. */
const first = ({ a, b, settled: s }: Pair) =>
  s.by === 'gives-way' || s.by === 'stops' ? (s.who === a.id ? b : a) : undefined

describe('a junction', () => {
  it('is suggested where ways conflict, and holds them all', () => {
    const level = crossroads()
    expect(Object.keys(level.junctions)).toEqual(['jn_0'])
    expect(waysOf(level, laneNet(level), only(level))).toHaveLength(12)
    expect(suggestJunctions(level, laneNet(level))).toEqual([])
    // Two lanes that go on into one another are none.
    const plain = withLanes({
      a: [
        [0, 0, 0],
        [50, 0, 0],
      ],
      b: [
        [56, 0, 0],
        [90, 0, 0],
      ],
    })
    expect(suggestJunctions(plain, laneNet(plain))).toEqual([])
  })

  it.each(['left', 'right'] as const)('of four arms has the conflicts of such a one, driving on the %s', (side) => {
    const level = crossroads(side, {}, { endsM: 14 })
    const pairs = pairsIn(level)
    const kinds = pairs.map((p) => (p.conflicts.some((c) => c.kind === 'merging') ? 'merging' : 'crossing'))
    // Of single lanes: sixteen crossings, and three ways into each of four exits merge, two by two.
    expect(kinds.filter((k) => k === 'merging')).toHaveLength(12)
    expect(kinds.filter((k) => k === 'crossing')).toHaveLength(16)
    for (const { a, b } of pairs) expect(a.from).not.toBe(b.from)
  })

  it('leaves every conflict open until it is settled, and then none', () => {
    const level = crossroads()
    expect(new Set(pairsIn(level).map((p) => p.settled.by))).toEqual(new Set(['nothing']))
    for (const control of ['give-way', 'stop'] as const) {
      const done = settled(put(level, { control }), control === 'stop')
      expect(pairsIn(done).filter((p) => p.settled.by === 'nothing')).toEqual([])
      expect(pairsIn(done).some((p) => p.settled.by === 'stops')).toBe(control === 'stop')
    }
    expect(new Set(pairsIn(put(level, { control: 'all-way' })).map((p) => p.settled.by))).toEqual(new Set(['all-way']))
  })

  it.each(['left', 'right'] as const)(
    'lets the main road go first, and oncoming ones before who turns across, driving on the %s',
    (side) => {
      const level = crossroads(side)
      const faster = changeThings.apply(level, {
        in: 'roads',
        changes: {
          rd_e: { speedLimitMps: 20 },
          rd_w: { speedLimitMps: 20 },
          rd_n: { speedLimitMps: 9 },
          rd_s: { speedLimitMps: 9 },
        },
      }).level
      const done = settled(put(faster, { control: 'give-way' }))
      const main = new Set(['e', 'w'])
      for (const pair of pairsIn(done)) {
        const goes = first(pair)!
        if (main.has(arm(done, pair.a)) !== main.has(arm(done, pair.b))) expect(main.has(arm(done, goes))).toBe(true)
      }
      expect(yieldRing(pairsIn(done))).toBeUndefined()
      const across = pairsIn(done).find((p) => {
        const names = [call(done, p.a), call(done, p.b)].sort().join(' ')
        return names === (side === 'left' ? 'en we' : 'es we')
      })!
      // From the east one turns across those who come from the west.
      expect(call(done, first(across)!)).toBe('we')
    },
  )

  it('knows no pair that a signal keeps apart, and asks for a give way where two have green together', () => {
    const level = crossroads()
    const ways = waysOf(level, laneNet(level), only(level))
    const from = (...arms: string[]) => ways.filter((w) => arms.includes(arm(level, w))).map((w) => w.id)
    const phase = (linkIds: string[]) => ({ name: '', greenS: 20, amberS: 3, allRedS: 2, linkIds, laneIds: [] })
    const split = put(level, { control: 'signals', phases: ['n', 'e', 's', 'w'].map((a) => phase(from(a))) })
    expect(new Set(pairsIn(split).map((p) => p.settled.by))).toEqual(new Set(['signal']))
    const two = put(level, { control: 'signals', phases: [phase(from('n', 's')), phase(from('e', 'w'))] })
    const open = pairsIn(two).filter((p) => p.settled.by === 'nothing')
    expect(open.length).toBeGreaterThan(0)
    const opposite = { n: 's', s: 'n', e: 'w', w: 'e' } as Record<string, string>
    for (const { a, b } of open) expect(opposite[arm(two, a)]).toBe(arm(two, b))
    expect(pairsIn(settled(two)).filter((p) => p.settled.by === 'nothing')).toEqual([])
  })

  it('tells a round of ways each of which waits for the next', () => {
    const level = crossroads()
    const ways = waysOf(level, laneNet(level), only(level))
    const straight = ['ns', 'ew', 'sn', 'we'].map((name) => ways.find((w) => call(level, w) === name)!)
    const give = (who: Way, other: Way) => ({
      linkId: who.id,
      laneId: null,
      toLinkId: other.id,
      toLaneId: null,
      stops: false,
      watchM: null,
    })
    const round = straight.map((w, k) => give(w, straight[(k + 1) % 4]))
    expect(yieldRing(pairsIn(put(level, { yields: round })))).toHaveLength(4)
    expect(yieldRing(pairsIn(put(level, { yields: round.slice(1) })))).toBeUndefined()
    // Each to the other settles nothing.
    const both = put(level, { yields: [give(straight[0], straight[1]), give(straight[1], straight[0])] })
    expect(new Set(pairsIn(both).map((p) => p.settled.by))).toEqual(new Set(['nothing']))
  })

  it('counts wider bodies where wider ones may drive', () => {
    const level = crossroads()
    const wagon = { ...PRESETS[0], name: 'Wagon', medium: 'wheels' as const, radiusM: 1.6 }
    const wide = { ...level, profiles: { pf_w: wagon } }
    const [a] = waysOf(wide, laneNet(wide), only(wide))
    expect(a.bodyM).toBeCloseTo(3.2, 6)
    expect(waysOf(put(wide, { bodyM: 1 }), laneNet(wide), only(put(wide, { bodyM: 1 })))[0].bodyM).toBe(1)
    const crossing = (l: Level) =>
      pairsOf(l, laneNet(l), only(l)).reduce((sum, p) => sum + p.conflicts[0].a.toM - p.conflicts[0].a.fromM, 0)
    expect(crossing(wide)).toBeGreaterThan(crossing(put(wide, { bodyM: 1 })))
  })

  it('lets a lane that leads round go before those that come in', () => {
    const place = (deg: number, r: number): [number, number, number] => [
      100 + r * Math.cos((deg * Math.PI) / 180),
      100 + r * Math.sin((deg * Math.PI) / 180),
      0,
    ]
    const level = withLanes(
      {
        // Clockwise, as one drives on the left.
        ring: [0, -45, -90, -135, -180, -225, -270, -315].map((deg) => place(deg, 12)),
        in: [place(25, 60), place(18, 22)],
      },
      { links: { ln_in: { fromId: 'wp_in1', toId: 'wp_ring0', twoWay: false } } },
    )
    level.routes.rt_ring.travel = 'round'
    level.routes.rt_ring.curve = 'smooth'
    const ring = Array.from({ length: 12 }, (_, k) => place(k * 30, 20).slice(0, 2) as [number, number])
    const round = { ...level, junctions: { jn_r: junctionSchema.parse({ name: 'Round', ring, control: 'give-way' }) } }
    const done = settled(round)
    const pairs = pairsIn(done)
    expect(pairs).toHaveLength(1)
    expect(first(pairs[0])!.id).toBe('rt_ring')
  })

  it('has ways of straight lanes that lead through, and of a round that begins within it', () => {
    const ring = [[90, -10], [110, -10], [110, 10], [90, 10]] as [number, number][] // prettier-ignore
    const level = withLanes({
      a: [
        [0, 0, 0],
        [200, 0, 0],
      ],
      round: [
        [100, 0, 0],
        [100, 60, 0],
        [160, 60, 0],
        [160, -60, 0],
        [100, -60, 0],
      ],
    })
    level.routes.rt_round.travel = 'round'
    const held = { ...level, junctions: { jn_a: junctionSchema.parse({ name: 'J', ring }) } }
    const [a, round] = waysOf(held, laneNet(held), only(held))
    expect([a.fromM, a.toM, a.line.lengthM]).toEqual([90, 110, 20].map((m) => expect.closeTo(m, 6)))
    // In ten metres before its beginning, out ten after.
    const all = laneNet(held).lanes.get('rt_round')!.line.lengthM
    expect([round.fromM, round.toM]).toEqual([expect.closeTo(all - 10, 6), expect.closeTo(10, 6)])
    expect(round.line.lengthM).toBeCloseTo(20, 6)
    expect(pairsIn(held)).toHaveLength(1)
  })

  it('settles any crossroads whatever its lanes, without a round of waiting', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('left' as const, 'right' as const),
        fc.integer({ min: 1, max: 3 }),
        fc.integer({ min: 1, max: 3 }),
        fc.integer({ min: 12, max: 22 }),
        (side, ahead, back, endsM) => {
          const level = settled(put(crossroads(side, { ahead, back }, { endsM }), { control: 'give-way' }))
          const pairs = pairsIn(level)
          expect(pairs.length).toBeGreaterThan(0)
          expect(pairs.filter((p) => p.settled.by === 'nothing')).toEqual([])
          expect(yieldRing(pairs)).toBeUndefined()
        },
      ),
      { numRuns: 12 },
    )
  })
})
