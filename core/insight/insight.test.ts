import { levelSchema, trialSchema, WARDEN, type LevelInput, type Trial } from '@tidytrail/core/level'
import { recordedOf, type AgentEvent } from '@tidytrail/core/rehearsal'
import { madeRecording, rehearsed, sceneLevel, travelLevel, box, type Actor } from '@tidytrail/core/testing'
import { describe, expect, it } from 'vitest'
import {
  compareFigures,
  company,
  coverage,
  coverageFigures,
  Examined,
  Lookers,
  parting,
  passing,
  quantile,
  runFigures,
  sharedStretches,
  spreads,
  stringLine,
  suggestTrials,
  trialWords,
  tryOut,
  whyAt,
  whyNobodyCame,
  whyNotNoticed,
  worstSeed,
} from '.'

const GUARD = { ...WARDEN, sightM: 12, sightRad: Math.PI / 2 }
const event = (step: number, key: number, kind: AgentEvent['kind'], a = 0, route = 0, b = 0): AgentEvent => ({
  step,
  key,
  kind,
  a,
  b,
  c: 0,
  route,
})
const still =
  (x: number, y: number, heading = 0): Actor['pose'] =>
  () => ({ x, y, heading, state: 'pausing' })
const sixty = (more: Partial<LevelInput> = {}) =>
  levelSchema.parse({ ...sceneLevel(60, 40, {}, more), profiles: { pf_a: GUARD } })

/** A line of three places, 20 and 10 m apart, there and back; and one that shares its second leg the other way round. */
const routes = {
  waypoints: { wp_0: { at: [5, 5, 0], name: 'West' }, wp_1: { at: [25, 5, 0] }, wp_2: { at: [35, 5, 0], name: 'East' }, wp_3: { at: [25, 25, 0] } },
  routes: {
    rt_a: { name: 'Beat', travel: 'there-and-back', stops: { st_0: { waypointId: 'wp_0' }, st_1: { waypointId: 'wp_1' }, st_2: { waypointId: 'wp_2' } }, order: ['st_0', 'st_1', 'st_2'] },
    rt_b: { name: 'Other', stops: { st_5: { waypointId: 'wp_2' }, st_6: { waypointId: 'wp_1' }, st_7: { waypointId: 'wp_3' } }, order: ['st_5', 'st_6', 'st_7'] },
  },
} satisfies Partial<LevelInput> // prettier-ignore

/** Somebody who goes along the line at 1 m/s from a time on, one way or the other. */
const walker = (from: number, back = false): Actor => ({
  profileId: 'pf_a',
  route: 'rt_a',
  pose: (t) => {
    const s = t - from
    if (s < 0 || s > 30) return undefined
    const m = back ? 30 - s : s
    const [a, b] = m < 20 ? [0, 1] : [1, 2]
    return { x: 5 + m, y: 5, heading: back ? Math.PI : 0, speed: 1, from: back ? b : a, to: back ? a : b }
  },
})

describe('the string-line of a route', () => {
  const level = sixty(routes)
  it('is time against distance along it, with meetings and overtakings where lines cross', () => {
    const quick: Actor = { ...walker(0), pose: (t) => (t < 10 ? undefined : walker(0).pose((t - 10) * 2)) }
    const line = stringLine(madeRecording(level, [walker(0), walker(4, true), quick], 40), 'rt_a')!
    expect(line.lengthM).toBeCloseTo(30)
    expect(line.stops.map((s) => [s.m, s.name])).toEqual([[0, 'West'], [20, ''], [30, 'East']]) // prettier-ignore
    expect(line.threads).toHaveLength(3)
    line.threads[0].t.forEach((t, k) => expect(line.threads[0].m[k]).toBeCloseTo(t, 2))
    // One there from 0 on and one back from 4 on meet when t = 34 − t; the quick one is where the first is at t = 2(t − 10).
    const told = (kind: string) =>
      line.marks.filter((m) => m.kind === kind).map((m) => [m.keys.join(), Math.round(m.t), Math.round(m.m)])
    expect(told('meeting').filter(([who]) => who === '1,2')).toEqual([['1,2', 17, 17]])
    expect(told('overtaking')).toEqual([['1,3', 20, 20]])
  })

  it('tells how long a stop lies unvisited, by anybody', () => {
    const events = [event(300, 1, 'reached', 1), event(900, 2, 'reached', 1), event(1000, 1, 'reached', 2)]
    const { gaps } = stringLine(madeRecording(level, [walker(0), walker(4, true)], 60, events), 'rt_a')!
    expect(gaps).toEqual([
      { index: 0, visits: 0, longestS: 60, fromS: 0 },
      { index: 1, visits: 2, longestS: 30, fromS: 30 },
      { index: 2, visits: 1, longestS: 1000 / 30, fromS: 0 },
    ])
  })

  it('goes on at the start of a round, and along a found way by its length', () => {
    const ring = levelSchema.parse({ ...level, routes: { rt_a: { ...level.routes.rt_a, travel: 'round' } } })
    const home: Actor = {
      ...walker(0),
      pose: (t) => (t <= 20 ? { x: 35 - 1.5 * t, y: 5, heading: Math.PI, from: 2, to: 0 } : undefined),
    }
    const line = stringLine(madeRecording(ring, [home], 20), 'rt_a', (_r, _p, from) => (from === 2 ? [[35, 5, 0], [35, 15, 0], [5, 15, 0], [5, 5, 0]] : undefined))! // prettier-ignore
    expect(line.lengthM).toBe(60)
    const [thread] = line.threads
    expect(thread.m[0]).toBeCloseTo(30)
    expect(thread.m.every((m, k) => k === 0 || m >= thread.m[k - 1])).toBe(true)
  })

  it('is not to be had of a route that is gone', () =>
    expect(stringLine(madeRecording(level, [], 1), 'rt_no')).toBeUndefined())

  it('shows what two routes share, whichever way they go along it', () => {
    expect(sharedStretches(level, 'rt_a', 'rt_b')).toEqual([{ a: [20, 30], b: [10, 0] }])
    expect(sharedStretches(level, 'rt_a', 'rt_none')).toEqual([])
  })
})

describe('coverage', () => {
  it('is what is seen from every place at every look, asked one by one', () => {
    const level = levelSchema.parse({
      ...sceneLevel(30, 20, { sd_a: box(14, 6, 16, 14, 3) }),
      profiles: { pf_a: GUARD },
    })
    const pacing: Actor = { profileId: 'pf_a', pose: (t) => ({ x: 4 + t, y: 10, heading: t > 5 ? Math.PI / 2 : 0 }) }
    const recorded = madeRecording(level, [pacing, { profileId: 'pf_a', pose: still(26, 4, 2) }], 9)
    const of = coverage(recorded)
    const lookers = new Lookers(recorded)
    let blind = 0
    for (let k = 0; k < of.seconds.length; k++) {
      const [x, y] = [(k % of.columns) + 0.5, Math.floor(k / of.columns) + 0.5]
      // Nobody stands within the block, which has no floor that can be walked on.
      const inside = x > 14 && x < 16 && y > 6 && y < 14
      expect(of.seconds[k] < 0).toBe(inside)
      if (inside) continue
      let s = 0
      for (let f = 0; f < recorded.frameCount; f += 5) {
        const frame = recorded.frame(f)
        const seen = [0, frame.length / 2].some((r) =>
          lookers.look(frame, r, lookers.at(frame, r)!).sees(x, y, 0, 1.75),
        )
        if (seen) s += 0.5
      }
      if (s === 0) blind++
      expect(of.seconds[k]).toBeCloseTo(s, 4)
    }
    const figures = coverageFigures(of, 3)
    expect(figures.never).toHaveLength(blind)
    expect(figures.seen).toBeCloseTo(1 - blind / figures.squares)
    expect(figures.within).toBeLessThan(figures.seen)
  })
})

describe('company', () => {
  it('is who comes near whom, and when somebody has none of the others about', () => {
    const recorded = madeRecording(
      sixty(routes),
      [walker(0), walker(0, true), { profileId: 'pf_a', pose: still(55, 38) }],
      30,
    )
    const { meetings, alone } = company(recorded, new Set([1, 2, 3]), 4, 20)
    // Thirty metres apart they near each other at 2 m/s: within 4 m from 13 s to 17 s.
    expect(meetings.map((m) => m.keys)).toEqual([[1, 2]])
    expect([meetings[0].span.from, meetings[0].span.to]).toEqual([13, 17.5])
    expect(alone.find((a) => a.key === 3)?.share).toBe(1)
    expect(alone.find((a) => a.key === 1)?.spans.map((s) => [s.from, s.to])).toEqual([[0, 5], [25.5, 30.5]]) // prettier-ignore
  })
})

describe('trials', () => {
  const level = sixty({
    ...routes,
    factions: { fc_a: { name: 'Watch' } },
    zones: { zn_a: { name: 'Yard', ring: [[20, 0], [30, 0], [30, 10], [20, 10]] } },
    markers: { mk_a: { name: 'Lamp', at: [50, 5, 0] } },
    watchSpots: { ws_a: { name: 'Door', at: [31, 5, 0] } },
    spawners: { sp_made: { name: 'Gate', at: [5, 5, 0], profileId: 'pf_a' } },
  }) // prettier-ignore
  const stuck: Actor = {
    profileId: 'pf_a',
    pose: (t) => ({ x: 10, y: 30, heading: 0, speed: t > 5 && t < 12 ? 0 : 1 }),
  }
  const events = [event(0, 1, 'reached', 0), event(600, 1, 'reached', 1), event(900, 1, 'reached', 2)]
  const recorded = madeRecording(level, [{ ...walker(0), factionId: 'fc_a' }, stuck], 40, events)
  const result = (trial: Partial<Trial>) =>
    tryOut(new Examined({ ...recorded, level: { ...level, trials: { tl_a: trialSchema.parse(trial) } } }, []), 'tl_a')

  it('hold or not by what was seen, and point at the moment', () => {
    // Stop 2 is first reached after 20 s.
    expect(result({ kind: 'visits', whom: 'route', routeId: 'rt_a', withinS: 40 })).toMatchObject({ holds: true })
    expect(result({ kind: 'visits', whom: 'route', routeId: 'rt_a', withinS: 39 })).toMatchObject({
      holds: false,
      momentS: 39,
      keys: [1],
    })
    expect(result({ kind: 'stuck', longestS: 7 })).toMatchObject({ holds: true })
    const held = result({ kind: 'stuck', longestS: 5 })
    expect(held).toMatchObject({ holds: false, keys: [2], at: [10, 30, 0] })
    expect(held.momentS).toBeCloseTo(5.1)
    expect(held.words).toMatch(/Actor 2 is stuck for 6\.8 s/)
    expect(result({ kind: 'away', whom: 'faction', factionId: 'fc_a', zoneId: 'zn_a', distanceM: 1 })).toMatchObject({
      holds: false,
      momentS: 14.1,
    })
    expect(
      result({ kind: 'away', whom: 'faction', factionId: 'fc_a', markerId: 'mk_a', distanceM: 14.9 }),
    ).toMatchObject({ holds: true })
    expect(result({ kind: 'count', least: 2, most: 2 })).toMatchObject({ holds: false, momentS: 30.1 })
    expect(result({ kind: 'count', least: 1, most: 2 })).toMatchObject({ holds: true })
    expect(result({ kind: 'ends', withinS: 35 })).toMatchObject({ holds: false, keys: [1] })
    expect(result({ kind: 'sees', zoneId: 'zn_a', withinS: 40 })).toMatchObject({ holds: true })
    expect(result({ kind: 'sees', zoneId: 'zn_a', withinS: 2 })).toMatchObject({ holds: false, momentS: 2 })
  })

  it('about windows agree with the windows', () => {
    // The guard looks east and sees the door from 12 m before it on: from 14 s on, until it is past it or gone.
    expect(result({ kind: 'spot', spotId: 'ws_a', windowS: 10, everyS: 25 })).toMatchObject({ holds: true })
    const fails = result({ kind: 'spot', spotId: 'ws_a', windowS: 10, everyS: 20 })
    expect(fails).toMatchObject({ holds: false, at: [31, 5, 0] })
    expect(fails.momentS).toBeCloseTo(4, 1)
  })

  it('that name nothing say so, and are neither held nor broken', () => {
    expect(result({ kind: 'spot' })).toMatchObject({
      holds: undefined,
      words: expect.stringMatching(/names no watch spot/),
    })
    expect(result({ kind: 'line' })).toMatchObject({
      holds: undefined,
      words: expect.stringMatching(/names no sneak line/),
    })
    expect(result({ kind: 'stuck', whom: 'faction' })).toMatchObject({
      holds: undefined,
      words: expect.stringMatching(/names no faction/),
    })
    expect(result({ kind: 'away' })).toMatchObject({ holds: undefined })
    expect(result({ kind: 'count', fromS: 100 })).toMatchObject({ holds: undefined })
    expect(result({ kind: 'stuck', whom: 'spawner', spawnerId: 'sp_other' })).toMatchObject({
      holds: undefined,
      words: 'There is nobody it is about.',
    })
  })

  it('suggested from what was seen hold in it, are sentences, and are not suggested twice', () => {
    const of = new Examined(recorded, [])
    const suggested = suggestTrials(of)
    expect(suggested.map((t) => t.kind)).toEqual(expect.arrayContaining(['stuck', 'visits', 'spot']))
    for (const trial of suggested) {
      if (trial.kind !== 'follows') expect(result(trial)).toMatchObject({ holds: true })
      expect(trialWords(level, trial)).toMatch(/^[A-Z].*\.$/)
    }
    const kept = { ...level, trials: Object.fromEntries(suggested.map((t, k) => [`tl_${k}`, { ...t, name: 'Kept' }])) }
    expect(suggestTrials(new Examined({ ...recorded, level: kept }, []))).toEqual([])
  })
})

describe('two rehearsals compared', () => {
  const level = sixty(routes)
  const of = (from: number) => madeRecording(level, [walker(0), walker(from, true)], 40)
  it('part at the first moment somebody is elsewhere', () => {
    expect(parting(of(4), of(4))).toMatchObject({ firstS: undefined, agents: [], untilS: 40 })
    expect(parting(of(4), of(6))).toMatchObject({ firstS: 4, agents: [{ id: 'sp_made#2', atS: 4 }] })
    expect(parting(of(4), madeRecording(level, [walker(0)], 40))).toMatchObject({ onlyA: ['sp_made#2'], agents: [] })
  })

  it('differ by so much by chance alone as other seeds do', () => {
    const run = (seed: number, value: number) => ({
      seed,
      hash: '',
      passes: value < 5,
      figures: [{ name: 'late', unit: 's', value }],
      trials: [{ trialId: 'tl_a', holds: value < 4, words: '', momentS: undefined }],
    })
    const many = [1, 2, 3, 4, 5].map((v) => run(v, v))
    // The standard deviation of 1 … 5 is √2.5, and a difference of two draws is √2 times as wide.
    expect(compareFigures(many[0], many[3], many)).toEqual([
      { name: 'late', unit: 's', a: 1, b: 4, difference: 3, byChance: expect.closeTo(Math.sqrt(5)) },
    ])
    expect(spreads(many)[0]).toMatchObject({
      least: 1,
      low: 2,
      middle: 3,
      high: 4,
      greatest: 5,
      leastSeed: 1,
      greatestSeed: 5,
    })
    expect(passing(many)).toMatchObject({ runs: 5, passed: 4 })
    expect(passing(many).trials.get('tl_a')).toEqual({ held: 3, told: 5, failed: [4, 5] })
    expect(worstSeed(many)).toBe(4)
    expect(quantile([0, 10], 0.25)).toBe(2.5)
  })
})

describe('why', () => {
  const level = travelLevel(WARDEN, [[10, 20], [30, 20]] as const, {
    stop: { 1: { pause: { minS: 5, maxS: 5 } } },
    more: { factions: { fc_w: { name: 'Watch', hostileTo: ['fc_n'] }, fc_n: { name: 'Night' } } },
    spawner: { factionId: 'fc_w' },
  }) // prettier-ignore
  const cast = levelSchema.parse({
    ...level,
    briefs: {
      br_a: {
        name: 'Guard',
        steps: {
          bs_a: { kind: 'follow-route', routeId: 'rt_a' },
          bs_b: { kind: 'chase', whenId: 'bw_a', loseS: 5, forS: 20 },
        },
        order: ['bs_a', 'bs_b'],
        whens: [{ id: 'bw_a', kind: 'sees', whom: 'hostile', withinM: 15 }],
      },
    },
    spawners: {
      ...level.spawners,
      sp_thief: { name: 'Thief', at: [28, 22, 0], profileId: 'pf_a', factionId: 'fc_n', standIn: true },
      sp_late: { name: 'Late', at: [50, 20, 0], profileId: 'pf_a', firstAfterS: 100 },
      sp_zone: { name: 'Ambush', at: [50, 30, 0], profileId: 'pf_a', begins: 'entered', triggerZoneId: 'zn_far' },
      sp_none: { name: 'Nobody', at: [50, 40, 0], profileId: null },
    },
    zones: { zn_far: { name: 'Far yard', ring: [[80, 80], [90, 80], [90, 90], [80, 90]] } },
  }) // prettier-ignore
  const run = rehearsed(cast, 20)
  const recorded = recordedOf(run)
  const [warden] = recorded.agents

  it('tells the step, what interrupted it and since when, whom it has in mind and what runs down', () => {
    const at = recorded.events.find((e) => e.kind === 'interrupted')!
    const before = whyAt(recorded, warden.key, at.step * recorded.stepS - 0.3)!
    expect(before).toMatchObject({ stepId: 'bs_a', whenId: null, interrupted: undefined, state: 'walking' })
    expect(before.goal![0]).toBeCloseTo(30, 1)
    const chasing = whyAt(recorded, warden.key, at.step * recorded.stepS + 0.5)!
    expect(chasing).toMatchObject({ stepId: 'bs_b', whenId: 'bw_a', interrupted: { stepId: 'bs_a' }, sees: [at.b] })
    expect(chasing.minds).toMatchObject({ key: at.b })
    expect(Math.hypot(chasing.minds!.at[0] - 28, chasing.minds!.at[1] - 22)).toBeLessThan(0.1)
    expect(chasing.timers.find((t) => t.of === 'step')!.leftS).toBeCloseTo(19.5, 0)
    expect(chasing.timers.find((t) => t.of === 'memory')!.leftS).toBeGreaterThan(4)
    expect(whyAt(recorded, 999, 3)).toBeUndefined()
  })

  it('not: nobody came, for its time has not come, what it waits for has not happened, or it has no body', () => {
    const words = (id: string) =>
      whyNobodyCame(recorded, id)
        .map((r) => r.text)
        .join(' ')
    expect(words('sp_late')).toMatch(/due at 100\.0 s; so far 20\.0 s/)
    expect(words('sp_zone')).toMatch(/in Far yard: nobody came; .* came within \d+\.\d m/)
    expect(words('sp_none')).toMatch(/no profile/)
    expect(words('sp_gone')).toMatch(/no longer/)
    expect(words('sp_a')).toMatch(/sent 1, the first at 0\.0 s/)
  })

  it('not: somebody was not noticed, for it was too far off, not looked at, or hidden', () => {
    const [when] = cast.briefs.br_a.whens
    expect(whyNotNoticed(recorded, warden.key, when)[0]).toMatchObject({ text: expect.stringMatching(/It did at/) })
    const pose =
      (x: number, y: number, heading = 0): Actor['pose'] =>
      () => ({ x, y, heading })
    const miss = (thief: Actor['pose'], solids: Parameters<typeof sceneLevel>[2] = {}) => {
      const made = levelSchema.parse({ ...cast, solids, profiles: { pf_a: GUARD } })
      const of = madeRecording(
        made,
        [
          { profileId: 'pf_a', pose: pose(10, 10), briefId: 'br_a', factionId: 'fc_w' },
          { profileId: 'pf_a', pose: thief, factionId: 'fc_n', standIn: true },
        ],
        2,
      )
      return whyNotNoticed(of, 1, when)[0].text
    }
    expect(miss(pose(40, 10))).toMatch(/30\.0 m, and was too far off/)
    expect(miss(pose(5, 10))).toMatch(/5\.0 m, and was not where it looked/)
    expect(miss(pose(18, 10), { sd_a: box(13, 5, 14, 15, 3) })).toMatch(/8\.0 m, and was behind something/)
    expect(miss(pose(18, 10))).toMatch(/was noticed\./)
  })
})

it('the figures of a rehearsal pass when all follow and every trial that can be told holds', () => {
  const level = travelLevel(WARDEN, [[10, 20], [30, 20]] as const, {}) // prettier-ignore
  const run = rehearsed(level, 30)
  const of = (trials: object) =>
    runFigures(
      new Examined({ ...recordedOf(run), level: levelSchema.parse({ ...level, trials }) }, run.verdicts()),
      run.hash,
    )
  expect(of({})).toMatchObject({ passes: true, seed: 1, hash: run.hash })
  expect(of({ tl_a: { kind: 'stuck', longestS: 100 } })).toMatchObject({ passes: true })
  expect(of({ tl_a: { kind: 'line' } })).toMatchObject({ passes: true, trials: [{ holds: undefined }] })
  expect(of({ tl_a: { kind: 'count', least: 5, most: 9 } })).toMatchObject({ passes: false })
  expect(of({ tl_a: { kind: 'count', least: 5, most: 9, off: true } })).toMatchObject({ passes: true, trials: [] })
})
