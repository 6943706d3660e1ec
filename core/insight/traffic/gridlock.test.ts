import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { changeThings, type Level } from '@tidytrail/core/level'
import { FIELD, FRAME_FIELDS, LIMITS, recordedOf } from '@tidytrail/core/rehearsal'
import { driven, framesOf, settled, withJoins, withJunctions, withRoads, withStreams } from '@tidytrail/core/testing'
import { gridlocks, waitingRings } from './gridlock'

const QUEUE = LIMITS.indexOf('queue')
/** A frame in which each waits for another, by their keys; 0 for nobody. */
function frameOf(waits: readonly (readonly [key: number, by: number])[], speed = 0, limit = QUEUE): Int32Array {
  const frame = new Int32Array(waits.length * FRAME_FIELDS)
  waits.forEach(([key, by], n) => {
    frame[n * FRAME_FIELDS] = key
    frame[n * FRAME_FIELDS + FIELD.speed] = speed
    frame[n * FRAME_FIELDS + FIELD.limit] = limit
    frame[n * FRAME_FIELDS + FIELD.by] = by
  })
  return frame
}
const ring = [
  [4, 7],
  [7, 2],
  [2, 4],
  [9, 4],
  [5, 0],
] as const

/** Four crossroads about a block of houses, each 50 m from the next. */
function block(keepClear: boolean): Level {
  const [a, b] = [120, 170]
  const street = (...points: [number, number, number][]) => ({ points })
  const roads: Parameters<typeof withRoads>[0] = {}
  for (const [k, m] of [a, b].entries()) {
    roads[`w${k}`] = street([20, m, 0], [a - 11, m, 0])
    roads[`m${k}`] = street([a + 11, m, 0], [b - 11, m, 0])
    roads[`e${k}`] = street([b + 11, m, 0], [b + 100, m, 0])
    roads[`s${k}`] = street([m, 20, 0], [m, a - 11, 0])
    roads[`c${k}`] = street([m, a + 11, 0], [m, b - 11, 0])
    roads[`n${k}`] = street([m, b + 11, 0], [m, b + 100, 0])
  }
  let level = withJunctions(withJoins(withRoads(roads)))
  const changes = Object.fromEntries(
    Object.keys(level.junctions).map((id) => [id, { control: 'give-way' as const, keepClear }]),
  )
  level = changeThings.apply(level, { in: 'junctions', changes }).level
  return withStreams(settled(level), { perH: 900 })
}

describe('a block with too much traffic', () => {
  it('locks where junctions are not kept clear, and everybody of its ring stands there to the end', () => {
    const run = driven(block(false), 240)
    const [lock] = gridlocks(recordedOf(run))
    expect(lock.keys.length).toBeGreaterThan(3)
    expect(lock.toS).toBe(240)
    const places = (t: number) => new Map(framesOf(run)[t * 10].map((r) => [r.key, r]))
    const [then, now] = [places(lock.fromS + 2), places(240)]
    for (const key of lock.keys)
      expect(Math.hypot(now.get(key)!.x - then.get(key)!.x, now.get(key)!.y - then.get(key)!.y)).toBeLessThan(0.5)
  })

  it('goes on where they are', () => {
    expect(gridlocks(recordedOf(driven(block(true), 240)))).toEqual([])
  })
})

describe('a ring of those who wait for each other', () => {
  it('is found with all who are in it, and nobody who only waits behind it', () => {
    expect(waitingRings(frameOf(ring))).toEqual([[2, 4, 7]])
    expect(waitingRings(frameOf(ring.slice(1)))).toEqual([])
    expect(waitingRings(frameOf(ring, 2000))).toEqual([])
    expect(waitingRings(frameOf(ring, 0, LIMITS.indexOf('corner')))).toEqual([])
    expect(waitingRings(new Int32Array(0))).toEqual([])
  })

  it('is one from which each comes back to itself, and none is missed', () => {
    const waits = fc.uniqueArray(fc.tuple(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 0, max: 12 })), {
      selector: ([key]) => key,
      maxLength: 12,
    })
    fc.assert(
      fc.property(waits, (list) => {
        const next = new Map(list.filter(([, by]) => by > 0))
        const inRing = new Set<number>()
        // Slowly: whoever is led back to itself is in a ring.
        for (const [key] of list) {
          let at = next.get(key)
          for (let k = 0; k < 20 && at !== undefined && at !== key; k++) at = next.get(at)
          if (at === key) inRing.add(key)
        }
        const found = waitingRings(frameOf(list))
        expect(new Set(found.flat())).toEqual(inRing)
        for (const keys of found) keys.forEach((key, k) => expect(next.get(key)).toBe(keys[(k + 1) % keys.length]))
      }),
    )
  })

  it('is a gridlock once it holds, from when to when it did', () => {
    const stands = frameOf(ring)
    const free = frameOf(ring, 3000)
    const run = (from: number, to: number, of = 1000) => ({
      frameCount: of,
      frame: (k: number) => (k >= from && k < to ? stands : free),
    })
    expect(gridlocks(run(200, 260))).toEqual([])
    expect(gridlocks(run(200, 600))).toEqual([{ fromS: 20, toS: 58, keys: [2, 4, 7] }])
    expect(gridlocks(run(700, 1000))).toEqual([{ fromS: 70, toS: 98, keys: [2, 4, 7] }])
    expect(gridlocks(run(0, 0, 0))).toEqual([])
  })
})
