import { describe, expect, it } from 'vitest'
import { blankLevel, changeThings, levelSchema, type Level, type Spawner } from '@tidytrail/core/level'
import { driven, framesOf, settled, withJunctions, withLanes, withStreams } from '@tidytrail/core/testing'

/** The two lanes cross here; the one from south to north is the lesser one. */
const [X, Y] = [350, 160]
const BODY_M = 1
/** What happens before is none of the figures: the queue has to build up first, seconds. */
const FROM_S = 120
/** More than can ever pass. */
const MORE_THAN_PASS_PER_H = 3000

const { settings } = blankLevel('Capacity', 700, 320)
const lanes = { main: [[5, Y, 0], [695, Y, 0]], side: [[X, 5, 0], [X, 315, 0]] } as Parameters<typeof withLanes>[0] // prettier-ignore
const crossing = () => withJunctions(withLanes(lanes, { settings: { ...settings, cellM: 1 } }))

/** The lesser lane always full, and so many an hour on the main one. */
function flows(level: Level, mainPerH: number): Level {
  const full: Partial<Spawner> = { laneIds: ['rt_side'], perH: MORE_THAN_PASS_PER_H, headways: 'even', warm: false }
  const side = withStreams(level, full, { gaits: { drive: 12 }, radiusM: BODY_M })
  if (mainPerH === 0) return side
  const main = { ...side.spawners.sp_stream, name: 'Main', laneIds: ['rt_main'], perH: mainPerH, headways: 'random' }
  return levelSchema.parse({ ...side, spawners: { ...side.spawners, sp_main: main } })
}

/** When bodies pass a place on each lane, seconds, from the recording: those of the lesser lane so far before where they cross. */
function passings(level: Level, seconds: number, beforeM = 0): { main: number[]; side: number[] } {
  const before = new Map<number, number>()
  const times: Record<'main' | 'side', number[]> = { main: [], side: [] }
  framesOf(driven(level, seconds, 3)).forEach((rows, f) => {
    for (const { key, x, y, heading } of rows) {
      const lane = heading > 0.7 ? 'side' : 'main'
      const on = lane === 'side' ? y - Y + beforeM : x - X
      if ((before.get(key) ?? 0) < 0 && on >= 0 && f / 10 > FROM_S) times[lane].push(f / 10)
      before.set(key, on)
    }
  })
  return times
}

/**
 * What a gap in the main stream must be for somebody to pass, and for each more, seconds: the line through the mean gaps
 * in which so many passed (Siegloch 1973).
 */
function gapsTaken({ main, side }: { main: number[]; side: number[] }): { firstS: number; eachS: number } {
  const gaps = new Map<number, number[]>()
  main.slice(1).forEach((t, k) => {
    const passed = side.filter((s) => s > main[k] && s <= t).length
    gaps.set(passed, [...(gaps.get(passed) ?? []), t - main[k]])
  })
  const means = [...gaps]
    .filter(([passed, all]) => passed > 0 && all.length >= 3)
    .map(([passed, all]) => [passed, all.reduce((a, b) => a + b) / all.length])
  const [n, g] = [0, 1].map((q) => means.reduce((sum, m) => sum + m[q], 0) / means.length)
  const eachS =
    means.reduce((sum, m) => sum + (m[0] - n) * (m[1] - g), 0) / means.reduce((sum, m) => sum + (m[0] - n) ** 2, 0)
  return { firstS: g - eachS * n, eachS }
}

/** Siegloch's formula, where gaps are exponentially distributed beyond a least one (Cowan 1975), vehicles an hour. */
function siegloch(perH: number, { firstS, eachS }: { firstS: number; eachS: number }, leastS = 0): number {
  const q = perH / 3600
  const free = 1 - q * leastS
  return (3600 / eachS) * free * Math.exp((-q / free) * (firstS - leastS))
}

describe('an approach that gives way', () => {
  it('lets as many pass as Siegloch’s formula says of the gaps it takes', { timeout: 240_000 }, () => {
    const level = settled(crossing())
    const span = 1500
    const [few, some, many] = [200, 400, 600].map((perH) => passings(flows(level, perH), span))
    const taken = gapsTaken(some)
    // A gap for the first is longer than what each more of a queue takes, and none of them is out of the world.
    expect(taken.eachS).toBeGreaterThan(1.5)
    expect(taken.eachS).toBeLessThan(2.5)
    expect(taken.firstS + taken.eachS / 2).toBeGreaterThan(3)
    expect(taken.firstS + taken.eachS / 2).toBeLessThan(6)
    const passed = ({ side }: { side: number[] }) => (3600 * side.length) / (span - FROM_S)
    const share = (times: { main: number[]; side: number[] }, leastS = 0) =>
      passed(times) / siegloch((3600 * times.main.length) / (span - FROM_S), taken, leastS)
    expect(Math.abs(share(few) - 1)).toBeLessThan(0.15)
    expect(Math.abs(share(some) - 1)).toBeLessThan(0.15)
    // Nobody comes sooner than a second behind another: the more come, the more that counts.
    expect(Math.abs(share(many, 1) - 1)).toBeLessThan(0.15)
  })
})

describe('an approach at a signal', () => {
  it('lets 1,700 to 2,100 an hour pass once the queue is under way', { timeout: 120_000 }, () => {
    const level = crossing()
    const stage = { greenS: 40, amberS: 3, allRedS: 2 }
    const control = {
      control: 'signals',
      phases: [
        { ...stage, laneIds: ['rt_side'] },
        { ...stage, greenS: 15, laneIds: ['rt_main'] },
      ],
    }
    const junction = levelSchema.shape.junctions.parse({ jn_0: { ...level.junctions.jn_0, ...control } }).jn_0
    const lit = changeThings.apply(level, { in: 'junctions', changes: { jn_0: junction } }).level
    // At the stop line, of which the first few are still speeding up (as it is measured in the field).
    const { side } = passings(flows(lit, 0), 900, 4)
    const cycles = new Map<number, number[]>()
    for (const t of side) cycles.set(Math.floor(t / 65), [...(cycles.get(Math.floor(t / 65)) ?? []), t])
    const headways = [...cycles.values()].flatMap((all) => all.slice(5).map((t, k) => t - all[k + 4]))
    expect(headways.length).toBeGreaterThan(100)
    const perH = 3600 / (headways.reduce((a, b) => a + b) / headways.length)
    expect(perH).toBeGreaterThan(1700)
    expect(perH).toBeLessThan(2100)
  })
})
