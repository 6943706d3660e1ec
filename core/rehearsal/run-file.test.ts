import { LevelError } from '@tidytrail/core/level'
import { preset, rehearsed, travelLevel } from '@tidytrail/core/testing'
import fc from 'fast-check'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { PackedFrames, readRunFile, recordedOf, writeRunFile, type RunFile } from '.'

const run = rehearsed(travelLevel(preset('Warden'), [[10, 10], [40, 10]] as const, {}), 30) // prettier-ignore
const recorded = recordedOf(run)
const { frame: _frame, frameCount, ...rest } = recorded
const kept: RunFile = {
  ...rest,
  name: 'First night',
  revision: 4,
  seconds: 30,
  hash: run.hash,
  verdicts: run.verdicts(),
  chunks: run.engine.recording.chunksFrom(0),
}
const bytes = writeRunFile(kept)

/** The file with one of its parts changed. */
function changed(name: string, change: (value: never) => unknown): Uint8Array {
  const parts = unzipSync(bytes)
  const value = JSON.parse(strFromU8(parts[name])) as never
  return zipSync({ ...parts, [name]: strToU8(JSON.stringify(change(value))) })
}

describe('a kept rehearsal', () => {
  it('comes back as it was, frame by frame and event by event', () => {
    const back = readRunFile(bytes)
    expect({ ...back, chunks: [] }).toEqual({ ...kept, chunks: [] })
    const frames = new PackedFrames(back.chunks)
    expect(frames.frameCount).toBe(frameCount)
    for (let k = 0; k < frameCount; k++) expect(frames.frame(k)).toEqual(recorded.frame(k))
    expect(() => frames.frame(frameCount)).toThrow(RangeError)
  })

  it('has the same bytes whenever it is written', () => expect(writeRunFile(kept)).toEqual(bytes))

  it.each<[string, Uint8Array, RegExp]>([
    ['is no zip', strToU8('hello'), /not a kept rehearsal/],
    ['lacks its frames', zipSync({ ...unzipSync(bytes), 'frames.bin': new Uint8Array(0) }), /chunks\.0.*cut off/],
    ['is of another format', changed('run.json', (v: object) => ({ ...v, format: 'x' })), /run\.json\.format/],
    ['is of a later version', changed('run.json', (v: object) => ({ ...v, version: 9 })), /run\.json\.version/],
    ['has other columns', changed('run.json', (v: object) => ({ ...v, fields: ['key'] })), /another version/],
    ['names an unknown event', changed('run.json', (v: object) => ({ ...v, kinds: [] })), /events\.0/],
    ['has a level that is none', changed('level.json', () => ({ format: 'tidytrail-level' })), /version/],
    ['lacks its level', zipSync({ 'run.json': unzipSync(bytes)['run.json'] }), /level\.json.*missing/],
  ])('that %s is refused with where and why', (_what, of, why) => {
    expect(() => readRunFile(of)).toThrow(LevelError)
    expect(() => readRunFile(of)).toThrow(why)
  })

  it('that was damaged anywhere is read as it was, or refused: never anything else', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: bytes.length - 1 }), fc.integer({ min: 1, max: 255 }), (at, by) => {
        const hurt = bytes.slice()
        hurt[at] ^= by
        try {
          readRunFile(hurt)
        } catch (error) {
          expect(error).toBeInstanceOf(LevelError)
        }
      }),
      { numRuns: 150 },
    )
  })
})
