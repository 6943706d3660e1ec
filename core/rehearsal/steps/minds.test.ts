import { describe, expect, it } from 'vitest'
import { newStep, newWhen, type LevelInput } from '@tidytrail/core/level'
import { at, box, briefOf, castLevel, rehearsed, rowsOfSpawner, type Row } from '@tidytrail/core/testing'

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

describe('standing sentences', () => {
  const pausing = (kind: Parameters<typeof newWhen>[0], more: object, rest: Partial<LevelInput> = {}) =>
    castLevel({
      briefs: {
        br_a: briefOf(
          [newStep('pause', { forS: 1000 })],
          [{ when: newWhen(kind, 'bw_a', more as never), steps: [newStep('go-to', { markerId: 'mk_a' })] }],
        ),
        ...rest.briefs,
      },
      spawners: {
        sp_a: at(40, 10, { briefId: 'br_a', factionId: 'fc_w', facingRad: Math.PI / 2 }),
        ...rest.spawners,
      },
      ...(rest.markers ? { markers: { mk_a: { name: 'Bell', at: [40, 30, 0] }, ...rest.markers } } : {}),
    })
  const went = (level: ReturnType<typeof castLevel>, seconds = 40) => {
    const rows = rowsOfSpawner(rehearsed(level, seconds), 'sp_a').map((r) => r[0])
    const k = rows.findIndex((r) => far(r, 40, 10) > 1)
    return k < 0 ? undefined : k / 10
  }
  const walker = (from: [number, number], to: [number, number], more: object = {}) => ({
    briefs: { br_t: briefOf([newStep('go-to', { markerId: 'mk_t' }), newStep('leave')]) },
    markers: { mk_t: { name: 'To', at: [...to, 0] as [number, number, number] } },
    spawners: { sp_t: at(...from, { factionId: 'fc_n', briefId: 'br_t', ...more }) },
  })

  it('begin when somebody is seen within so far, and not behind its back', () => {
    const seen = went(pausing('sees', { withinM: 12 }, walker([60, 18], [20, 18])))
    expect(seen).toBeGreaterThan(6)
    expect(seen).toBeLessThan(16)
    expect(went(pausing('sees', { withinM: 4 }, walker([60, 18], [20, 18])))).toBeUndefined()
    expect(went(pausing('sees', {}, walker([60, 3], [20, 3])))).toBeUndefined()
  })

  it('begin when somebody is heard, touches it, enters a zone, or has left', () => {
    expect(went(pausing('hears', {}, walker([45, 4], [35, 4])))).toBeDefined()
    expect(went(pausing('hears', {}, walker([75, 2], [76, 2])))).toBeUndefined()
    expect(went(pausing('touched', {}, walker([44, 10], [37, 10])))).toBeDefined()
    const zone = went(pausing('zone-entered', { zoneId: 'zn_w' }, walker([30, 15], [10, 15])))
    // Five metres at a walk.
    expect(zone).toBeGreaterThan(3)
    expect(zone).toBeLessThan(6.5)
    const left = went(pausing('left', { spawnerId: 'sp_t' }, walker([70, 5], [77, 5])))
    expect(left).toBeGreaterThan(4)
    expect(left).toBeLessThan(9)
  })

  it('begin when so much time has passed, once', () => {
    const level = pausing('time', { afterS: 12 })
    expect(went(level)).toBeCloseTo(12.8, 0)
    expect(rehearsed(level, 120).engine.events.list.filter((e) => e.kind === 'interrupted')).toHaveLength(1)
  })

  it('begin when it gets no farther', () => {
    const level = castLevel(
      {
        briefs: {
          br_a: briefOf(
            [newStep('go-to', { markerId: 'mk_t' })],
            [{ when: newWhen('blocked', 'bw_a', { forS: 4 }), steps: [newStep('go-to', { markerId: 'mk_a' })] }],
          ),
          br_b: briefOf([newStep('pause', { forS: 1000 })]),
        },
        markers: { mk_a: { name: 'Bell', at: [10, 30, 0] }, mk_t: { name: 'End', at: [40, 30, 0] } },
        spawners: {
          sp_a: at(20, 30, { briefId: 'br_a' }),
          sp_b: at(30, 30, { briefId: 'br_b' }),
        },
      },
      { sd_a: box(25, -1, 35, 29.4, 3), sd_b: box(25, 30.6, 35, 61, 3) },
    )
    const run = rehearsed(level, 60)
    expect(run.engine.events.list.some((e) => e.kind === 'interrupted')).toBe(true)
    expect(Math.min(...rowsOfSpawner(run, 'sp_a').map(([r]) => far(r, 10, 30)))).toBeLessThan(1)
  })

  it('end by taking up what they broke off, with the time that was left of it', () => {
    const level = castLevel({
      briefs: {
        br_a: briefOf(
          [newStep('pause', { forS: 30 }), newStep('go-to', { markerId: 'mk_a' })],
          [{ when: newWhen('time', 'bw_a', { afterS: 10 }), steps: [newStep('pause', { forS: 20 })] }],
        ),
      },
      spawners: { sp_a: at(40, 10, { briefId: 'br_a' }) },
    })
    expect(went(level, 70)).toBeCloseTo(50.8, 0)
    const next = structuredClone(level)
    next.briefs.br_a.whens[0].after = 'next'
    expect(went(next, 70)).toBeCloseTo(30.8, 0)
  })
})

describe('signals, passages and blanks', () => {
  it('somebody waits for a signal and goes on when it is given, or gives up waiting', () => {
    const level = (limitS: number | null) =>
      castLevel({
        signals: { sg_a: { name: 'Bell' } },
        briefs: {
          br_a: briefOf([newStep('wait-signal', { signalId: 'sg_a', limitS }), newStep('go-to', { markerId: 'mk_a' })]),
          br_b: briefOf([newStep('pause', { forS: 12 }), newStep('give-signal', { signalId: 'sg_a' })]),
          br_c: briefOf(
            [newStep('pause', { forS: 900 })],
            [{ when: newWhen('signal', 'bw_a', { signalId: 'sg_a' }), steps: [newStep('leave')] }],
          ),
        },
        spawners: {
          sp_a: at(40, 10, { briefId: 'br_a' }),
          sp_b: at(60, 10, { briefId: 'br_b' }),
          sp_c: at(65, 10, { briefId: 'br_c' }),
        },
      })
    const set = (limitS: number | null) => {
      const run = rehearsed(level(limitS), 30)
      return { went: rowsOfSpawner(run, 'sp_a').findIndex(([r]) => far(r, 40, 10) > 0.5) / 10, run }
    }
    const heard = set(null)
    expect(heard.went).toBeGreaterThan(12)
    expect(heard.went).toBeLessThan(13.2)
    expect(set(5).went).toBeGreaterThan(5)
    expect(set(5).went).toBeLessThan(6.2)
    // A standing sentence hears it too.
    const gone = rowsOfSpawner(heard.run, 'sp_c').findIndex((r) => r.length === 0) / 10
    expect(gone).toBeGreaterThan(12)
    expect(gone).toBeLessThan(12.6)
  })

  it('a passage is used though there is a way without it, from the end that is nearer', () => {
    const level = castLevel({
      passages: { pg_a: { name: 'Hatch', kind: 'portal', from: [45, 30, 0], to: [70, 30, 0], takesS: 2 } },
      briefs: {
        br_a: briefOf([
          newStep('use-passage', { passageId: 'pg_a' }),
          newStep('pause', { forS: 2 }),
          newStep('use-passage', { passageId: 'pg_a' }),
        ]),
      },
      spawners: { sp_a: at(40, 30, { briefId: 'br_a' }) },
    })
    const run = rehearsed(level, 30)
    expect(run.engine.events.list.filter((e) => e.kind === 'crossed')).toHaveLength(2)
    const rows = rowsOfSpawner(run, 'sp_a').map((r) => r[0])
    expect(Math.max(...rows.map((r) => r.x))).toBeGreaterThan(69)
    expect(far(rows.at(-1)!, 45, 30)).toBeLessThan(0.7)
  })

  it('what is left to each spawner is filled in there, and a brief serves both', () => {
    const level = castLevel({
      briefs: {
        br_a: {
          ...briefOf([newStep('follow-route', { blankId: 'bl_a', gaitBlankId: 'bl_b' })]),
          blanks: [
            { id: 'bl_a', name: 'beat', kind: 'route' },
            { id: 'bl_b', name: 'pace', kind: 'gait' },
          ],
        },
      },
      spawners: {
        sp_a: at(12, 10, { briefId: 'br_a', fills: [{ blankId: 'bl_a', routeId: 'rt_a' }] }),
        sp_b: at(52, 40, {
          briefId: 'br_a',
          fills: [
            { blankId: 'bl_a', routeId: 'rt_b' },
            { blankId: 'bl_b', gait: 'run' },
          ],
        }),
        sp_c: at(40, 20, { briefId: 'br_a' }),
      },
    })
    const run = rehearsed(level, 40)
    const ends = (id: string) => rowsOfSpawner(run, id).map((r) => r[0])
    expect(Math.max(...ends('sp_a').map((r) => r.x))).toBeLessThan(21)
    expect(Math.min(...ends('sp_b').map((r) => r.x))).toBeGreaterThan(49)
    expect(Math.max(...ends('sp_a').map((r) => r.speed))).toBeLessThan(1.5)
    expect(Math.max(...ends('sp_b').map((r) => r.speed))).toBeGreaterThan(3)
    // Who has filled in nothing stands, and the verdict says why.
    expect(far(ends('sp_c').at(-1)!, 40, 20)).toBeLessThan(0.1)
    expect(run.verdicts().find((v) => v.spawnerId === 'sp_c')!.reasons[0]).toContain('none is chosen')
  })
})
