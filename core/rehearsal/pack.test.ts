import fc from 'fast-check'
import { expect, it } from 'vitest'
import { preset, rehearsed, travelLevel } from '@tidytrail/core/testing'
import { packFrames, unpackFrames } from './pack'
import { FRAME_FIELDS } from './recording'

it('gives back every frame as it was, whoever comes and goes', () => {
  const row = fc.tuple(fc.integer({ min: 1, max: 9 }), ...Array.from({ length: 4 }, () => fc.integer()))
  const frame = fc
    .uniqueArray(row, { maxLength: 6, selector: ([key]) => key })
    .map((rows) => Int32Array.from(rows.flat()))
  fc.assert(
    fc.property(fc.array(frame, { maxLength: 12 }), (frames) => {
      expect(unpackFrames(packFrames(frames, 5), 5)).toEqual(frames)
    }),
  )
})

it('takes less than twelve bytes for an agent in a frame', () => {
  const level = travelLevel(
    preset('Warden'),
    [
      [10, 10],
      [60, 10],
      [60, 70],
      [20, 90],
    ],
    {
      route: { travel: 'round' },
      spawner: { count: 30, everyS: 1 },
      stop: { 1: { pause: { minS: 1, maxS: 5 } } },
    },
  )
  const { recording } = rehearsed(level, 120).engine
  let rows = 0
  for (let k = 0; k < recording.frameCount; k++) rows += recording.frame(k).length / FRAME_FIELDS
  expect(rows).toBeGreaterThan(30_000)
  expect(recording.size / rows).toBeLessThan(12)
})

it('has no frame it was not given, and forgets those it is told to', () => {
  const { recording } = rehearsed(
    travelLevel(preset('Warden'), [
      [10, 10],
      [60, 10],
    ]),
    12,
  ).engine
  const before = Array.from({ length: 121 }, (_, k) => recording.frame(k))
  expect(recording.frameCount).toBe(121)
  expect(() => recording.frame(121)).toThrow('frame 121 of 121')
  for (const keep of [117, 100, 55, 20, 1]) {
    recording.cutTo(keep)
    expect(recording.frameCount).toBe(keep)
    expect(Array.from({ length: keep }, (_, k) => recording.frame(k))).toEqual(before.slice(0, keep))
    const told = recording.chunksFrom(0).flatMap((c) => unpackFrames(c.bytes, FRAME_FIELDS))
    expect(told).toEqual(before.slice(0, keep))
  }
})
