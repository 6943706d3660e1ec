import { describe, expect, it } from 'vitest'
import { newStep, changeStops, levelSchema, type Level, type TravelMode } from '@tidytrail/core/level'
import { footprint } from '@tidytrail/core/ground'
import { box, placeToLine, sceneLevel, sidesOf } from '@tidytrail/core/testing'
import { framesOf, rehearsed as run, stopsMade } from '@tidytrail/core/testing'

interface Options {
  travel?: TravelMode
  stops?: [number, number][]
  pause?: [number, number]
  solids?: Parameters<typeof sceneLevel>[2]
  count?: number
  at?: [number, number, number]
}

function level({
  travel = 'one-way',
  stops = [
    [5, 5],
    [25, 5],
  ],
  pause = [0, 0],
  solids = {},
  count = 1,
  at = [5, 5, 0],
}: Options = {}): Level {
  const waypoints = Object.fromEntries(
    stops.map(([x, y], i) => [`wp_${i}`, { at: [x, y, 0] as [number, number, number] }]),
  )
  const stopRecords = Object.fromEntries(
    stops.map((_, i) => [`st_${i}`, { waypointId: `wp_${i}`, pause: { minS: pause[0], maxS: pause[1] } }]),
  )
  const base = sceneLevel(60, 40, solids)
  return levelSchema.parse({
    ...base,
    waypoints,
    routes: { rt_a: { name: 'Beat', travel, stops: stopRecords, order: Object.keys(stopRecords) } },
    briefs: { br_a: { name: 'B', steps: { bs_a: { kind: 'follow-route', routeId: 'rt_a' } }, order: ['bs_a'] } },
    spawners: { sp_a: { name: 'Gate', at, profileId: 'pf_warden', briefId: 'br_a', count, everyS: 5 } },
  })
}

describe('a walker on a route', () => {
  const square: [number, number][] = [
    [10, 5],
    [40, 5],
    [40, 30],
    [10, 30],
  ]
  const changed = (of: Level, set: object): Level => ({ ...of, routes: { rt_a: { ...of.routes.rt_a, ...set } } })

  it('goes along the curve of a smooth one, beyond the straight lines between its stops', () => {
    const of = changed(level({ stops: square, at: [10, 5, 0] }), { legs: 'drawn', curve: 'smooth' })
    const of90 = run(of, 90)
    expect(Math.max(...framesOf(of90).map(([f]) => f.x))).toBeGreaterThan(42)
    expect(stopsMade(of90)).toEqual([0, 1, 2, 3])
  })

  it('keeps to a speed limit', () => {
    const time = (of: Level) =>
      run(of, 120)
        .engine.events.list.filter((e) => e.kind === 'reached')
        .at(-1)!.step / 30
    const free = level({ stops: square.slice(0, 2), at: [10, 5, 0] })
    const limited = changed(free, { speedLimitMps: 0.5 })
    expect(time(limited)).toBeGreaterThan(59)
    expect(time(free)).toBeLessThan(30)
  })

  it('pauses at only a share of its visits, when told so', () => {
    const round = level({ stops: square, travel: 'round', pause: [1, 1], at: [10, 5, 0] })
    const share = (pauseShare: number) => {
      const of = changeStops.apply(round, { stops: { rt_a: round.routes.rt_a.order }, set: { pauseShare } }).level
      const said = run(of, 600).engine.events.list.filter((e) => e.kind === 'reached')
      return said.filter((e) => e.b > 0).length / said.length
    }
    expect(share(1)).toBe(1)
    expect(share(0)).toBe(0)
    // Some thirty visits: between a tenth and nine tenths but for one seed in millions.
    expect(share(0.5)).toBeGreaterThan(0.1)
    expect(share(0.5)).toBeLessThan(0.9)
  })
})

describe('a walker on a passage', () => {
  it('takes its time in it, comes out on its far floor and goes on', () => {
    const of = level({
      stops: [
        [3, 10],
        [20, 10],
      ],
      at: [3, 10, 0],
      solids: { sd_deck: box(10.1, 5.1, 25.1, 15.1, 4, { walkable: true }) },
    })
    const climb = levelSchema.parse({
      ...of,
      waypoints: { ...of.waypoints, wp_1: { at: [20, 10, 4] } },
      passages: { pg_a: { name: 'Rungs', kind: 'ladder', from: [9, 10, 0], to: [11, 10, 4], takesS: 6 } },
    })
    const rehearsal = run(climb, 40)
    const frames = framesOf(rehearsal).map(([f]) => f)
    const crossing = frames.filter((f) => f.state === 'crossing')
    expect(crossing.length / 10).toBeCloseTo(6, 0)
    const heights = crossing.map((f) => f.z)
    expect(heights).toEqual([...heights].sort((a, b) => a - b))
    expect(frames.at(-1)!.z).toBe(4)
    expect(rehearsal.verdicts()[0].verdict).toBe('follows')
    expect(rehearsal.engine.events.list.map((e) => e.kind)).toContain('crossed')
  })
})

describe('a rehearsal', () => {
  it('gives the same hash for the same level and seed, and another for another seed', () => {
    const of = level({ travel: 'there-and-back', pause: [1, 6] })
    expect(run(of, 60, 4).hash).toBe(run(of, 60, 4).hash)
    expect(run(of, 60, 5).hash).not.toBe(run(of, 60, 4).hash)
  })

  it('does not change an agent’s luck when another agent is added', () => {
    const pauses = (of: Level) =>
      run(of, 60, 9)
        .engine.events.list.filter((e) => e.key === 1 && e.kind === 'reached' && e.b > 0)
        .map((e) => e.b)
    const one = pauses(level({ travel: 'there-and-back', pause: [1, 6] }))
    expect(one.length).toBeGreaterThan(2)
    expect(pauses(level({ travel: 'there-and-back', pause: [1, 6], count: 3 }))).toEqual(one)
  })

  it('walks at its gait: 20 m at 1.4 m/s with a moment to set out and stop', () => {
    const [verdict] = run(level(), 40).verdicts()
    expect(verdict).toMatchObject({ verdict: 'follows', stops: { made: 2, due: 2 }, route: 'rt_a' })
    // To speed and to a halt at 2.5 m/s² take half a second more than going by would.
    expect(verdict.legs.expectedS).toBeCloseTo(20 / 1.4 + 1.4 / 2.5, 1)
    expect(verdict.legs.tookS).toBeGreaterThan(20 / 1.4 - 0.3)
    expect(verdict.legs.tookS).toBeLessThan(20 / 1.4 + 1)
    expect(verdict.crossTrack.max).toBeLessThan(0.05)
  })

  it('ends one way, goes round and round, and turns back there and back', () => {
    const stops: [number, number][] = [
      [5, 5],
      [15, 5],
      [15, 15],
    ]
    const order = (travel: TravelMode) => stopsMade(run(level({ travel, stops }), 90))
    expect(order('one-way')).toEqual([0, 1, 2])
    expect(order('round').slice(0, 7)).toEqual([0, 1, 2, 0, 1, 2, 0])
    expect(order('there-and-back').slice(0, 7)).toEqual([0, 1, 2, 1, 0, 1, 2])
  })

  it('keeps pauses within their bounds and faces as told', () => {
    const of = changeStops.apply(level({ pause: [4, 4] }), {
      stops: { rt_a: ['st_1'] },
      set: { facingRad: Math.PI / 2 },
    }).level
    const rehearsal = run(of, 60)
    const states = framesOf(rehearsal).map(([f]) => f.state)
    const pausing = states.filter((s) => s === 'pausing').length / 10
    expect(pausing).toBeGreaterThan(7.8)
    expect(pausing).toBeLessThan(8.3)
    const [last] = framesOf(rehearsal).at(-1)!
    expect(last.heading).toBeCloseTo(Math.PI / 2, 2)
  })

  it('never lets a body nearer to a solid than its radius less a centimetre, and loses no time at corners', () => {
    const of = level({
      solids: {
        sd_a: box(12, 0, 16, 12),
        sd_b: { shape: 'box', name: '', at: [21, 9], sizeX: 5, sizeY: 0.1, turnRad: 0.6, baseM: 0, heightM: 3 },
      },
      stops: [
        [5, 5],
        [25, 5],
      ],
      travel: 'there-and-back',
    })
    const rehearsal = run(of, 120)
    const lines = Object.values(of.solids).flatMap((s) => sidesOf(footprint(s)))
    let nearest = Infinity
    for (const [frame] of framesOf(rehearsal)) {
      const place = [frame.x, frame.y]
      for (const [a, b] of lines) nearest = Math.min(nearest, placeToLine(place, a, b))
    }
    expect(nearest).toBeGreaterThan(0.35 - 0.01)
    expect(nearest).toBeLessThan(0.4)
    const [verdict] = rehearsal.verdicts()
    expect(verdict).toMatchObject({ verdict: 'follows', longestStuckS: 0 })
    expect(verdict.stops.made).toBeGreaterThan(2)
  })

  it('says of each agent that cannot follow why not', () => {
    const walled = level({ solids: { sd_wall: box(12, 0, 13, 40) } })
    expect(run(walled, 40).verdicts()[0]).toMatchObject({
      verdict: 'does-not-follow',
      reasons: expect.arrayContaining(['leg 1 to 2 of Beat cannot be walked: nothing joins the two sides']),
    })
    const buried = level({ solids: { sd_box: box(3, 3, 8, 8, 3, { name: 'Shed' }) }, at: [5, 5, 0] })
    expect(run(buried, 10).verdicts()[0].reasons[0]).toContain('inside Shed')
    const idle = level()
    idle.briefs.br_a.steps.bs_a = newStep('follow-route')
    expect(run(idle, 10).verdicts()[0]).toMatchObject({
      verdict: 'not-tried',
      reasons: ['its brief says to follow a route, but none is chosen'],
    })
    expect(
      run(level({ count: 4 }), 6)
        .verdicts()
        .at(-1),
    ).toMatchObject({ verdict: 'not-tried', reasons: ['it appears only after 15.0 s'] })
  })

  it('records ten frames a second of who is there', () => {
    const frames = framesOf(run(level({ count: 2 }), 12))
    expect(frames).toHaveLength(121)
    expect(frames[0]).toMatchObject([{ key: 1, x: 5, y: 5, state: 'idle' }])
    expect(frames[1]).toMatchObject([{ key: 1, state: 'walking' }])
    expect(frames[60].map((f) => f.key)).toEqual([1, 2])
  })
})
