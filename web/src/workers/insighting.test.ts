import type { RunFigures, WidenProgress } from '@tidytrail/core/insight'
import { levelSchema } from '@tidytrail/core/level'
import { recordedOf, type Run } from '@tidytrail/core/rehearsal'
import { preset, rehearsed, travelLevel } from '@tidytrail/core/testing'
import { beforeEach, describe, expect, it } from 'vitest'
import type { Insighter, RunCopy } from './insight.protocol'
import { makeInsighter } from './insighting'

const level = levelSchema.parse({
  ...travelLevel({ ...preset('Warden'), sightM: 14 }, [[10, 20], [40, 20]] as const, {
    route: { travel: 'there-and-back' },
    stop: { 0: { pause: { minS: 1, maxS: 4 } }, 1: { pause: { minS: 3, maxS: 3 } } },
    sideM: 60,
  }),
  watchSpots: { ws_a: { name: 'Door', at: [25, 20, 0] } },
  sneakLines: { sl_a: { name: 'Past', points: [[25, 30, 0], [25, 12, 0]] } },
  trials: { tl_a: { kind: 'stuck', longestS: 5 }, tl_b: { kind: 'count', least: 2, most: 3 }, tl_c: { off: true } },
}) // prettier-ignore
const run = rehearsed(level, 60)

function copyOf(of: Run): RunCopy {
  const { frame: _frame, frameCount: _count, ...rest } = recordedOf(of)
  return { ...rest, chunks: of.engine.recording.chunksFrom(0), verdicts: of.verdicts() }
}
let insighter: Insighter
beforeEach(() => {
  insighter = makeInsighter(() => new Promise((resolve) => setTimeout(resolve, 0)))
  insighter.load(copyOf(run))
})

describe('who finds things out about a rehearsal', () => {
  it('finds what is wanted, passes over what is gone, and tries the trials that are looked at', async () => {
    const found = await insighter.find({
      spots: ['ws_a', 'ws_gone'],
      lines: ['sl_a', 'sl_gone'],
      trials: true,
      traffic: false,
    })
    expect(Object.keys(found.spots)).toEqual(['ws_a'])
    expect(found.spots.ws_a.figures.count).toBeGreaterThan(1)
    expect(found.lines.sl_a.best).toBeDefined()
    expect(found.trials.map((t) => [t.trialId, t.holds])).toEqual([['tl_a', true], ['tl_b', false]]) // prettier-ignore
    expect(found.traffic).toBeUndefined()
    const flow = await insighter.find({ spots: [], lines: [], trials: false, traffic: true })
    expect(flow.trials).toEqual([])
    expect(flow.traffic).toEqual({ counters: {}, approaches: [], slowest: [], gridlocks: [] })
  })

  it('draws the string-line along the ways that are walked, and tells coverage and company', () => {
    const line = insighter.stringLine('rt_a', [])!
    expect(line.lengthM).toBeCloseTo(30)
    expect(line.threads.length).toBeGreaterThan(0)
    // Along a way that leads round, who is at its far corner has half of the leg behind it: there and back.
    const round = [[10, 20, 0], [25, 20, 0], [25, 20, 60], [25, 20, 0], [40, 20, 0]] as const // prettier-ignore
    const other = insighter.stringLine('rt_a', [round])!
    const before = (of: typeof line) => Math.max(...of.threads[0].m.filter((m) => m < 14))
    expect(before(other)).toBeLessThan(before(line))
    // On the way back it is the same way: nobody is ever seen between the middle and the far corner.
    const seen = other.threads.flatMap((thread) => thread.m)
    expect(seen.filter((m) => m > 4 && m < 26).length).toBeLessThan(seen.filter((m) => m <= 4 || m >= 26).length)
    // Where no ways are known, those over the reach of the level that was rehearsed are taken: here they are straight.
    expect(insighter.stringLine('rt_a', undefined)!.threads).toEqual(line.threads)
    expect(insighter.stringLine('rt_gone', [])).toBeUndefined()
    expect(insighter.coverage([], null)!.seconds.some((s) => s > 0)).toBe(true)
    expect(insighter.company([])!.meetings).toEqual([])
    expect(insighter.suggestTrials().length).toBeGreaterThan(0)
  })

  it('rehearses with many seeds, each the same as that seed by itself, until it is told to stop', async () => {
    const came: RunFigures[] = []
    expect(await insighter.seeds([1, 2, 3], 20, (r) => came.push(r))).toBe(true)
    expect(came.map((r) => r.seed)).toEqual([1, 2, 3])
    expect(came[1].hash).toBe(rehearsed(level, 20, 2).hash)
    came.length = 0
    const going = insighter.seeds([1, 2, 3, 4, 5, 6], 20, (r) => {
      came.push(r)
      if (came.length === 2) insighter.cancel()
    })
    expect(await going).toBe(false)
    expect(came).toHaveLength(2)
  })

  it('writes places, headings and speeds of everybody as CSV', () => {
    const lines = insighter.positions()!.trim().split('\n')
    expect(lines[0]).toBe('time,agent,name,x,y,z,heading,speed,state')
    expect(lines[1]).toMatch(/^0\.0,sp_a#1,Start,10\.000,20\.000,0\.000,/)
    expect(lines).toHaveLength(1 + 601)
  })

  it('looks for what would widen a window, tells how far it has come, and stops when it is told to', async () => {
    const told: WidenProgress[] = []
    const wish = { in: 'watchSpots', id: 'ws_a', wantedS: 1000 } as const
    const going = insighter.widen(wish, (p) => {
      told.push(p)
      if (told.length === 3) insighter.cancel()
    })
    expect(await going).toBeUndefined()
    expect(told).toHaveLength(3)
    expect(told[2].total).toBeGreaterThan(3)
  })

  it('compares another run with the one it was handed: figures, and where they part', () => {
    const other = rehearsed(level, 60, 9)
    const { parting, figures } = insighter.compare(copyOf(other), other.hash, run.hash, [])!
    expect(parting.firstS).toBeGreaterThan(0)
    expect(figures.find((f) => f.name === 'Door: longest window')).toMatchObject({ byChance: undefined })
    expect(insighter.compare(copyOf(run), run.hash, run.hash, [])!.parting.firstS).toBeUndefined()
  })

  it('knows nothing before it is handed anything', async () => {
    const fresh = makeInsighter(() => Promise.resolve())
    expect(await fresh.find({ spots: ['ws_a'], lines: [], trials: true, traffic: true })).toEqual({
      spots: {},
      lines: {},
      trials: [],
      traffic: undefined,
    })
    expect([fresh.stringLine('rt_a', []), fresh.coverage([], null), fresh.suggestTrials(), fresh.positions()]).toEqual([undefined, undefined, [], undefined]) // prettier-ignore
    expect(await fresh.widen({ in: 'watchSpots', id: 'ws_a', wantedS: 1 }, () => {})).toBeUndefined()
    expect(await fresh.seeds([1], 10, () => {})).toBe(false)
  })
})
