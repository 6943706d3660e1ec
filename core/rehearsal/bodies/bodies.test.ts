import { newStep } from '@tidytrail/core/level'
import { describe, expect, it } from 'vitest'
import { framesOf, preset, rehearsed, stopsMade, travelLevel, type Row } from '@tidytrail/core/testing'
import type { Run } from '..'

const track = (run: Run): Row[] => framesOf(run).flatMap((f) => f.slice(0, 1))
/** Radius of the circle through three places; Infinity on a line. */
function circleM([ax, ay]: number[], [bx, by]: number[], [cx, cy]: number[]): number {
  const cross = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax)
  const [p, q, r] = [Math.hypot(bx - ax, by - ay), Math.hypot(cx - bx, cy - by), Math.hypot(cx - ax, cy - ay)]
  return Math.abs(cross) < 1e-9 ? Infinity : (p * q * r) / (2 * Math.abs(cross))
}
const square = [
  [20, 20],
  [80, 20],
  [80, 80],
  [20, 80],
] as const

describe('a cart', () => {
  const cart = preset('Tide-cart')

  it('laps a smooth circuit on its line, within its grip, and goes on lapping', () => {
    const level = travelLevel(cart, square, {
      route: { kind: 'circuit', travel: 'round', legs: 'drawn', curve: 'smooth' },
      spawner: { facingRad: -Math.PI / 4 },
    })
    const run = rehearsed(level, 150)
    const [verdict] = run.verdicts()
    expect(verdict.verdict).toBe('follows')
    expect(verdict.crossTrack.max).toBeLessThan(0.5)
    expect(stopsMade(run).slice(0, 6)).toEqual([0, 1, 2, 3, 0, 1])
    const rows = track(run).filter((r) => r.speed > 1)
    for (let k = 1; k + 1 < rows.length; k++) {
      const r = circleM([rows[k - 1].x, rows[k - 1].y], [rows[k].x, rows[k].y], [rows[k + 1].x, rows[k + 1].y])
      expect(rows[k].speed ** 2 / r).toBeLessThan(cart.gripMps2! * 1.15)
    }
  })

  it('turns no tighter than its smallest circle, wherever it is to go', () => {
    const level = travelLevel(
      cart,
      [
        [40, 40],
        [70, 40],
        [40, 41],
      ],
      { route: { travel: 'there-and-back', legs: 'drawn' }, spawner: { facingRad: 3 } },
    )
    const rows = track(rehearsed(level, 60)).filter((r) => r.speed > 0.3)
    for (let k = 2; k + 2 < rows.length; k++) {
      const r = circleM([rows[k - 2].x, rows[k - 2].y], [rows[k].x, rows[k].y], [rows[k + 2].x, rows[k + 2].y])
      expect(r).toBeGreaterThan(cart.turnM * 0.93)
    }
  })

  it('speeds up and brakes no harder than it can', () => {
    const level = travelLevel(cart, square, {
      route: { travel: 'there-and-back' },
      stop: { 1: { pause: { minS: 2, maxS: 2 } }, 3: { pause: { minS: 1, maxS: 1 } } },
    })
    const rows = track(rehearsed(level, 120))
    for (let k = 1; k < rows.length; k++) {
      const a = (rows[k].speed - rows[k - 1].speed) * 10
      expect(a).toBeLessThan(cart.accelMps2 + 0.05)
      expect(-a).toBeLessThan(cart.brakeMps2! + 0.05)
    }
  })

  it('runs wide where it is told to go faster than its grip allows, and the stretch names it', () => {
    const slippery = { ...cart, turnM: 2.4, gripMps2: 6, gaits: { race: 16 }, gait: 'race' }
    const level = travelLevel(
      slippery,
      [
        [10, 60],
        [70, 60],
        [70, 20],
      ],
      {
        route: { legs: 'drawn' },
        more: {
          covers: {
            cv_a: {
              name: 'Ice',
              kind: 'ice',
              ring: [
                [55, 10],
                [115, 10],
                [115, 110],
                [55, 110],
              ],
              grip: 0.15,
            },
          },
        },
      },
    )
    const run = rehearsed(level, 40)
    const [{ crossTrack }] = run.verdicts()
    expect(crossTrack.max).toBeGreaterThan(1)
    expect(run.engine.events.list.some((e) => e.kind === 'strayed')).toBe(true)
  })

  it('leaves at the open end of its lane, and another takes its place', () => {
    const level = travelLevel(
      cart,
      [
        [10, 60],
        [60, 60],
        [110, 62],
      ],
      {
        route: { kind: 'lane', legs: 'drawn', curve: 'smooth' },
        spawner: { count: 3, everyS: 8 },
      },
    )
    const run = rehearsed(level, 70)
    expect(run.engine.members).toHaveLength(3)
    expect(run.engine.members.every((m) => m.leftS !== undefined)).toBe(true)
    expect(run.engine.world.count).toBe(0)
    expect(run.verdicts().map((v) => v.verdict)).toEqual(['follows', 'follows', 'follows'])
    expect(framesOf(run).at(-1)).toEqual([])
  })

  it('follows a found way round a plain square as fast as is expected of it', () => {
    const level = travelLevel(
      cart,
      [
        [20, 20],
        [50, 20],
        [50, 50],
        [20, 50],
      ],
      { route: { travel: 'round' } },
    )
    const [verdict] = rehearsed(level, 90).verdicts()
    // Its smallest circle cuts a right angle by (√2 − 1) of its radius: about a metre, which is all there is to say.
    expect(verdict.verdict).toBe('follows-with-remarks')
    expect(verdict.reasons.join()).toMatch(/^strays \d\.\d\d m/)
    expect(verdict.crossTrack.max).toBeLessThan(1.4 * (Math.SQRT2 - 1) * cart.turnM)
    expect(Math.abs(verdict.legs.tookS / verdict.legs.expectedS - 1)).toBeLessThan(0.2)
  })

  it('that goes round and round without getting on is seen to, said to orbit, and goes on', () => {
    const run = rehearsed(travelLevel(cart, square, { route: { travel: 'round' } }), 10)
    const { world } = run.engine
    // As if nothing it had done for more than a turn had brought it nearer.
    world.turned[0] = 8
    world.best[0] = -1e6
    run.runTo(12)
    expect(run.engine.events.list.map((e) => e.kind)).toContain('orbits')
    expect(run.verdicts()[0]).toMatchObject({ verdict: 'does-not-follow', stops: { missed: 1 } })
    expect(run.verdicts()[0].reasons.join()).toContain('went round and round a stop once')
  })

  it('counts how far it has turned since it last got on', () => {
    // At once to turn about: half a circle and more, before it is nearer than it began.
    const level = travelLevel(
      cart,
      [
        [60, 60],
        [90, 60],
      ],
      {
        route: { legs: 'drawn' },
        spawner: { facingRad: Math.PI },
      },
    )
    let most = 0
    const run = rehearsed(level, 0.5)
    while (run.t < 8) {
      run.next()
      most = Math.max(most, run.engine.world.turned[0])
    }
    expect(most).toBeGreaterThan(2)
    expect(run.engine.events.list.map((e) => e.kind)).not.toContain('orbits')
  })

  it('brakes for somebody who walks across, and touches nobody', () => {
    const level = travelLevel(
      cart,
      [
        [10, 60],
        [110, 60],
      ],
      { route: { legs: 'drawn' } },
    )
    level.profiles.pf_w = preset('Warden')
    level.waypoints.wp_x = { ...level.waypoints.wp_0, at: [60, 45, 0] }
    level.waypoints.wp_y = { ...level.waypoints.wp_0, at: [60, 75, 0] }
    level.routes.rt_b = {
      ...level.routes.rt_a,
      name: 'Across',
      travel: 'there-and-back',
      legs: 'found',
      stops: {
        st_x: { ...level.routes.rt_a.stops.st_0, waypointId: 'wp_x' },
        st_y: { ...level.routes.rt_a.stops.st_0, waypointId: 'wp_y' },
      },
      order: ['st_x', 'st_y'],
    }
    level.briefs.br_b = {
      ...level.briefs.br_a,
      steps: { bs_b: newStep('follow-route', { routeId: 'rt_b' }) },
      order: ['bs_b'],
    }
    for (const k of [0, 1, 2, 3])
      level.spawners[`sp_w${k}`] = {
        ...level.spawners.sp_a,
        name: `W${k}`,
        at: [60, 45 + k, 0],
        profileId: 'pf_w',
        briefId: 'br_b',
      }
    const frames = framesOf(rehearsed(level, 60))
    let nearest = Infinity
    for (const rows of frames) {
      const c = rows.find((r) => r.key === 1)!
      for (const r of rows) if (r !== c) nearest = Math.min(nearest, Math.hypot(r.x - c.x, r.y - c.y))
    }
    expect(nearest).toBeGreaterThan((cart.radiusM + 0.35) * 0.98 - 0.002)
    expect(frames.at(-1)!.find((r) => r.key === 1)!.x).toBeGreaterThan(105)
  })
})

describe('a boat', () => {
  const skiff = preset('Skiff')
  const water = { settings: { waterLevelM: 2 } as never }

  it('goes round its stops, swings no faster than its helm lets it, and keeps off the land', () => {
    const level = travelLevel(
      skiff,
      [
        [20, 20, 2],
        [90, 20, 2],
        [90, 90, 2],
        [20, 90, 2],
      ],
      { route: { travel: 'round' }, more: water },
    )
    const run = rehearsed(level, 240)
    expect(stopsMade(run).length).toBeGreaterThan(4)
    expect(run.verdicts()[0].stops.missed).toBe(0)
    const rows = track(run)
    let before = 0
    for (let k = 1; k < rows.length; k++) {
      let turned = rows[k].heading - rows[k - 1].heading
      if (turned > Math.PI) turned -= 2 * Math.PI
      if (turned < -Math.PI) turned += 2 * Math.PI
      const rate = turned * 10
      expect(Math.abs(rate)).toBeLessThan(skiff.turnRateRadps + 0.02)
      // First order: the rate comes on over the time the helm takes, not at once.
      expect(Math.abs(rate - before)).toBeLessThan((2 * skiff.turnRateRadps * 0.1) / skiff.yawS + 0.03)
      before = rate
    }
  })

  it('drifts to a stop over the way its little braking takes', () => {
    const level = travelLevel(
      skiff,
      [
        [20, 60, 2],
        [80, 60, 2],
      ],
      { more: water, stop: { 1: { pause: { minS: 5, maxS: 5 } } } },
    )
    const rows = track(rehearsed(level, 60))
    const fast = Math.max(...rows.map((r) => r.speed))
    expect(fast).toBeGreaterThan(2.4)
    const from = rows.findLastIndex((r) => r.speed > 0.99 * fast)
    const halt = rows.findIndex((r, k) => k > from && r.speed < 0.02)
    const drift = Math.hypot(rows[halt].x - rows[from].x, rows[halt].y - rows[from].y)
    expect(drift).toBeGreaterThan((0.9 * fast * fast) / (2 * skiff.brakeMps2!))
    expect(Math.hypot(rows[halt].x - 80, rows[halt].y - 60)).toBeLessThan(1.5)
  })
})

describe('a flyer', () => {
  const gull = preset('Gull')

  it('flies at the heights of its stops, climbs no faster than it can, and stays in its band', () => {
    const level = travelLevel(
      gull,
      [
        [20, 20, 5],
        [90, 20, 20],
        [90, 90, 12],
        [20, 90, 5],
      ],
      { route: { travel: 'round' }, spawner: { at: [20, 20, 5] } },
    )
    const run = rehearsed(level, 120)
    const rows = track(run)
    expect(Math.max(...rows.map((r) => r.z))).toBeGreaterThan(18)
    for (let k = 1; k < rows.length; k++) {
      expect(Math.abs(rows[k].z - rows[k - 1].z) * 10).toBeLessThan(gull.climbMps + 0.05)
      expect(rows[k].z).toBeGreaterThanOrEqual(gull.minAltitudeM - 0.01)
      expect(rows[k].z).toBeLessThanOrEqual(gull.maxAltitudeM + 0.01)
    }
    expect(stopsMade(run).length).toBeGreaterThan(5)
    // Each stop is made at its own height.
    for (const e of run.engine.events.list.filter((v) => v.kind === 'reached')) {
      const row = rows[Math.min(rows.length - 1, Math.round(e.step / 3))]
      expect(Math.abs(row.z - [5, 20, 12, 5][e.a])).toBeLessThan(1.5)
    }
  })

  it('that appears on the ground, below its band, stays there, and its verdict says so', () => {
    const level = travelLevel(gull, [[20, 20, 8], [90, 20, 8]], { spawner: { at: [20, 20, 0] } }) // prettier-ignore
    const run = rehearsed(level, 5)
    for (const { x, y, speed } of track(run)) expect([x, y, speed]).toEqual([20, 20, 0])
    expect(run.verdicts()[0].reasons[0]).toContain('the way to stop 1 of Way cannot be')
  })

  it('circles where it is to wait, never slower than it can fly', () => {
    const level = travelLevel(
      gull,
      [
        [40, 60, 8],
        [80, 60, 8],
      ],
      {
        stop: { 1: { pause: { minS: 20, maxS: 20 } } },
        route: { travel: 'there-and-back' },
        spawner: { at: [40, 60, 8] },
      },
    )
    const rows = track(rehearsed(level, 30)).slice(20)
    for (const r of rows) expect(r.speed).toBeGreaterThan(gull.slowestMps - 0.05)
    const waiting = rows.filter((r) => r.state === 'pausing')
    expect(waiting.length).toBeGreaterThan(100)
    for (const r of waiting) expect(Math.hypot(r.x - 80, r.y - 60)).toBeLessThan(15)
  })
})

describe('an amphibious body', () => {
  it('goes on from land into water and out again, slower while it floats', () => {
    const skipper = preset('Mudskipper')
    const row = Array.from({ length: 61 }, (_, i) => Math.max(-3, Math.min(0, 6 - Math.abs(i * 2 - 60) * -0.2 - 12)))
    const level = travelLevel(
      skipper,
      [
        [10, 60],
        [110, 60],
      ],
      {
        more: {
          settings: { waterLevelM: -1 } as never,
          ground: {
            baseM: 0,
            heights: { originX: 0, originY: 0, spacingM: 2, rows: row.map(() => row), assetId: null } as never,
          },
        },
      },
    )
    const rows = track(rehearsed(level, 160))
    expect(rows.at(-1)!.x).toBeGreaterThan(109)
    const afloat = rows.filter((r) => Math.abs(r.x - 60) < 8)
    const dry = rows.filter((r) => r.x > 15 && r.x < 24)
    const mean = (list: Row[]) => list.reduce((s, r) => s + r.speed, 0) / list.length
    expect(mean(afloat)).toBeLessThan(0.8 * mean(dry))
  })
})

describe('a walker', () => {
  it('changes its velocity no faster than its legs can, at corners, pauses and turns', () => {
    const warden = preset('Warden')
    const level = travelLevel(warden, square, {
      route: { travel: 'there-and-back' },
      stop: { 1: { pause: { minS: 2, maxS: 2 } } },
    })
    const rows = track(rehearsed(level, 200))
    for (let k = 2; k < rows.length; k++) {
      const v = (i: number) => [(rows[i].x - rows[i - 1].x) * 10, (rows[i].y - rows[i - 1].y) * 10]
      const [a, b] = [v(k - 1), v(k)]
      expect(Math.hypot(b[0] - a[0], b[1] - a[1]) * 10).toBeLessThan(warden.accelMps2 + 0.3)
    }
    expect(rehearsed(level, 200).verdicts()[0].verdict).toBe('follows')
  })

  it('looks round within the directions of its stop while it pauses, beginning in the middle', () => {
    const look = { fromRad: 0, toRad: Math.PI / 2 }
    const level = travelLevel(
      preset('Warden'),
      [
        [20, 20],
        [30, 20],
      ],
      {
        stop: { 1: { pause: { minS: 12, maxS: 12 }, look } },
      },
    )
    const paused = track(rehearsed(level, 30))
      .filter((r) => r.state === 'pausing')
      .slice(10)
    const turns = paused.map((r) => r.heading)
    expect(Math.min(...turns)).toBeGreaterThan(-0.05)
    expect(Math.max(...turns)).toBeLessThan(Math.PI / 2 + 0.05)
    expect(Math.max(...turns) - Math.min(...turns)).toBeGreaterThan(1.2)
  })

  it('visits its stops in an order drawn anew each round, every one once', () => {
    const stops = [
      [20, 20],
      [40, 20],
      [40, 40],
      [20, 40],
      [30, 50],
    ] as const
    const level = travelLevel(preset('Warden'), stops, { route: { travel: 'any-order' } })
    const rounds = (seed: number, of = level) => {
      const made = stopsMade(rehearsed(of, 400, seed))
      return [made.slice(0, 5), made.slice(5, 10)]
    }
    const [first, second] = rounds(1)
    expect([...first].sort()).toEqual([0, 1, 2, 3, 4])
    expect(second.length).toBe(5)
    expect(new Set([1, 2, 3, 4].map((s) => rounds(s)[0].join())).size).toBeGreaterThan(1)
    const nearest = { ...level, routes: { rt_a: { ...level.routes.rt_a, pick: 'nearest' as const } } }
    expect(rounds(1, nearest)[0]).toEqual([0, 1, 2, 4, 3])
  })
})
