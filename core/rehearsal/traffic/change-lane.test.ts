import { describe, expect, it } from 'vitest'
import { blankLevel, levelSchema, type Level, type Spawner } from '@tidytrail/core/level'
import { collisionsIn, driven, framesOf, WAGON, withLanes, type Row } from '@tidytrail/core/testing'

type Route = Level['routes'][string]
type Place = [number, number, number]
const FAST = { ...WAGON, name: 'Fast', gaits: { drive: 14 } }
const SLOW = { ...WAGON, name: 'Slow', gaits: { drive: 5 } }

/** Two lanes side by side, three metres apart, the first the right one. */
const two = (length = 380): Record<string, Place[]> => ({
  a: [[10, 100, 0], [10 + length, 100, 0]],
  b: [[10, 103, 0], [390, 103, 0]],
}) // prettier-ignore

/** The same with a stream of so many slow and fast ones onto the first lane. */
function level(
  lanes: Record<string, Place[]>,
  spawner: Partial<Spawner> = {},
  routes: Record<string, Partial<Route>> = {},
): Level {
  const bare = withLanes(lanes, { settings: blankLevel('Narrow', 400, 120).settings })
  return levelSchema.parse({
    ...bare,
    routes: Object.fromEntries(
      Object.entries(bare.routes).map(([id, r]) => [id, { ...r, atEnd: 'leave', ...routes[id] }]),
    ),
    profiles: { pf_fast: FAST, pf_slow: SLOW },
    spawners: {
      sp_s: {
        name: 'Stream',
        at: [0, 0, 0],
        profileId: 'pf_fast',
        where: 'lanes',
        laneIds: ['rt_a'],
        perH: 500,
        warm: false,
        ...spawner,
      },
    },
  })
}
const MIX = [{ profileId: 'pf_slow', weight: 1 }] as unknown as Spawner['mix']

const left = (row: Row) => row.y > 101.5

describe('those who drive beside each other', () => {
  it('change lanes to pass slower ones, come over without a jump, and touch nobody', () => {
    const run = driven(level(two(), { mix: MIX }), 240)
    expect(collisionsIn(run)).toEqual([])
    const frames = framesOf(run)
    const over = new Map<number, number>()
    let [farthest, sideways] = [0, 0]
    let before = new Map<number, Row>()
    frames.forEach((rows, f) => {
      for (const row of rows) {
        const was = before.get(row.key)
        if (!was) continue
        farthest = Math.max(farthest, Math.hypot(row.x - was.x, row.y - was.y))
        sideways = Math.max(sideways, Math.abs(row.y - was.y))
        if (left(row) && !left(was)) over.set(row.key, f)
      }
      before = new Map(rows.map((row) => [row.key, row]))
    })
    // A tenth of a second: no farther than it drives, and sideways no faster than one comes over.
    expect(farthest).toBeLessThan(14 * 0.1 + 0.05)
    expect(sideways).toBeLessThan(0.2)
    expect(over.size).toBeGreaterThan(3)
    // All of them are on the middle of a lane in the end.
    for (const key of over.keys()) {
      const last = frames.flatMap((rows) => rows.filter((r) => r.key === key)).at(-1)!
      if (last.x > 380) expect(Math.min(Math.abs(last.y - 100), Math.abs(last.y - 103))).toBeLessThan(0.3)
    }
    const mean = (of: Level) => meanTimeS(driven(of, 240))
    expect(mean(level(two(), { mix: MIX }))).toBeLessThan(0.9 * mean(level({ a: two().a }, { mix: MIX })))
  })

  it('stay where changing is not allowed, and where nobody is in front', () => {
    const kept = level(two(), { mix: MIX }, { rt_a: { noChange: [{ fromM: 0, toM: 400, side: 'left' }] } })
    for (const rows of framesOf(driven(kept, 120))) for (const row of rows) expect(left(row)).toBe(false)
    const alone = level(two(), { perH: 60 })
    for (const rows of framesOf(driven(alone, 120))) for (const row of rows) expect(left(row)).toBe(false)
  })

  it('change only where it is allowed, from its beginning to its end', () => {
    const some = level(two(), { mix: MIX }, { rt_a: { noChange: [{ fromM: 0, toM: 200, side: 'both' }] } })
    const rows = framesOf(driven(some, 200)).flat()
    // Nobody is beside the middle of the first lane before it may be left, and some are on the other afterwards.
    expect(rows.filter((row) => row.y > 100.3 && row.x < 209)).toEqual([])
    expect(rows.filter(left).length).toBeGreaterThan(50)
  })

  it('go over where their lane ends beside one that leads on, and all get through', () => {
    const run = driven(level(two(200), { perH: 400, laneIds: ['rt_a', 'rt_b'] }, { rt_a: { atEnd: 'unsaid' } }), 240)
    expect(collisionsIn(run)).toEqual([])
    const frames = framesOf(run)
    const began = new Set(
      frames.slice(0, 1800).flatMap((rows) => rows.filter((r) => r.x < 60 && !left(r)).map((r) => r.key)),
    )
    const through = new Set(frames.flatMap((rows) => rows.filter((r) => r.x > 360).map((r) => r.key)))
    expect(began.size).toBeGreaterThan(10)
    for (const key of began) expect(through.has(key)).toBe(true)
  })

  it('go over in time where the end of their lane bends away from the other', () => {
    const lanes = { ...two(190), a: [[10, 100, 0], [200, 100, 0], [208, 97, 0]] as Place[] } // prettier-ignore
    const run = driven(level(lanes, { perH: 800, laneIds: ['rt_a', 'rt_b'] }, { rt_a: { atEnd: 'unsaid' } }), 200)
    expect(collisionsIn(run)).toEqual([])
    const frames = framesOf(run)
    const began = new Set(frames.slice(0, 1300).flatMap((rows) => rows.filter((r) => r.x < 60 && !left(r)).map((r) => r.key))) // prettier-ignore
    const through = new Set(frames.flatMap((rows) => rows.filter((r) => r.x > 360).map((r) => r.key)))
    expect(began.size).toBeGreaterThan(8)
    for (const key of began) expect(through.has(key)).toBe(true)
  })

  it('go over for the sake of a lane that only the other leads to', () => {
    const lanes = { ...two(300), out: [[390, 103, 0], [395, 103, 0]] as Place[] } // prettier-ignore
    const bare = level(lanes, { bound: [{ laneId: 'rt_out', share: 1 }], perH: 300 })
    const out = bare.routes.rt_out
    const stops = { ...out.stops, st_out0: { ...out.stops.st_out0, waypointId: 'wp_b1' } }
    const joined = { ...bare, routes: { ...bare.routes, rt_out: { ...out, stops } } }
    const run = driven(joined, 150)
    expect(collisionsIn(run)).toEqual([])
    const frames = framesOf(run)
    const seen = new Map<number, Row>()
    for (const rows of frames) for (const row of rows) seen.set(row.key, row)
    const gone = [...seen.values()].filter((r) => !frames.at(-1)!.some((q) => q.key === r.key))
    expect(gone.length).toBeGreaterThan(5)
    for (const row of gone) expect(left(row)).toBe(true)
  })

  it('give the same recording again', () => {
    const once = () => driven(level(two(), { mix: MIX }), 60).engine.recording
    const [p, q] = [once(), once()]
    expect(p.frameCount).toBe(q.frameCount)
    for (let f = 0; f < p.frameCount; f += 50) expect(p.frame(f)).toEqual(q.frame(f))
  })
})

/** The mean time from 60 m to 360 m of those who drove that far, seconds. */
function meanTimeS(run: ReturnType<typeof driven>): number {
  const from = new Map<number, number>()
  const took = new Map<number, number>()
  framesOf(run).forEach((rows, f) => {
    for (const { key, x } of rows) {
      if (x > 60 && !from.has(key)) from.set(key, f)
      if (x > 360 && !took.has(key)) took.set(key, (f - from.get(key)!) / 10)
    }
  })
  return [...took.values()].reduce((a, b) => a + b, 0) / took.size
}
