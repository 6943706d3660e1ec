import { blankLevel, changeThings, type Level, type Road } from '@tidytrail/core/level'
import { collisionsIn, driven, framesOf, withRoads, withStreams, type Row } from '@tidytrail/core/testing'
import { laneNet, narrowsOf } from '@tidytrail/core/traffic'
import { describe, expect, it } from 'vitest'

const LONG_M = 260
const PLACE = { fromM: 110, toM: 150 }

/** A track from west to east with streams from both ends, whose ends leave the level. */
function track(perH: number, road: Partial<Road> = {}): Level {
  const bare = { ...blankLevel('Track', 300, 100), profiles: {} }
  const laid = withRoads({ a: { points: [[20, 50, 0], [20 + LONG_M, 50, 0]], track: true, passing: [PLACE], speedLimitMps: 8, ...road } }, bare) // prettier-ignore
  const ids = laid.roads.rd_a.lanes.map((l) => l.laneId!)
  const leaving = changeThings.apply(laid, { in: 'routes', changes: Object.fromEntries(ids.map((id) => [id, { atEnd: 'leave' as const }])) }).level // prettier-ignore
  return withStreams(leaving, { laneIds: ids, perH, warm: false }, { gaits: { drive: 8 } })
}
const RADIUS_M = Object.values(track(1).profiles)[0].radiusM

/** Does a road narrow there: twenty metres at its ends and its passing places are wide, and ten before and after. */
const isNarrow = (x: number) => {
  const m = x - 20
  return (m > 30 && m < PLACE.fromM - 10) || (m > PLACE.toM + 10 && m < LONG_M - 30)
}
const stretchOf = (x: number) => (x - 20 < 130 ? 'west' : 'east')

describe('a track', () => {
  it('has a narrow before and after its passing place, on the lanes of both ways', () => {
    const level = track(1)
    const found = narrowsOf(level, laneNet(level))
    expect(found).toHaveLength(2)
    const [west, east] = found
    for (const { sides } of found)
      for (const s of sides) {
        // As long as where both lanes are less apart than two bodies: the straight part, and some of both tapers.
        expect(s.toM - s.fromM).toBeGreaterThan(70)
        expect(s.toM - s.fromM).toBeLessThan(90)
      }
    expect(west.sides[0].roomM).toBeGreaterThan(PLACE.toM - PLACE.fromM)
    expect(west.sides[1].roomM).toBeGreaterThan(20)
    expect(east.sides[0].laneId).toBe(west.sides[0].laneId)
  })

  it('without room to pass has one narrow, and a short one none', () => {
    const one = track(1, { passing: [] })
    expect(narrowsOf(one, laneNet(one))).toHaveLength(1)
    const none = track(1, { points: [[20, 50, 0], [60, 50, 0]], passing: [] }) // prettier-ignore
    expect(narrowsOf(none, laneNet(none))).toEqual([])
  })

  describe.each([60, 120])('with %i an hour each way', (perH) => {
    const run = driven(track(perH), 1800, perH)
    const frames = framesOf(run)
    const eastward = new Map<number, boolean>()
    for (const rows of frames) for (const r of rows) if (!eastward.has(r.key)) eastward.set(r.key, r.x < 150)

    it('lets everybody through, one way at a time', () => {
      const left = run.engine.events.list.filter((e) => e.kind === 'left')
      expect(left.length).toBeGreaterThan(0.75 * perH)
      expect(collisionsIn(run)).toEqual([])
      for (const rows of frames) {
        const ways = new Map<string, Set<boolean>>()
        for (const r of rows)
          if (isNarrow(r.x)) {
            const key = stretchOf(r.x)
            ways.set(key, (ways.get(key) ?? new Set()).add(eastward.get(r.key)!))
          }
        for (const set of ways.values()) expect(set.size).toBe(1)
      }
    })

    it('keeps nobody waiting for long, and both ways go', () => {
      const stood = new Map<number, number>()
      let longest = 0
      for (const rows of frames)
        for (const r of rows) {
          stood.set(r.key, r.speed < 0.1 ? (stood.get(r.key) ?? 0) + 0.1 : 0)
          longest = Math.max(longest, stood.get(r.key)!)
        }
      expect(longest).toBeLessThan(120)
      const gone = [...eastward.values()].filter((e) => e).length
      expect(gone).toBeGreaterThan(0.3 * eastward.size)
      expect(gone).toBeLessThan(0.7 * eastward.size)
    })

    it('is waited for in the wide parts alone', () => {
      const standing = frames.flat().filter((r: Row) => r.speed < 0.05)
      expect(standing.length).toBeGreaterThan(0)
      for (const r of standing) expect(isNarrow(r.x - RADIUS_M) && isNarrow(r.x + RADIUS_M)).toBe(false)
    })
  })

  it('on which more come than can pass jams nobody for good: all of those on it still get through', () => {
    const level = track(400)
    const run = driven(level, 900, 5)
    const gone = () => run.engine.events.list.filter((e) => e.kind === 'left').length
    const at = gone()
    run.runTo(1200)
    expect(gone()).toBeGreaterThan(at + 10)
    expect(collisionsIn(run)).toEqual([])
  })
})
