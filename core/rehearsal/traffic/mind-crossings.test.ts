import { describe, expect, it } from 'vitest'
import { makeCourse } from '../course'
import { oversOn } from './overs'
import { addAndSet, blankLevel, levelSchema, PRESETS, WARDEN, type Level, type Route } from '@tidytrail/core/level'
import {
  collisionsIn,
  driven,
  framesOf,
  WAGON,
  WALK_ABOUT,
  withRoads,
  withStreams,
  type Row,
} from '@tidytrail/core/testing'
import { crossingOver } from '@tidytrail/core/traffic'

/** A street of two lanes from west to east, 3 m each, with pavements, a crossing at x = 100, and walkers about on it. */
function street(waits: Route['atCrossings'], perH = 500, walkers = 5): Level {
  const road = { name: 'High Street', points: [[10, 30, 0], [210, 30, 0]], curve: 'straight', laneM: 3, pavementLeftM: 2.4, pavementRightM: 2.4, speedLimitMps: 10 } as const // prettier-ignore
  const bare = levelSchema.parse({ ...blankLevel('Street', 220, 60), profiles: { pf_on: { ...WARDEN, name: 'Walker' } } }) // prettier-ignore
  const laid = withRoads({ high: { ...road, points: road.points.map((p) => [...p] as [number, number, number]) } }, bare) // prettier-ignore
  const ids = { laneId: 'rt_x', fromId: 'wp_x', toId: 'wp_y' }
  const crossed = addAndSet.apply(laid, {
    add: crossingOver(laid, 'rd_high', 90, ids),
    set: [{ in: 'routes', id: 'rt_x', set: { atCrossings: waits } }],
    label: 'Lay a crossing',
  }).level
  const routes = { ...crossed.routes }
  for (const [id, route] of Object.entries(routes))
    if (route.use === 'drive') routes[id] = { ...route, atEnd: 'leave' }
    else if (id !== 'rt_x') routes[id] = { ...route, tags: ['pavement'] }
  const streams = withStreams({ ...crossed, routes }, { perH, warm: false, factionId: null }, { ...WAGON, gaits: { drive: 10 } }) // prettier-ignore
  return levelSchema.parse({
    ...streams,
    briefs: WALK_ABOUT,
    spawners: {
      ...streams.spawners,
      sp_on: { name: 'Walkers', at: [100, 34.2, 0], profileId: 'pf_on', briefId: 'br_about', count: walkers, alive: 'keep', everyS: 3 }, // prettier-ignore
    },
  })
}

/** The lanes of the street, by the y of their middles; the crossing lies about this x. */
const LANES_Y = [28.5, 31.5]
const CROSSING_X = 100

/** What a recording tells of those on foot and those who drive, from places alone. */
function toldBy(level: Level, seconds = 300) {
  const run = driven(level, seconds)
  const walks = new Set(run.engine.members.filter((m) => m.profileId === 'pf_on').map((m) => m.key))
  const frames = framesOf(run)
  const onLane = (r: Row) => LANES_Y.some((y) => Math.abs(r.y - y) < 1.5)
  let [crossed, metres, driving, longestS] = [0, 0, 0, 0]
  const before = new Map<number, { on: boolean; stood: number }>()
  for (const rows of frames)
    for (const r of rows) {
      if (!walks.has(r.key)) {
        metres += r.speed
        driving++
        continue
      }
      const was = before.get(r.key) ?? { on: false, stood: 0 }
      if (onLane(r) && !was.on) crossed++
      const stood = r.speed < 0.1 ? was.stood + 0.1 : 0
      longestS = Math.max(longestS, stood)
      before.set(r.key, { on: onLane(r), stood })
    }
  return { run, frames, walks, crossed, meanMps: metres / driving, longestS, onLane }
}

const byWhom = { vehicles: toldBy(street('vehicles')), walkers: toldBy(street('walkers')) }

describe.each(['vehicles', 'walkers'] as const)('a crossing where %s wait', (waits) => {
  const { run, frames, walks, crossed, onLane } = byWhom[waits]

  it('is crossed again and again without a collision', () => {
    expect(crossed).toBeGreaterThan(10)
    expect(collisionsIn(run)).toEqual([])
  })

  it('is the only place where anybody comes onto the lanes, and pavements are kept to', () => {
    for (const rows of frames)
      for (const r of rows) {
        if (!walks.has(r.key)) continue
        if (onLane(r)) expect(Math.abs(r.x - CROSSING_X)).toBeLessThan(2.2)
        // From the outer edge of the one pavement to that of the other.
        expect(Math.abs(r.y - 30)).toBeLessThan(3 + 2.4)
      }
  })

  it('leaves nobody stuck', () => {
    expect(run.engine.events.list.filter((e) => e.kind === 'stuck')).toEqual([])
  })
})

it('what stands before a crossing, or on it, is not waited for without end', () => {
  const level = street('walkers', 500, 4)
  // Somebody stands in the lane beyond the crossing: the first vehicle stands before it, and the next behind that.
  const stands = { name: 'Stands', at: [106, 28.5, 0], profileId: 'pf_on' }
  const held = toldBy(levelSchema.parse({ ...level, spawners: { ...level.spawners, sp_stands: stands } }), 200)
  const last = held.frames[held.frames.length - 1]
  expect(last.filter((r) => !held.walks.has(r.key) && r.speed < 0.1 && Math.abs(r.y - 28.5) < 0.5).length).toBeGreaterThan(2) // prettier-ignore
  // All through they go over, not only until the first has come.
  const late = held.frames.slice(1000).flat()
  const over = new Set(late.filter((r) => held.walks.has(r.key) && r.speed > 0.5 && held.onLane(r)).map((r) => r.key))
  expect(over.size).toBeGreaterThan(2)
  expect(collisionsIn(held.run)).toEqual([])
})

it('those who walk wait a moment where vehicles wait for them, and for a gap where they wait for vehicles', () => {
  expect(byWhom.vehicles.longestS).toBeLessThan(5)
  expect(byWhom.walkers.longestS).toBeGreaterThan(byWhom.vehicles.longestS)
})

it('those who drive are held up where they wait, and hardly at all where they do not', () => {
  const alone = toldBy(street('walkers', 500, 1)).meanMps
  expect(byWhom.walkers.meanMps).toBeGreaterThan(0.97 * alone)
  expect(byWhom.vehicles.meanMps).toBeLessThan(0.95 * alone)
})

it('who has looked at one crossing has not looked at another: nobody waits for who waits for them', () => {
  const level = street('walkers')
  const [plain, told] = [driven(level, 0), driven(level, 0)]
  for (let s = 1; s <= 300; s += 0.1) {
    plain.runTo(s)
    told.runTo(s)
    const { world } = told.engine
    // As one has it that looked at a crossing and was then sent another way.
    for (let n = 0; n < world.count; n++) if (world.rail[n] === 0 && world.goes[n] === 0) world.goes[n] = 99
  }
  const placesOf = ({ engine: { world } }: typeof plain) =>
    [...world.key.keys()].filter((n) => world.key[n] > 0).map((n) => [world.key[n], world.x[n], world.y[n]])
  expect(placesOf(told)).toEqual(placesOf(plain))
})

it('those who go over it on a bridge, or fly over it, cross nothing', () => {
  const level = street('vehicles')
  const scenario = byWhom.vehicles.run.engine.scenario
  const { crossings } = scenario.traffic
  const walker = scenario.profiles.find((p) => p?.id === 'pf_on')!
  const over = (z: number, fromY = 35) =>
    oversOn(makeCourse([{ line: [[100, fromY, z], [100, 25, z]], uses: [], gaitMps: 1.4, stop: -1, extraS: 0 }], walker.powers, true), crossings) // prettier-ignore
  // From kerb to kerb, 3 m to either side of the middle.
  expect(over(0)).toEqual([{ crossing: expect.any(Number), fromS: 2, toS: 8, back: false }])
  // Who begins in the middle of it goes off it.
  expect(over(0, 31)).toEqual([{ crossing: expect.any(Number), fromS: 0, toS: 4, back: false }])
  expect(over(5)).toEqual([])
  expect(over(5, 31)).toEqual([])
  const flown = levelSchema.parse({
    ...level,
    profiles: { ...level.profiles, pf_fly: PRESETS.find((p) => p.medium === 'air')! },
    markers: { mk_far: { name: 'Far', at: [100, 10, 5] } },
    briefs: { ...level.briefs, br_fly: { name: 'Over', steps: { bs_f: { kind: 'go-to', markerId: 'mk_far' } }, order: ['bs_f'] } }, // prettier-ignore
    spawners: { sp_stream: level.spawners.sp_stream, sp_fly: { name: 'Fly', at: [100, 50, 5], profileId: 'pf_fly', briefId: 'br_fly' } }, // prettier-ignore
  })
  const { engine } = driven(flown, 2)
  const courses = engine.world.courses.filter((c) => c !== null && !c.track)
  expect(courses).toHaveLength(1)
  expect(courses[0]!.overs).toEqual([])
})

it('those who meet on a pavement keep to the right of it', () => {
  const { frames, walks } = byWhom.vehicles
  let [right, left] = [0, 0]
  for (const rows of frames)
    for (const r of rows) {
      // On the left pavement, away from the crossing and its ends, walking along it.
      if (!walks.has(r.key) || r.y < 33 || Math.abs(r.x - CROSSING_X) < 6 || r.speed < 1) continue
      if (Math.abs(Math.sin(r.heading)) > 0.2 || Math.abs(r.y - 34.2) < 0.02) continue
      if (Math.cos(r.heading) > 0 === r.y < 34.2) right++
      else left++
    }
  expect(right).toBeGreaterThan(500)
  expect(right / (right + left)).toBeGreaterThan(0.85)
})
