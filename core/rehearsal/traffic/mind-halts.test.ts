import {
  blankLevel,
  changeThings,
  levelSchema,
  type Halt,
  type Level,
  type Profile,
  type Spawner,
} from '@tidytrail/core/level'
import { Survey } from '@tidytrail/core/survey'
import { box, collisionsIn, driven, framesOf, WAGON, withLanes, withStreams, type Row } from '@tidytrail/core/testing'
import { describe, expect, it } from 'vitest'
import { Run } from '..'

const RADIUS_M = 1.2
const LANE_Y = 50
/** Every place is long enough for a wagon. */
const PARKING: Halt = { where: 'left', fromM: 100, toM: 142, minS: 20, maxS: 20, share: 1, placeM: 7, profileIds: [] }
const PLATFORM: Halt = { ...PARKING, where: 'on', fromM: 130, toM: 150 }

/** A lane from west to east, 3 m wide, with halts; wagons come along it and leave at its end. */
function lane(halts: readonly Partial<Halt>[], stream: Partial<Spawner> = {}, profile: Partial<Profile> = {}): Level {
  const bare = withLanes({ a: [[10, LANE_Y, 0], [290, LANE_Y, 0]] }, { settings: blankLevel('Halts', 300, 100).settings }) // prettier-ignore
  const route = { ...bare.routes.rt_a, atEnd: 'leave' as const, speedLimitMps: 10, halts }
  const level = levelSchema.parse({ ...bare, routes: { rt_a: route } })
  return withStreams(level, { perH: 300, headways: 'even', warm: false, ...stream }, { ...WAGON, radiusM: RADIUS_M, gaits: { drive: 10 }, ...profile }) // prettier-ignore
}
const run = (level: Level, s = 300) => {
  const made = driven(level, s)
  return { made, frames: framesOf(made), left: made.engine.events.list.filter((e) => e.kind === 'left').length }
}
/** How long each stood between two places east, at one go, seconds. */
function stood(frames: readonly (readonly Row[])[], fromX: number, toX: number, aside: boolean): Map<number, number> {
  const s = new Map<number, number>()
  for (const rows of frames)
    for (const r of rows)
      if (r.x > fromX && r.x < toX && r.speed < 0.05 && Math.abs(r.y - LANE_Y) > 2 === aside)
        s.set(r.key, (s.get(r.key) ?? 0) + 0.1)
  return s
}

describe('a platform', () => {
  it('is stood at by everybody for as long as is said, one behind the other', () => {
    const { made, frames, left } = run(lane([PLATFORM]))
    const times = [...stood(frames, 120, 165, false).values()].slice(0, left)
    expect(left).toBeGreaterThan(5)
    for (const s of times) expect(s).toBeGreaterThan(19.8)
    expect(collisionsIn(made)).toEqual([])
    const first = frames.flat().find((r) => r.speed < 0.05 && r.x > 120)!
    // Its front at the end of the platform.
    expect(first.x).toBeCloseTo(10 + PLATFORM.toM - RADIUS_M, 0)
  })

  it('is passed by those whom it is not for', () => {
    const { frames, left } = run(lane([{ ...PLATFORM, profileIds: ['pf_other'] }]), 120)
    expect(left).toBeGreaterThan(5)
    expect(stood(frames, 120, 165, false).size).toBe(0)
  })
})

describe('parking places', () => {
  it('are filled one after the other, and left again, without anybody being touched', () => {
    const { made, frames, left } = run(lane([{ ...PARKING, minS: 60, maxS: 60 }]), 400)
    expect(collisionsIn(made)).toEqual([])
    expect(left).toBeGreaterThan(15)
    const parked = frames.map((rows) => rows.filter((r) => r.speed < 0.05 && r.y > LANE_Y + 2))
    expect(Math.max(...parked.map((p) => p.length))).toBeGreaterThan(3)
    // Beside the lane by half of it, a body and a little, in the middles of the places.
    for (const r of parked.flat()) {
      expect(r.y - LANE_Y).toBeCloseTo(1.5 + RADIUS_M + 0.2, 1)
      const place = (r.x - 10 - PARKING.fromM) / PARKING.placeM - 0.5
      expect(Math.abs(place - Math.round(place)) * PARKING.placeM).toBeLessThan(0.4)
    }
    for (const s of [...stood(frames, 100, 170, true).values()].slice(0, 10)) expect(s).toBeGreaterThan(59.5)
  })

  it('lie as far beside a lane that is narrower than who comes along it as he is wide', () => {
    const level = lane([{ ...PARKING, share: 0.4, minS: 60, maxS: 60 }])
    const narrow = levelSchema.parse({ ...level, routes: { rt_a: { ...level.routes.rt_a, widthM: 1 } } })
    const { made, frames, left } = run(narrow, 400)
    expect(frames.flat().some((r) => r.speed < 0.05 && r.y > LANE_Y + 2 * RADIUS_M)).toBe(true)
    expect(collisionsIn(made)).toEqual([])
    // Nobody who drives on is held up by those who stand there.
    expect(left).toBeGreaterThan(20)
    expect(Math.max(0, ...stood(frames, 100, 170, false).values())).toBeLessThan(20)
  })

  it('lie on the other side where that is said', () => {
    const { frames } = run(lane([{ ...PARKING, where: 'right' }]), 120)
    const parked = frames.flat().filter((r) => r.speed < 0.05 && Math.abs(r.y - LANE_Y) > 1)
    expect(parked.length).toBeGreaterThan(0)
    for (const r of parked) expect(r.y).toBeLessThan(LANE_Y)
  })

  it('are used by the share that is said, and those who pass are hardly held up', () => {
    const all = run(lane([PARKING], { perH: 400 }), 900)
    const some = run(lane([{ ...PARKING, share: 0.3 }], { perH: 400 }), 900)
    const parkedIn = ({ made }: typeof all) => made.engine.events.list.filter((e) => e.kind === 'halted').length
    expect(collisionsIn(some.made)).toEqual([])
    // Of some hundred who come by a third: within three standard deviations.
    const came = some.left
    expect(Math.abs(parkedIn(some) - 0.3 * came)).toBeLessThan(3 * Math.sqrt(came * 0.3 * 0.7) + 2)
    expect(parkedIn(all)).toBeGreaterThan(2 * parkedIn(some))
  })

  it('that are too short for a body, or lie on no floor, are passed by', () => {
    const short = run(lane([{ ...PARKING, placeM: 4 }]), 120)
    expect(short.left).toBeGreaterThan(5)
    expect(short.made.engine.events.list.some((e) => e.kind === 'halted')).toBe(false)
    const walled = levelSchema.parse({
      ...lane([PARKING]),
      solids: { so_w: box(101, 53, 161, 56) },
    })
    const beside = run(walled, 120)
    expect(beside.left).toBeGreaterThan(5)
    expect(beside.made.engine.events.list.some((e) => e.kind === 'halted')).toBe(false)
  })

  it('that are taken away while somebody stands there let him go', () => {
    const level = lane([{ ...PARKING, minS: 500, maxS: 500 }])
    const survey = new Survey()
    survey.update(level)
    const made = new Run(level, 1, survey)
    made.runTo(60)
    const { world } = made.engine
    expect([...world.parked].some((p) => p === 1)).toBe(true)
    const { patch } = changeThings.apply(level, { in: 'routes', changes: { rt_a: { halts: [] } } })
    made.perform({ do: 'edit', step: 0, patch })
    made.runTo(200)
    expect([...world.parked].every((p) => p === 0)).toBe(true)
    expect(collisionsIn(made)).toEqual([])
    expect(made.engine.events.list.filter((e) => e.kind === 'left').length).toBeGreaterThan(5)
  })
})
