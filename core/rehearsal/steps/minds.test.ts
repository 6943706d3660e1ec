import { describe, expect, it } from 'vitest'
import { newStep, newWhen, type LevelInput } from '@tidytrail/core/level'
import { at, box, briefOf, castLevel, rehearsed, rowsOfSpawner, type Row } from '@tidytrail/core/testing'
import { CAUSES } from '../events'

/** All of these are told by what a recording shows. */
const far = (a: Pick<Row, 'x' | 'y'>, x: number, y: number) => Math.hypot(a.x - x, a.y - y)
const apart = (a: Row, b: Row) => far(a, b.x, b.y)
const at1 = (rows: Row[][], s: number) => rows[Math.round(s * 10)][0]

/** A thief of the night that walks from one place to another and stays there. */
const thief = (from: [number, number], markerId = 'mk_t') => ({
  spawner: at(...from, { name: 'Thief', factionId: 'fc_n', briefId: 'br_t', standIn: true }),
  brief: briefOf([newStep('go-to', { markerId }), newStep('leave')]),
})
const sentinel = briefOf(
  [newStep('hold', { zoneId: 'zn_w' })],
  [
    {
      when: newWhen('sees', 'bw_a', { withinM: 18 }),
      steps: [newStep('chase', { gait: 'run', loseS: 6 }), newStep('search', { forS: 10, radiusM: 4 })],
    },
  ],
)

describe('a guard with a standing sentence', () => {
  // The thief passes in front of the post and goes behind a wall.
  const t = thief([30, 5])
  const level = (more: Partial<LevelInput> = {}) =>
    castLevel(
      {
        posts: { ps_a: { name: 'Post', at: [20, 20, 0], facingRad: 0, zoneId: 'zn_w' } },
        markers: { mk_t: { name: 'Away', at: [70, 20, 0] }, mk_a: { name: 'Bell', at: [40, 30, 0] } },
        briefs: { br_t: t.brief, br_g: sentinel },
        spawners: {
          sp_g: at(12, 12, { factionId: 'fc_w', briefId: 'br_g' }),
          sp_t: { ...t.spawner, at: [26, 50, 0], firstAfterS: 15 },
        },
        ...more,
      },
      { sd_a: box(45, 5, 46, 62, 4, { walkable: false }) },
    )

  it('leaves its post for whom it sees, searches where they were last, and comes back to it', () => {
    const run = rehearsed(level(), 150)
    const guard = rowsOfSpawner(run, 'sp_g')
    // It holds its post before anybody comes.
    expect(far(at1(guard, 14), 20, 20)).toBeLessThan(0.6)
    const left = guard.findIndex(([g], k) => k > 150 && far(g, 20, 20) > 6)
    expect(left).toBeGreaterThan(150)
    // It runs while it chases.
    expect(Math.max(...guard.map(([g]) => g.speed))).toBeGreaterThan(3)
    // In the end it stands on its post again and looks the way that faces.
    const [end] = guard.at(-1)!
    expect(far(end, 20, 20)).toBeLessThan(0.6)
    expect(Math.abs(end.heading)).toBeLessThan(0.1)
    const kinds = run.engine.events.list.filter((e) => e.key === 1).map((e) => e.kind)
    expect(kinds.indexOf('interrupted')).toBeGreaterThan(kinds.indexOf('took-post'))
    expect(kinds.lastIndexOf('took-up')).toBeGreaterThan(kinds.indexOf('interrupted'))
  })

  it('takes no notice of friends, and none of anybody who is neutral', () => {
    for (const factionId of ['fc_f', null]) {
      const t = { ...level().spawners.sp_t, factionId, standIn: false }
      const run = rehearsed(level({ spawners: { ...level().spawners, sp_t: t } }), 60)
      expect(run.engine.events.list.some((e) => e.kind === 'interrupted')).toBe(false)
      expect(far(rowsOfSpawner(run, 'sp_g').at(-1)![0], 20, 20)).toBeLessThan(0.6)
    }
  })
})

describe('the plain movers side by side', () => {
  const brief = (...steps: Parameters<typeof briefOf>[0]) => briefOf(steps)
  const level = castLevel({
    posts: { ps_a: { name: 'Door', at: [10, 45, 0], facingRad: 0, arcRad: 6.28 } },
    markers: { mk_t: { name: 'Door', at: [16, 45, 0] }, mk_b: { name: 'Off', at: [60, 50, 0] } },
    briefs: {
      br_p: brief(newStep('follow-route', { routeId: 'rt_b' })),
      br_f: brief(newStep('shadow', { spawnerId: 'sp_p', nearM: 1.5, farM: 4 })),
      br_k: brief(newStep('shadow', { spawnerId: 'sp_p', nearM: 10, farM: 14, gait: 'hurry' })),
      br_g: brief(newStep('guard', { to: 'post', postId: 'ps_a', radiusM: 10 })),
      br_t: brief(
        newStep('pause', { forS: 30 }),
        newStep('go-to', { markerId: 'mk_t' }),
        newStep('go-to', { markerId: 'mk_b' }),
      ),
    },
    spawners: {
      sp_p: at(50, 40, { briefId: 'br_p' }),
      sp_f: at(47, 40, { briefId: 'br_f' }),
      sp_k: at(60, 48, { briefId: 'br_k' }),
      sp_g: at(12, 45, { briefId: 'br_g', factionId: 'fc_w' }),
      sp_t: at(45, 45, { briefId: 'br_t', factionId: 'fc_n' }),
    },
  })
  const run = rehearsed(level, 180)
  const of = (id: string) => rowsOfSpawner(run, id)
  const [patrol, follower, distant, guard, thief] = ['sp_p', 'sp_f', 'sp_k', 'sp_g', 'sp_t'].map(of)
  const late = <T>(rows: T[]) => rows.slice(200)

  it('a patrol keeps to its round', () => {
    const visits = [
      [50, 40],
      [70, 40],
      [70, 55],
    ].map(([x, y]) => patrol.filter(([p]) => far(p, x, y) < 0.5).length)
    expect(Math.min(...visits)).toBeGreaterThan(0)
  })

  it('a follower stays near', () => {
    const gaps = late(follower).map(([f], k) => apart(f, late(patrol)[k][0]))
    expect(Math.max(...gaps)).toBeLessThan(6)
    expect(Math.min(...gaps)).toBeGreaterThan(0.7)
  })

  it('one that keeps a distance keeps within its band, but for what it takes to get under way', () => {
    const gaps = late(distant).map(([d], k) => apart(d, late(patrol)[k][0]))
    const within = gaps.filter((m) => m > 8.5 && m < 15.5).length / gaps.length
    expect(within).toBeGreaterThan(0.9)
  })

  it('a guard goes for whom comes near, and is back when they are gone', () => {
    expect(far(at1(guard, 25), 10, 45)).toBeLessThan(0.7)
    const near = guard.map(([g], k) => (thief[k][0] ? apart(g, thief[k][0]) : Infinity))
    expect(Math.min(...near)).toBeLessThan(2.2)
    // Never much beyond what it guards.
    expect(Math.max(...late(guard).map(([g]) => far(g, 10, 45)))).toBeLessThan(11.5)
    expect(far(guard.at(-1)![0], 10, 45)).toBeLessThan(0.7)
  })
})

describe('posts', () => {
  it('of more worth are held first, and more agents than posts take turns', () => {
    const level = castLevel({
      posts: {
        ps_a: { name: 'Gate', at: [8, 8, 0], worth: 5, zoneId: 'zn_w' },
        ps_b: { name: 'Corner', at: [22, 22, 0], worth: 1, zoneId: 'zn_w' },
      },
      squads: { sq_a: { name: 'Four', briefId: 'br_a', zoneId: 'zn_w' } },
      briefs: { br_a: briefOf([newStep('hold', { turnS: 20 })]) },
      spawners: { sp_a: at(15, 15, { squadId: 'sq_a', count: 4, where: 'ranks', everyS: 0 }) },
    })
    const run = rehearsed(level, 200)
    const rows = rowsOfSpawner(run, 'sp_a')
    const holders = (x: number, y: number, from: number, to: number) =>
      new Set(rows.slice(from * 10, to * 10).flatMap((r) => r.filter((q) => far(q, x, y) < 0.5).map((q) => q.key)))
    // One at each post, never two.
    for (const r of rows.slice(150)) {
      expect(r.filter((q) => far(q, 8, 8) < 0.5).length).toBeLessThan(2)
      expect(r.filter((q) => far(q, 22, 22) < 0.5).length).toBeLessThan(2)
    }
    expect(holders(8, 8, 10, 25).size).toBe(1)
    // Within three minutes each of the four has held one.
    expect(new Set([...holders(8, 8, 0, 200), ...holders(22, 22, 0, 200)]).size).toBe(4)
    const fewer = { ...level, spawners: { sp_a: { ...level.spawners.sp_a, count: 1 } } }
    const one = rowsOfSpawner(rehearsed(fewer, 30), 'sp_a')
    expect(far(one.at(-1)![0], 8, 8)).toBeLessThan(0.5)
  })
})

describe('a post', () => {
  it('is free again for others as soon as whoever held it goes on to something else', () => {
    const whens = [
      { when: newWhen('time', 'bw_a', { afterS: 20, after: 'next' }), steps: [newStep('pause', { forS: 1 })] },
    ]
    const level = castLevel({
      posts: { ps_a: { name: 'Gate', at: [8, 8, 0], zoneId: 'zn_w' } },
      briefs: {
        br_a: briefOf(
          [newStep('hold', { zoneId: 'zn_w', turnS: null }), newStep('go-to', { markerId: 'mk_a' })],
          whens,
        ),
        br_b: briefOf([newStep('hold', { zoneId: 'zn_w', turnS: null })]),
      },
      spawners: { sp_a: at(10, 10, { briefId: 'br_a' }), sp_b: at(14, 10, { briefId: 'br_b', firstAfterS: 2 }) },
    })
    const run = rehearsed(level, 60)
    const [first, second] = ['sp_a', 'sp_b'].map((id) => rowsOfSpawner(run, id))
    expect(far(at1(first, 18), 8, 8)).toBeLessThan(0.5)
    expect(far(at1(second, 18), 8, 8)).toBeGreaterThan(1)
    expect(far(first.at(-1)![0], 40, 30)).toBeLessThan(0.7)
    expect(far(second.at(-1)![0], 8, 8)).toBeLessThan(0.5)
  })
})

describe('an object', () => {
  const level = (waitS: number | null, uses: number) =>
    castLevel({
      markers: { mk_a: { name: 'Well', at: [40, 25, 0] } },
      briefs: {
        br_a: briefOf([
          newStep('use-object', { markerId: 'mk_a', use: { minS: uses, maxS: uses }, waitS }),
          newStep('leave'),
        ]),
      },
      spawners: {
        sp_a: at(30, 25, { briefId: 'br_a' }),
        sp_b: at(52, 25, { briefId: 'br_a' }),
        sp_c: at(40, 39, { briefId: 'br_a' }),
      },
    })
  /** When each came as near to the well as it takes, and when it left with that, seconds. */
  const stays = (run: ReturnType<typeof rehearsed>) =>
    ['sp_a', 'sp_b', 'sp_c'].map((id) => {
      const rows = rowsOfSpawner(run, id)
      const near = rows.flatMap(([r], k) => (r && far(r, 40, 25) < 1.1 ? [k / 10] : []))
      return [near[0], near.at(-1)!] as const
    })

  it('is used by one at a time, for as long as it takes, in the order they came', () => {
    const [a, b, c] = stays(rehearsed(level(null, 8), 60))
    for (const [from, to] of [a, b, c]) {
      expect(to - from).toBeGreaterThan(7.8)
      expect(to - from).toBeLessThan(9.5)
    }
    expect(b[0]).toBeGreaterThan(a[1])
    expect(c[0]).toBeGreaterThan(b[1])
  })

  it('is given up by who has waited for it so long, with a word that it was taken', () => {
    const run = rehearsed(level(3, 40), 60)
    const [a, b] = stays(run)
    expect(a[1] - a[0]).toBeGreaterThan(39.8)
    expect(b[0]).toBeUndefined()
    const blocked = run.engine.events.list.filter((e) => e.kind === 'blocked')
    expect(blocked.map((e) => CAUSES[e.a])).toEqual(['taken', 'taken'])
    // They went on to leave.
    expect(rowsOfSpawner(run, 'sp_b').at(-1)).toHaveLength(0)
  })
})

describe('a carter', () => {
  const level = castLevel({
    routes: {
      rt_a: {
        name: 'Road',
        travel: 'one-way',
        stops: { st_a: { waypointId: 'wp_g' }, st_b: { waypointId: 'wp_d' }, st_c: { waypointId: 'wp_e' } },
        order: ['st_a', 'st_b', 'st_c'],
      },
    },
    waypoints: { wp_g: { at: [30, 30, 0] }, wp_d: { at: [50, 40, 0] }, wp_e: { at: [70, 40, 0] } },
    briefs: {
      br_a: briefOf([
        newStep('board', { spawnerId: 'sp_c' }),
        newStep('follow-route', { routeId: 'rt_a' }),
        newStep('get-out'),
        newStep('go-to', { markerId: 'mk_a' }),
      ]),
    },
    spawners: {
      sp_a: at(10, 10, { briefId: 'br_a' }),
      sp_c: at(25, 25, { name: 'Cart', profileId: 'pf_cart', facingRad: 0.7 }),
    },
  })

  it('walks to the cart, drives its route faster than it walks, gets out beside it and walks on', () => {
    const run = rehearsed(level, 90)
    const rows = rowsOfSpawner(run, 'sp_a').map((r) => r[0])
    const events = run.engine.events.list.filter((e) => e.key === 1)
    const when = (kind: string) => events.find((e) => e.kind === kind)!.step / 30
    const [inS, outS] = [when('boarded'), when('got-out')]
    expect(Math.max(...rows.slice(0, Math.floor(inS * 10)).map((r) => r.speed))).toBeLessThan(1.6)
    expect(Math.max(...rows.slice(Math.ceil(inS * 10), Math.floor(outS * 10)).map((r) => r.speed))).toBeGreaterThan(3)
    expect(far(rows[Math.ceil(outS * 10)], 70, 40)).toBeLessThan(5)
    expect(far(rows.at(-1)!, 40, 30)).toBeLessThan(0.7)
    // The cart stands where it was left, and nobody is in anybody.
    const [cart] = rowsOfSpawner(run, 'sp_c').at(-1)!
    expect(far(cart, 70, 40)).toBeLessThan(2)
    expect(run.engine.events.list.some((e) => e.kind === 'ran-into')).toBe(false)
    // While it is driven there is no second cart.
    for (const [k, r] of rowsOfSpawner(run, 'sp_c').entries()) {
      const driven = k / 10 > inS + 0.1 && k / 10 < outS - 0.1
      expect(r.length, `${k / 10} s`).toBe(
        driven ? 0 : Math.abs(k / 10 - inS) < 0.2 || Math.abs(k / 10 - outS) < 0.2 ? r.length : 1,
      )
    }
  })

  it('says so when there is nothing it could board, and goes on as its step says', () => {
    const { sp_a } = level.spawners
    const run = rehearsed({ ...level, spawners: { sp_a } }, 10)
    const blocked = run.engine.events.list.find((e) => e.kind === 'blocked')
    expect(blocked).toBeDefined()
    const giving = structuredClone(level)
    giving.briefs.br_a.steps.bs_0.failed = 'give-up'
    const rows = rowsOfSpawner(rehearsed({ ...giving, spawners: { sp_a } }, 20), 'sp_a')
    expect(far(rows.at(-1)![0], 10, 10)).toBeLessThan(0.1)
  })
})

describe('one of several', () => {
  const split = (draws: 'agent' | 'time', weights: [number, number], rounds: number | null = null) =>
    castLevel({
      briefs: {
        br_a: briefOf([
          newStep('follow-route', {
            routeId: 'rt_a',
            weight: weights[0],
            others: [{ routeId: 'rt_b', weight: weights[1] }],
            draws,
            rounds,
          }),
          newStep('again'),
        ]),
      },
      spawners: { sp_a: at(40, 25, { briefId: 'br_a', count: 60, everyS: 0.5, where: 'area', zoneId: 'zn_w' }) },
    })

  it('is drawn for each agent by weight, and kept', () => {
    const run = rehearsed(split('agent', [2, 1]), 60)
    const east = run.engine.members.filter((m) => {
      const rows = rowsOfSpawner(run, 'sp_a').flatMap((r) => r.filter((q) => q.key === m.key))
      return Math.max(...rows.map((r) => r.x)) > 26
    }).length
    // Of 60 twenty are meant; a binomial of a third is between 11 and 30 in 99 of 100.
    expect(east).toBeGreaterThanOrEqual(11)
    expect(east).toBeLessThanOrEqual(30)
  })

  it('with a weight of nought everywhere is the first', () => {
    const run = rehearsed(split('agent', [0, 0]), 30)
    for (const rows of rowsOfSpawner(run, 'sp_a')) for (const r of rows) expect(r.x).toBeLessThan(26)
  })

  it('is another when the one drawn cannot be had', () => {
    const level = castLevel(
      {
        zones: {
          zn_w: {
            name: 'Walled',
            ring: [
              [5, 5],
              [15, 5],
              [15, 15],
              [5, 15],
            ],
          },
          zn_e: {
            name: 'Open',
            ring: [
              [60, 40],
              [70, 40],
              [70, 50],
              [60, 50],
            ],
          },
        },
        briefs: {
          br_a: briefOf([
            newStep('wander', {
              zoneId: 'zn_w',
              weight: 1000,
              others: [{ zoneId: 'zn_e', weight: 1 }],
              failed: 'another',
            }),
          ]),
        },
        spawners: { sp_a: at(40, 30, { briefId: 'br_a' }) },
      } as never,
      { sd_a: box(4, 4, 16, 16, 3, { walkable: false }) },
    )
    const rows = rowsOfSpawner(rehearsed(level, 60), 'sp_a')
    const [end] = rows.at(-1)!
    expect(end.x > 59 && end.y > 39).toBe(true)
  })
})

describe('a zone to keep out of', () => {
  const vault = {
    zn_v: { name: 'Vault', purpose: 'keep-out' as const, factionIds: ['fc_w'], shape: 'circle' as const, ring: [[15, 15], [21, 15]] as [number, number][] }, // prettier-ignore
    zn_w: { name: 'Yard', ring: [[5, 5], [25, 5], [25, 25], [5, 25]] as [number, number][] }, // prettier-ignore
  }
  const wandering = (factionId: string, kept = vault) =>
    castLevel({
      zones: kept,
      briefs: { br_a: briefOf([newStep('wander', { zoneId: 'zn_w', pause: { minS: 1, maxS: 1 } })]) },
      spawners: { sp_a: at(8, 8, { briefId: 'br_a', factionId, where: 'area', zoneId: 'zn_w', count: 4, everyS: 1 }) },
    })
  /** Where they stood, and where they appeared. */
  const stood = (factionId: string) => {
    const rows = rowsOfSpawner(rehearsed(wandering(factionId), 240), 'sp_a').flat()
    return rows.filter((r) => r.speed < 0.01).map((r) => far(r, 15, 15))
  }

  it('is not wandered to nor appeared in by those it is for, and is by others', () => {
    expect(Math.min(...stood('fc_w'))).toBeGreaterThan(5.4)
    expect(Math.min(...stood('fc_n'))).toBeLessThan(3)
  })

  it('is not run into after a thief: the guard waits at where it was', () => {
    const level = castLevel({
      zones: { zn_v: vault.zn_v },
      briefs: {
        br_a: briefOf(
          [newStep('pause', { forS: 900 })],
          [{ when: newWhen('sees', 'bw_a'), steps: [newStep('chase', { gait: 'run' })] }],
        ),
        br_t: briefOf([newStep('go-to', { markerId: 'mk_t' })]),
      },
      markers: { mk_t: { name: 'In', at: [15, 15, 0] } },
      spawners: {
        sp_a: at(32, 15, { briefId: 'br_a', factionId: 'fc_w', facingRad: Math.PI }),
        sp_t: at(24, 15, { briefId: 'br_t', factionId: 'fc_n', firstAfterS: 1 }),
      },
    })
    const rows = rowsOfSpawner(rehearsed(level, 40), 'sp_a').map((r) => r[0])
    expect(Math.min(...rows.map((r) => far(r, 15, 15)))).toBeGreaterThan(5.5)
  })
})

it('who wanders nearer to somebody is nearer to them than who wanders anywhere', () => {
  const level = castLevel({
    zones: { zn_w: { name: 'Field', ring: [[5, 5], [75, 5], [75, 55], [5, 55]] } }, // prettier-ignore
    briefs: {
      br_a: briefOf([newStep('wander', { zoneId: 'zn_w', nearId: 'sp_b', pause: { minS: 0, maxS: 0 } })]),
      br_c: briefOf([newStep('wander', { zoneId: 'zn_w', pause: { minS: 0, maxS: 0 } })]),
    },
    spawners: { sp_a: at(40, 30, { briefId: 'br_a' }), sp_b: at(12, 48), sp_c: at(42, 30, { briefId: 'br_c' }) },
  })
  const run = rehearsed(level, 600)
  const mean = (id: string) => {
    const rows = rowsOfSpawner(run, id)
      .slice(600)
      .map((r) => far(r[0], 12, 48))
    return rows.reduce((a, b) => a + b) / rows.length
  }
  expect(mean('sp_a')).toBeLessThan(0.75 * mean('sp_c'))
})
