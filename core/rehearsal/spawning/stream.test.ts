import { describe, expect, it } from 'vitest'
import { changeThings, type Level, type Spawner } from '@tidytrail/core/level'
import { laneNet } from '@tidytrail/core/traffic'
import { crossroads, driven, framesOf, withJoins, withLanes, withStreams } from '@tidytrail/core/testing'

/** Two lanes side by side, 300 m long, with one stream onto both. */
const lanes = (stream: Partial<Spawner>): Level =>
  withStreams(
    withLanes({
      a: [
        [40, 100, 0],
        [340, 100, 0],
      ],
      b: [
        [40, 120, 0],
        [340, 120, 0],
      ],
    }),
    { warm: false, ...stream },
  )

/** When each came, seconds, by the lane it came onto. */
function comings(level: Level, seconds: number, seed = 1) {
  const seen = new Map<number, { s: number; x: number; y: number; heading: number }>()
  framesOf(driven(level, seconds, seed)).forEach((rows, f) => {
    for (const r of rows) if (!seen.has(r.key)) seen.set(r.key, { s: f / 10, x: r.x, y: r.y, heading: r.heading })
  })
  return [...seen.values()]
}
const onA = (c: { y: number }) => c.y < 110
const apart = (times: readonly number[]) => times.slice(1).map((t, k) => t - times[k])

describe('a stream', () => {
  it('comes as often as it is told onto each of its lanes, at their beginnings, and faces along them', () => {
    const all = comings(lanes({ perH: 600, headways: 'even' }), 300)
    for (const lane of [all.filter(onA), all.filter((c) => !onA(c))]) {
      expect(Math.abs(lane.length - 50)).toBeLessThanOrEqual(1)
      for (const gap of apart(lane.map((c) => c.s))) expect(gap).toBeCloseTo(6, 0)
    }
    for (const { x, heading } of all) {
      expect(x).toBeLessThan(43)
      expect(Math.abs(heading)).toBeLessThan(0.01)
    }
  })

  it('has headways of a shifted exponential distribution', () => {
    const gaps = [1, 2, 3].flatMap((seed) =>
      apart(
        comings(lanes({ perH: 300 }), 1500, seed)
          .filter(onA)
          .map((c) => c.s),
      ),
    )
    expect(gaps.length).toBeGreaterThan(300)
    const mean = gaps.reduce((a, b) => a + b, 0) / gaps.length
    // 12 s in the mean; the deviation of the mean is (12 − 1) over the root of their number.
    expect(Math.abs(mean - 12)).toBeLessThan(3 * (11 / Math.sqrt(gaps.length)))
    expect(Math.min(...gaps)).toBeGreaterThan(0.9)
    // Eight parts as likely as each other (Cowan 1975, M2): chi-square with seven degrees, 24.3 in 999 of 1000.
    const parts = new Array<number>(8).fill(0)
    for (const gap of gaps) parts[Math.min(7, Math.floor(8 * (1 - Math.exp(-Math.max(0, gap - 1) / 11))))]++
    const told = gaps.length / 8
    expect(parts.reduce((sum, n) => sum + (n - told) ** 2 / told, 0)).toBeLessThan(24.3)
  })

  it('changes its flow by the hours, and ceases when it is told to', () => {
    const hours = [
      { fromS: 100, perH: 0 },
      { fromS: 200, perH: 1200 },
    ]
    const all = comings(lanes({ perH: 360, headways: 'even', hours, untilS: 260 }), 320).filter(onA)
    const within = (from: number, to: number) => all.filter((c) => c.s >= from && c.s < to).length
    expect(within(0, 100)).toBe(10)
    expect(within(101, 200)).toBe(0)
    expect(Math.abs(within(200, 261) - 20)).toBeLessThanOrEqual(1)
    expect(within(262, 320)).toBe(0)
  })

  it('lets nobody appear too near another: who has no room waits, and comes when there is', () => {
    const run = driven(lanes({ perH: 3600, headways: 'even' }), 60)
    for (const rows of framesOf(run))
      for (const p of rows)
        for (const q of rows)
          if (p.key < q.key && Math.abs(p.y - q.y) < 1) expect(Math.abs(p.x - q.x)).toBeGreaterThan(2)
    // Saturated: nobody can follow anybody every second; who is owed is kept.
    expect([...run.engine.world.by.owed].slice(0, 2).every((n) => n > 5)).toBe(true)
  })

  it('has traffic under way from the beginning where it is told to, as much as there is later', () => {
    const at = (t: number, warm: boolean) => framesOf(driven(lanes({ perH: 600, warm }), t)).at(-1)!.length
    expect(at(0.1, false)).toBeLessThan(3)
    // 300 m at 10 m/s: 30 s of 600 an hour on each lane are five.
    const begun = at(0.1, true)
    expect(begun).toBeGreaterThan(4)
    expect(begun).toBeLessThan(17)
  })

  it('is the same with the same seed, and another with another', () => {
    const hash = (seed: number) => driven(lanes({ perH: 600, warm: true }), 20, seed).hash
    expect(hash(1)).toBe(hash(1))
    expect(hash(2)).not.toBe(hash(1))
  })

  it('keeps to a band about the player: nobody appears nearer than it may or farther, who is too far is taken away', () => {
    const level = lanes({ perH: 3000, withinM: 90, beyondM: 30, mostAlive: 12 })
    const profile = level.profiles.pf_w
    const standIn = {
      name: 'Stand-in',
      at: [190, 60, 0],
      profileId: 'pf_me',
      standIn: true,
    }
    const withPlayer: Level = {
      ...level,
      profiles: { ...level.profiles, pf_me: { ...profile, name: 'Me', medium: 'foot', radiusM: 0.3 } },
      spawners: {
        ...level.spawners,
        sp_me: { ...level.spawners.sp_stream, ...standIn, where: 'spot', laneIds: [] } as never,
      },
    }
    const far = (r: { x: number; y: number }) => Math.hypot(r.x - 190, r.y - 60)
    const run = driven(withPlayer, 60)
    const seen = new Set<number>()
    let came = 0
    framesOf(run).forEach((rows) => {
      for (const r of rows) {
        if (r.y < 90) continue
        if (!seen.has(r.key)) {
          came++
          expect(far(r)).toBeGreaterThan(29)
          expect(far(r)).toBeLessThan(91)
        }
        seen.add(r.key)
        expect(far(r)).toBeLessThan(1.15 * 90 + 5)
      }
    })
    expect(came).toBeGreaterThan(12)
  })
})

describe('shares', () => {
  it('at a fork are those of its ways', () => {
    const fork = withJoins(
      withLanes({
        in: [
          [40, 100, 0],
          [120, 100, 0],
        ],
        left: [
          [140, 110, 0],
          [340, 160, 0],
        ],
        on: [
          [140, 100, 0],
          [340, 100, 0],
        ],
      }),
    )
    const ids = Object.keys(fork.links)
    expect(ids).toHaveLength(2)
    const toLeft = ids.find((id) => fork.links[id].toId === 'wp_left0')!
    const onto = ids.find((id) => id !== toLeft)!
    const shared = changeThings.apply(fork, {
      in: 'links',
      changes: { [toLeft]: { share: 1 }, [onto]: { share: 3 } },
    }).level
    const level = withStreams(shared, { perH: 900, laneIds: ['rt_in'], warm: false })
    const took = new Map<number, boolean>()
    for (const rows of framesOf(driven(level, 900))) for (const r of rows) if (r.x > 200) took.set(r.key, r.y > 110)
    const left = [...took.values()].filter(Boolean).length
    const all = took.size
    expect(all).toBeGreaterThan(180)
    // One degree of freedom: below 6.63 in 99 of 100.
    const [a, b] = [all / 4, (3 * all) / 4]
    expect((left - a) ** 2 / a + (all - left - b) ** 2 / b).toBeLessThan(6.63)
  })
})

it('those of a stream go where they are bound for, by the shares of the destinations', () => {
  const level = crossroads()
  const net = laneNet(level)
  const named = (name: string) => [...net.lanes.keys()].find((id) => level.routes[id].name === name)!
  const bound = [
    { laneId: named('e back 1'), share: 2 },
    { laneId: named('n back 1'), share: 1 },
  ]
  const from = named('w ahead 1')
  // Of the ways out of there the one to the south would be taken by a third of them, had they nowhere to go.
  const run = driven(withStreams(level, { laneIds: [from], perH: 600, bound, warm: false }), 900)
  const ended = { east: 0, north: 0, south: 0 }
  const seen = new Map<number, keyof typeof ended>()
  for (const rows of framesOf(run))
    for (const r of rows) {
      if (r.x > 240) seen.set(r.key, 'east')
      else if (r.y > 240) seen.set(r.key, 'north')
      else if (r.y < 160) seen.set(r.key, 'south')
    }
  for (const where of seen.values()) ended[where]++
  expect(ended.south).toBe(0)
  const all = ended.east + ended.north
  expect(all).toBeGreaterThan(120)
  // One degree of freedom: below 6.63 in 99 of 100.
  const [a, b] = [(2 * all) / 3, all / 3]
  expect((ended.east - a) ** 2 / a + (ended.north - b) ** 2 / b).toBeLessThan(6.63)
})

it('a crossroads of streams has as many come as are told, on all its arms', () => {
  const all = comings(withStreams(crossroads(), { perH: 200, warm: false }), 180)
  expect(all.length).toBeGreaterThan(25)
  expect(all.length).toBeLessThan(56)
})
