import { stringLine } from '@tidytrail/core/insight'
import type { Level } from '@tidytrail/core/level'
import { recordedOf } from '@tidytrail/core/rehearsal'
import { driven, framesOf, settled, signalledStreet, withStreams } from '@tidytrail/core/testing'
import { corridorOf, laneNet, lightAt, waveOf } from '@tidytrail/core/traffic'
import { describe, expect, it } from 'vitest'
import { lanesBetween, onWayOut, waveThreads } from './wave-threads'

const SECONDS = 240
const leaving = (level: Level): Level => ({
  ...level,
  routes: Object.fromEntries(Object.entries(level.routes).map(([id, r]) => [id, { ...r, atEnd: 'leave' }])),
})
const level = withStreams(leaving(settled(signalledStreet([120, 260]))), { perH: 250, warm: false })
const net = laneNet(level)
const laneId = level.roads.rd_m0.lanes.find((l) => l.key === 'a1')!.laneId!
const wave = waveOf(level, net, laneId)
if ('why' in wave) throw new Error(wave.why)
const run = driven(level, SECONDS)
const strings = [...wave.out.laneIds, ...wave.back!.laneIds].flatMap((id) => stringLine(recordedOf(run), id) ?? [])

describe.each(['out', 'back'] as const)('those who drove on the way %s', (way) => {
  const corridor = wave[way]!
  const threads = waveThreads(corridor, net, strings, 0, SECONDS)

  it('are where the recording has them, all along', () => {
    const frames = framesOf(run)
    expect(threads.length).toBeGreaterThan(20)
    const far: number[] = []
    for (const { key, places } of threads)
      for (const [t, m] of places) {
        const row = frames[Math.round(t * 10)]?.find((r) => r.key === key)
        // The street begins at x = 20 and ends at 360.
        if (row) far.push(Math.abs(way === 'out' ? row.x - 20 - m : 360 - row.x - m))
      }
    expect(far.length).toBeGreaterThan(500)
    expect(Math.max(...far)).toBeLessThan(2)
  })

  it('go by the line of a signal with its green or amber alone', () => {
    let passed = 0
    for (const { junctionId, wayId, atM } of corridor.signals)
      for (const key of new Set(threads.map((t) => t.key))) {
        const all = threads.filter((t) => t.key === key).flatMap((t) => t.places)
        const before = all.filter(([, m]) => m < atM - 1).at(-1)
        const after = all.find(([, m]) => m > atM + 1)
        if (!before || !after || after[0] < before[0]) continue
        const lights = [before[0], after[0]].map((t) => lightAt(level.junctions[junctionId], wayId, t))
        expect(lights, `${key} at ${before[0]}`).not.toEqual(['red', 'red'])
        passed++
      }
    expect(passed).toBeGreaterThan(10)
  })
})

it('are shown from a time to another, and not at all where nobody drove', () => {
  const some = waveThreads(wave.out, net, strings, 100, 150).flatMap((thread) => thread.places)
  expect(Math.min(...some.map(([t]) => t))).toBeGreaterThanOrEqual(100)
  expect(Math.max(...some.map(([t]) => t))).toBeLessThanOrEqual(150)
  expect(waveThreads(wave.out, net, [], 0, SECONDS)).toEqual([])
})

it('are looked for on the lanes that come to a signal alone', () => {
  expect(wave.out.laneIds).toHaveLength(3)
  expect(lanesBetween(wave.out)).toEqual(wave.out.laneIds.slice(0, 2))
  expect(lanesBetween(wave.back!)).toEqual(wave.back!.laneIds.slice(0, 2))
  // From the middle signal on, the first lane comes to none of those shown.
  expect(lanesBetween({ ...wave.out, signals: wave.out.signals.slice(1) })).toEqual([wave.out.laneIds[1]])
})

it('a place on the way back is where the way out has it', () => {
  const out = corridorOf(level, net, laneId)
  const height = onWayOut(wave.back!, out)
  for (const s of wave.back!.signals) {
    expect(height(s.atM)).toBeCloseTo(out.signals.find((o) => o.junctionId === s.junctionId)!.atM, 6)
    expect(height(s.atM - 5)).toBeGreaterThan(height(s.atM + 5))
  }
})
