import { describe, expect, it } from 'vitest'
import { newStep, type LevelInput } from '@tidytrail/core/level'
import {
  at,
  box,
  briefOf,
  castLevel,
  framesOf,
  rehearsed,
  rowsOfSpawner,
  sceneLevel,
  type Row,
} from '@tidytrail/core/testing'

const ring = (x0: number, y0: number, x1: number, y1: number): [number, number][] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
]
const cast = (spawner: object, more: Partial<LevelInput> = {}, solids: Parameters<typeof sceneLevel>[2] = {}) =>
  castLevel({ spawners: { sp_a: at(40, 30, spawner) }, ...more }, solids)
/** Where and when each of a spawner's agents was first seen, from the recording. */
function arrivals(level: ReturnType<typeof castLevel>, seconds: number, seed = 1, spawnerId = 'sp_a') {
  const seen = new Map<number, Row & { s: number }>()
  rowsOfSpawner(rehearsed(level, seconds, seed), spawnerId).forEach((rows, k) => {
    for (const r of rows) if (!seen.has(r.key)) seen.set(r.key, { ...r, s: k / 10 })
  })
  return [...seen.values()]
}
/** Chi-square of counts against equal shares. */
const chi2 = (counts: readonly number[], shares = counts.map(() => 1 / counts.length)) => {
  const all = counts.reduce((a, b) => a + b, 0)
  return counts.reduce((sum, n, k) => sum + (n - all * shares[k]) ** 2 / (all * shares[k]), 0)
}
const leaving = { br_l: briefOf([newStep('pause', { forS: 0.1 }), newStep('leave')]) }

describe('agents appear in a zone', () => {
  it('evenly over the floor they can reach there, never in its hole', () => {
    // A block of 8 × 8 m in the middle of 24 × 24 m: of nine squares the middle one is left out.
    const level = cast(
      { where: 'area', zoneId: 'zn_a', count: 3000, everyS: 0, briefId: 'br_l' },
      { zones: { zn_a: { name: 'Yard', ring: ring(20, 20, 44, 44) } }, briefs: leaving },
      { sd_a: box(28, 28, 36, 36, 3, { walkable: false }) },
    )
    const all = arrivals(level, 130)
    expect(all.length).toBeGreaterThan(2500)
    const squares = new Array<number>(9).fill(0)
    for (const { x, y } of all) {
      expect(x > 28 && x < 36 && y > 28 && y < 36).toBe(false)
      squares[Math.floor((x - 20) / 8) + 3 * Math.floor((y - 20) / 8)]++
    }
    expect(squares[4]).toBe(0)
    // A body's width along the block is out of reach: of each square beside it 8 × 0.35 m.
    const beside = 64 - 8 * 0.35
    const corner = 64
    const whole = 4 * (beside + corner)
    const shares = [corner, beside, corner, beside, beside, corner, beside, corner].map((m2) => m2 / whole)
    // Seven degrees of freedom: below 18.5 in 99 of 100.
    expect(
      chi2(
        squares.filter((_, k) => k !== 4),
        shares,
      ),
    ).toBeLessThan(18.5)
  })

  it('on all floors that are meant, and on no others', () => {
    const deck = { sd_d: { ...box(20, 20, 44, 44, 3), baseM: 2.7, heightM: 0.3, walkable: true } }
    const level = (heights: object) =>
      cast(
        { where: 'area', zoneId: 'zn_a', count: 600, everyS: 0, briefId: 'br_l' },
        { zones: { zn_a: { name: 'Deck', ring: ring(24, 24, 40, 40), ...heights } }, briefs: leaving },
        deck,
      )
    const up = arrivals(level({}), 30).map((r) => r.z > 2)
    // A half each: of 600 within three times the standard deviation of 12.
    expect(Math.abs(up.filter(Boolean).length - up.length / 2)).toBeLessThan(3 * Math.sqrt(up.length / 4))
    expect(arrivals(level({ fromM: 2 }), 10).every((r) => r.z > 2)).toBe(true)
    expect(arrivals(level({ toM: 2 }), 10).every((r) => r.z < 2)).toBe(true)
  })

  it('never in one another, over ten thousand draws in a crowded zone', () => {
    let draws = 0
    for (let seed = 1; draws < 10_000; seed++) {
      const level = cast(
        { where: 'area', zoneId: 'zn_a', count: 400, everyS: 0, atOnce: 400 },
        { zones: { zn_a: { name: 'Yard', ring: ring(10, 10, 34, 34) } } },
      )
      const [rows] = framesOf(rehearsed(level, 0.1, seed)).slice(-1)
      draws += rows.length
      expect(rows.length).toBeGreaterThan(250)
      const grid = new Map<string, Row[]>()
      for (const r of rows) {
        const [i, j] = [Math.floor(r.x), Math.floor(r.y)]
        for (let a = i - 1; a <= i + 1; a++)
          for (let b = j - 1; b <= j + 1; b++)
            for (const q of grid.get(`${a} ${b}`) ?? []) expect(Math.hypot(q.x - r.x, q.y - r.y)).toBeGreaterThan(0.69)
        grid.set(`${i} ${j}`, [...(grid.get(`${i} ${j}`) ?? []), r])
      }
    }
  }, 60_000)

  it('in a circle and along a band as well', () => {
    const zones = {
      zn_a: {
        name: 'Ring',
        shape: 'circle' as const,
        ring: [
          [30, 30],
          [38, 30],
        ] as [number, number][],
      },
      zn_b: { name: 'Verge', shape: 'band' as const, routeId: 'rt_a', widthM: 4 },
    }
    const brief = { briefs: leaving, zones }
    const round = arrivals(cast({ where: 'area', zoneId: 'zn_a', count: 300, everyS: 0, briefId: 'br_l' }, brief), 15)
    expect(round.length).toBeGreaterThan(250)
    for (const r of round) expect(Math.hypot(r.x - 30, r.y - 30)).toBeLessThan(8.01)
    // Of a circle half the area is within 0.707 of its radius.
    const inner = round.filter((r) => Math.hypot(r.x - 30, r.y - 30) < 8 * Math.SQRT1_2).length / round.length
    expect(Math.abs(inner - 0.5)).toBeLessThan(0.1)
    const band = arrivals(cast({ where: 'area', zoneId: 'zn_b', count: 200, everyS: 0, briefId: 'br_l' }, brief), 15)
    expect(band.length).toBeGreaterThan(150)
    for (const r of band) {
      const onEast = Math.abs(r.x - 20) < 2.01 && r.y > 7.9 && r.y < 22.1
      const onSouth = Math.abs(r.y - 10) < 2.01 && r.x > 7.9 && r.x < 22.1
      const onSlope = Math.abs(r.x - r.y) / Math.SQRT2 < 2.01 && r.x > 7.9 && r.x < 22.1
      expect(onEast || onSouth || onSlope).toBe(true)
    }
  })

  it('as many as there is room for, when a zone is too small for all of them', () => {
    const level = cast(
      { where: 'area', zoneId: 'zn_a', count: 200, everyS: 0 },
      { zones: { zn_a: { name: 'Closet', ring: ring(10, 10, 13, 13) } } },
    )
    const all = arrivals(level, 20)
    expect(all.length).toBeGreaterThan(5)
    expect(all.length).toBeLessThan(20)
    // A zone without any floor sends nobody, and nothing falls.
    const walled = { sd_a: box(9, 9, 14, 14, 3, { walkable: false }) }
    expect(arrivals(cast({ ...level.spawners.sp_a }, { zones: level.zones }, walled), 5)).toHaveLength(0)
  })
})

describe('agents appear at places', () => {
  it('of several spots each in turn, or at random by weight', () => {
    const spots = {
      where: 'spots',
      spots: [
        [10, 50, 0],
        [60, 10, 0],
      ],
      count: 300,
      everyS: 0.2,
      briefId: 'br_l',
    }
    const which = (r: Row) => (r.x > 55 ? 2 : r.y > 45 ? 1 : 0)
    const turns = arrivals(cast(spots, { briefs: leaving }), 10).map(which)
    expect(turns.slice(0, 9)).toEqual([0, 1, 2, 0, 1, 2, 0, 1, 2])
    const drawn = arrivals(cast({ ...spots, pick: 'random', weights: [1, 2, 3] }, { briefs: leaving }), 70).map(which)
    expect(drawn.length).toBeGreaterThan(290)
    const counts = [0, 1, 2].map((k) => drawn.filter((d) => d === k).length)
    // Two degrees of freedom: below 9.2 in 99 of 100.
    expect(chi2(counts, [1 / 6, 2 / 6, 3 / 6])).toBeLessThan(9.2)
    const none = arrivals(cast({ ...spots, pick: 'random', weights: [0, 0, 0] }, { briefs: leaving }), 5).map(which)
    expect(new Set(none)).toEqual(new Set([0]))
  })

  it('along a route, spread evenly, so far apart or at its stops, facing the way it leads', () => {
    const along = (more: object) =>
      arrivals(cast({ where: 'route', routeId: 'rt_a', everyS: 0, atOnce: 100, ...more }), 0.2)
    // A round of 10 + 10 + 14.14 m.
    const spread = along({ count: 6, along: 'spread' })
    expect(spread).toHaveLength(6)
    const round = 20 + Math.sqrt(200)
    const first = spread.map((r) => (r.y < 10.01 ? r.x - 10 : r.x > 19.99 ? r.y : 20 + Math.hypot(20 - r.x, 20 - r.y)))
    first.slice(1).forEach((m, k) => expect(m - first[k]).toBeCloseTo(round / 6, 1))
    expect(spread[0].heading).toBeCloseTo(0, 2)
    const apart = along({ count: 3, along: 'apart', apartM: 3, offsetM: 1 })
    expect(apart.map((r) => [+r.x.toFixed(2), +r.y.toFixed(2)])).toEqual([
      [11, 10],
      [14, 10],
      [17, 10],
    ])
    const stops = along({ count: 3, along: 'stops' })
    expect(stops.map((r) => [r.x, r.y])).toEqual([
      [10, 10],
      [20, 10],
      [20, 20],
    ])
    expect(stops[1].heading).toBeCloseTo(Math.PI / 2, 2)
  })

  it('in ranks behind a place, all of them facing forward', () => {
    const all = arrivals(
      cast({ where: 'ranks', files: 3, apartM: 1.5, count: 7, everyS: 0, atOnce: 7, facingRad: Math.PI / 2 }),
      0.2,
    )
    expect(all.map((r) => [+(r.x - 40).toFixed(2) || 0, +(r.y - 30).toFixed(2) || 0])).toEqual([
      [1.5, 0],
      [0, 0],
      [-1.5, 0],
      [1.5, -1.5],
      [0, -1.5],
      [-1.5, -1.5],
      [1.5, -3],
    ])
    for (const r of all) expect(r.heading).toBeCloseTo(Math.PI / 2, 2)
  })
})

describe('agents appear in time', () => {
  it('every so often with an even spread', () => {
    const all = arrivals(
      cast({ count: 400, firstAfterS: 3, everyS: 2, spreadS: 1, briefId: 'br_l' }, { briefs: leaving }),
      810,
    )
    expect(all[0].s).toBeCloseTo(3, 0)
    const gaps = all.slice(1).map((r, k) => r.s - all[k].s)
    expect(gaps.reduce((a, b) => a + b) / gaps.length).toBeCloseTo(2, 1)
    for (const g of gaps) {
      expect(g).toBeGreaterThan(0.85)
      expect(g).toBeLessThan(3.15)
    }
    const fifths = [0, 1, 2, 3, 4].map(
      (k) => gaps.filter((g) => Math.min(4, Math.max(0, Math.floor((g - 1) / 0.4))) === k).length,
    )
    // Four degrees of freedom, and frames of a tenth of a second: below 13.3 in 99 of 100.
    expect(chi2(fifths)).toBeLessThan(13.3)
  }, 60_000)

  it('so many at a time, alive at most, and until a time', () => {
    const three = arrivals(cast({ where: 'ranks', count: 9, atOnce: 3, everyS: 5, firstAfterS: 1 }), 20)
    expect(three.map((r) => Math.round(r.s))).toEqual([1, 1, 1, 6, 6, 6, 11, 11, 11])
    const few = rehearsed(cast({ where: 'ranks', count: 9, everyS: 0, mostAlive: 4 }), 20)
    expect(framesOf(few).at(-1)).toHaveLength(4)
    const until = arrivals(cast({ count: 50, everyS: 1, untilS: 5.5, briefId: 'br_l' }, { briefs: leaving }), 20)
    expect(until).toHaveLength(6)
  })

  it('to keep so many alive, and to fill the places players did not take', () => {
    const going = { br_l: briefOf([newStep('pause', { forS: 4 }), newStep('leave')]) }
    const kept = rehearsed(
      cast({ where: 'area', zoneId: 'zn_w', count: 8, alive: 'keep', everyS: 0, briefId: 'br_l' }, { briefs: going }),
      60,
    )
    const counts = framesOf(kept).map((rows) => rows.length)
    expect(Math.max(...counts)).toBe(8)
    expect(Math.min(...counts.slice(10))).toBeGreaterThanOrEqual(5)
    expect(kept.engine.members.length).toBeGreaterThan(60)
    expect(new Set(kept.engine.members.map((m) => m.name)).size).toBe(kept.engine.members.length)
    const filled = cast({ where: 'ranks', count: 6, alive: 'fill', everyS: 0 })
    for (const players of [0, 2, 9]) {
      const level = { ...filled, settings: { ...filled.settings, players } }
      expect(arrivals(level, 3)).toHaveLength(Math.max(0, 6 - players))
    }
  })

  it('when a zone is entered or left, another is used up, or somebody leaves', () => {
    const walk = {
      briefs: {
        br_t: briefOf([
          newStep('go-to', { markerId: 'mk_a' }),
          newStep('go-to', { markerId: 'mk_b' }),
          newStep('leave'),
        ]),
      },
      markers: { mk_a: { name: 'In', at: [15, 15, 0] as never }, mk_b: { name: 'Out', at: [40, 15, 0] as never } },
    }
    const begun = (more: object) => {
      const level = castLevel({
        ...walk,
        spawners: {
          sp_t: at(35, 15, { briefId: 'br_t', factionId: 'fc_n', count: 2, everyS: 20 }),
          sp_a: at(60, 50, more),
        },
      })
      return arrivals(level, 90)[0]?.s
    }
    // Ten metres at 1.4 m/s.
    const entered = begun({ begins: 'entered', triggerZoneId: 'zn_w', triggerFactionId: 'fc_n' })
    expect(entered).toBeGreaterThan(6.5)
    expect(entered).toBeLessThan(9)
    expect(begun({ begins: 'entered', triggerZoneId: 'zn_w', triggerFactionId: 'fc_w' })).toBeUndefined()
    expect(begun({ begins: 'entered', triggerZoneId: null })).toBeUndefined()
    const emptied = begun({ begins: 'emptied', triggerZoneId: 'zn_w' })
    expect(emptied).toBeGreaterThan(entered! + 10)
    expect(begun({ begins: 'used-up', triggerSpawnerId: 'sp_t', firstAfterS: 5 })).toBeCloseTo(25, 0)
    const left = begun({ begins: 'left', triggerSpawnerId: 'sp_t' })
    expect(left).toBeGreaterThan(emptied!)
    expect(left).toBeLessThan(45)
  })

  it('only beyond a distance from the player, or out of their sight', () => {
    const level = (more: object) =>
      castLevel(
        {
          briefs: { br_t: briefOf([newStep('go-to', { markerId: 'mk_a' }), newStep('pause', { forS: 900 })]) },
          markers: { mk_a: { name: 'There', at: [60, 15, 0] } },
          spawners: { sp_p: at(20, 15, { standIn: true, briefId: 'br_t' }), sp_a: at(30, 15, more) },
        },
        { sd_a: box(40, 5, 41, 14, 4, { walkable: false }), sd_b: box(40, 16, 41, 40, 4, { walkable: false }) },
      )
    const first = (more: object) => arrivals(level(more), 60)[0]?.s
    expect(first({})).toBe(0)
    // Past it and 15 m beyond: 25 m on the way.
    expect(first({ beyondM: 15 })).toBeGreaterThan(16)
    // In sight, whichever way the player faces, until the walls are in between.
    const unseen = first({ unseen: true })
    expect(unseen).toBeGreaterThan(14)
    expect(unseen).toBeLessThan(30)
  })
})

describe('who appears', () => {
  it('is drawn from a mix by weight, with its own body, side and brief', () => {
    const level = cast(
      {
        where: 'area',
        zoneId: 'zn_e',
        count: 240,
        everyS: 0,
        factionId: 'fc_w',
        calls: 'Warden # of the mole',
        weight: 3,
        mix: [{ weight: 1, profileId: 'pf_thin', factionId: 'fc_n', briefId: 'br_l' }],
      },
      { briefs: { br_l: briefOf([newStep('leave')]) } },
    )
    level.profiles.pf_thin = { ...level.profiles.pf_warden, name: 'Thin', radiusM: 0.2 }
    const run = rehearsed(level, 20)
    const thin = run.engine.members.filter((m) => m.profileId === 'pf_thin')
    expect(run.engine.members).toHaveLength(240)
    // Sixty are meant: within three times the standard deviation of 6.7.
    expect(Math.abs(thin.length - 60)).toBeLessThan(20)
    expect(thin.every((m) => m.leftS !== undefined)).toBe(true)
    expect(run.engine.members.filter((m) => m.profileId === 'pf_warden').every((m) => m.leftS === undefined)).toBe(true)
    expect(run.engine.members[4].name).toBe('Warden 5 of the mole')
  })

  it('is told by its squad where it says nothing itself', () => {
    const level = cast(
      { squadId: 'sq_a' },
      {
        squads: { sq_a: { name: 'Mole', factionId: 'fc_w', briefId: 'br_a', zoneId: 'zn_w' } },
        briefs: { br_a: briefOf([newStep('wander')]) },
      },
    )
    const run = rehearsed(level, 60)
    expect(run.engine.toldOf(0)).toMatchObject({ faction: 'fc_w', briefId: 'br_a' })
    const [end] = rowsOfSpawner(run, 'sp_a').at(-1)!
    expect(end.x < 26 && end.y < 26).toBe(true)
  })

  it('comes out the same whenever it is run, and another way with another seed', () => {
    const level = cast({ where: 'area', zoneId: 'zn_e', count: 20, everyS: 1, spreadS: 0.8 })
    const hash = (seed: number) => rehearsed(level, 30, seed).hash
    expect(hash(3)).toBe(hash(3))
    expect(hash(3)).not.toBe(hash(4))
  })
})
