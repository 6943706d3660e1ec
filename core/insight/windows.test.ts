import { WARDEN, levelSchema, watchSpotSchema, type Level } from '@tidytrail/core/level'
import { madeRecording, rehearsed, sceneLevel, travelLevel, box } from '@tidytrail/core/testing'
import { recordedOf } from '@tidytrail/core/rehearsal'
import { describe, expect, it } from 'vitest'
import { longestWait, lookerKeys, spotWindows } from '.'

const GUARD = { ...WARDEN, sightM: 12, sightRad: Math.PI / 2 }
const levelWith = (solids: Parameters<typeof sceneLevel>[2] = {}): Level =>
  levelSchema.parse({ ...sceneLevel(100, 100, solids), profiles: { pf_a: GUARD } })
const spotAt = (x: number, y: number) => watchSpotSchema.parse({ name: 'Spot', at: [x, y, 0] })

describe('the windows of a spot', () => {
  it('on a ring two patrols walk round are as long as arithmetic says', () => {
    // Of somebody who walks along a circle, a spot on it is ahead by half the arc to it: within the wedge up to an arc of
    // twice half its width, within sight up to a chord of that length.
    const [R, v] = [20, 1.4]
    const arc = Math.min(2 * (GUARD.sightRad / 2), 2 * Math.asin(GUARD.sightM / (2 * R)))
    const patrol = (phase: number) => ({
      profileId: 'pf_a',
      pose: (t: number) => {
        const a = phase + (v * t) / R
        return { x: 50 + R * Math.cos(a), y: 50 + R * Math.sin(a), heading: a + Math.PI / 2 }
      },
    })
    const level = levelWith()
    const round = (2 * Math.PI * R) / v
    const { open, figures, watched } = spotWindows(
      madeRecording(level, [patrol(0), patrol(Math.PI)], 3 * round),
      spotAt(50 + R, 50),
    )
    const expected = ((Math.PI - arc) * R) / v
    // The first begins with the recording, for the first patrol sets out from the spot.
    for (const span of open.slice(1, -1)) expect(Math.abs(span.to - span.from - expected)).toBeLessThanOrEqual(0.2)
    expect(open.length).toBeGreaterThanOrEqual(6)
    expect(Math.abs(figures.share - (1 - arc / Math.PI))).toBeLessThan(0.01)
    expect(watched.map((w) => w.key).sort()).toEqual([1, 2])
  })

  it('of one who goes there and back, with a stop at either end, are as long as arithmetic says', () => {
    const [L, v, pauseS, c] = [40, 1.6, 7, 25]
    const way = L / v
    const cycle = 2 * (way + pauseS)
    const pose = (t: number) => {
      const s = t % cycle
      if (s < way) return { x: 20 + v * s, y: 50, heading: 0 }
      if (s < way + pauseS) return { x: 20 + L, y: 50, heading: 0 }
      if (s < 2 * way + pauseS) return { x: 20 + L - v * (s - way - pauseS), y: 50, heading: Math.PI }
      return { x: 20, y: 50, heading: Math.PI }
    }
    const { open } = spotWindows(
      madeRecording(levelWith(), [{ profileId: 'pf_a', pose }], 3 * cycle),
      spotAt(20 + c, 50),
    )
    // Seen from so far off on the way there until one is past it, and the same on the way back: once from the far end,
    // after its stop there, and once from the near end after the other stop.
    const beyond = (L - c - Math.min(GUARD.sightM, L - c)) / v
    const far = (L - c) / v + pauseS + beyond
    const near = c / v + pauseS + (c - GUARD.sightM) / v
    const whole = open.slice(1, -1).map((s) => s.to - s.from)
    whole.forEach((s, k) => expect(Math.abs(s - (k % 2 === 0 ? far : near))).toBeLessThanOrEqual(0.2))
    expect(whole.length).toBeGreaterThanOrEqual(4)
  })

  it('agree with whom a rehearsed warden saw, and a wall makes one', () => {
    // The stand-in waits where the spot is: what the rehearsal says was seen is the oracle.
    const level = travelLevel(
      GUARD,
      [
        [10, 20],
        [50, 20],
      ] as const,
      {
        route: { travel: 'there-and-back' },
        stop: { 0: { pause: { minS: 4, maxS: 4 } }, 1: { pause: { minS: 4, maxS: 4 } } },
        solids: { sd_wall: box(26, 22, 27, 30, 4) },
        more: {},
      },
    )
    const still = levelSchema.parse({
      ...level,
      spawners: {
        ...level.spawners,
        sp_thief: { name: 'Thief', at: [30, 24, 0], profileId: 'pf_a', standIn: true },
      },
    })
    const run = rehearsed(still, 80)
    const recorded = recordedOf(run)
    const thief = recorded.agents.find((a) => a.standIn)!
    const { open } = spotWindows(recorded, { at: [30, 24, 0], heightM: GUARD.heightM, factionIds: [] })
    const looks = recorded.events.filter((e) => (e.kind === 'saw' || e.kind === 'lost') && e.a === thief.key)
    expect(looks.length).toBeGreaterThanOrEqual(4)
    for (const e of looks) {
      const at = e.step * recorded.stepS
      const edge = open.flatMap((s) => (e.kind === 'saw' ? [s.to] : [s.from]))
      expect(Math.min(...edge.map((s) => Math.abs(s - at)))).toBeLessThanOrEqual(0.21)
    }
  })

  it('are all of the time where there is nobody to watch', () => {
    const { figures, lookers } = spotWindows(madeRecording(levelWith(), [], 10), spotAt(5, 5))
    expect([figures.share, figures.count, lookers]).toEqual([1, 1, 0])
  })
})

describe('whose eyes count', () => {
  const level = levelSchema.parse({
    ...levelWith(),
    factions: { fc_w: { name: 'Watch', hostileTo: ['fc_n'] }, fc_n: { name: 'Night' }, fc_q: { name: 'Quay' } },
    spawners: { sp_t: { name: 'T', at: [1, 1, 0], profileId: 'pf_a', factionId: 'fc_n', standIn: true } },
  })
  const pose = () => ({ x: 1, y: 1, heading: 0 })
  const cast = [
    { profileId: 'pf_a', pose, factionId: 'fc_w' },
    { profileId: 'pf_a', pose, factionId: 'fc_q' },
    { profileId: 'pf_a', pose, factionId: 'fc_n', standIn: true },
  ]
  it('is told by name; else those of who is hostile to the stand-in, else everybody else', () => {
    const recorded = madeRecording(level, cast, 1)
    expect([...lookerKeys(recorded, ['fc_q'])]).toEqual([2])
    expect([...lookerKeys(recorded, [])]).toEqual([1])
    const peaceful = madeRecording({ ...level, factions: {} }, cast, 1)
    expect([...lookerKeys(peaceful, [])]).toEqual([1, 2])
  })
})

describe('the longest wait for a window', () => {
  const spans = [
    { from: 10, to: 12 },
    { from: 20, to: 30 },
    { from: 70, to: 90 },
  ]
  it('is from the last moment one would have done to the first one does again', () => {
    // Of six seconds: from 24 on it is too late for the second, and the third begins at 70.
    expect(longestWait(spans, 6, 0, 90)).toEqual({ s: 46, from: 24 })
    expect(longestWait(spans, 6, 30, 90)).toEqual({ s: 40, from: 30 })
    expect(longestWait(spans, 2, 0, 90)).toEqual({ s: 42, from: 28 })
  })
  it('is all the time there is when there never is one', () => {
    expect(longestWait(spans, 25, 5, 100)).toEqual({ s: 70, from: 5 })
    expect(longestWait([], 1, 0, 100)).toEqual({ s: 99, from: 0 })
  })
})
