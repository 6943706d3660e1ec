import { distance2, type Point2, type Point3 } from '@tidytrail/core/geometry'
import {
  addLinks,
  addThings,
  changeSettings,
  changeThings,
  freshNameFor,
  routeSchema,
  waypointSchema,
  type Junction,
  type Level,
} from '@tidytrail/core/level'
import { pairKey, pairsOf, whoYields, yieldKey, yieldOf, yieldsTo } from './junction'
import type { LaneMap } from './lane-map'
import { laneNet } from './net'
import { junctionsAt, type Ids, type Step } from './streets'

/** A junction of the file is the one of ours this near to it, metres. */
const NEAR_M = 30
/** Ends nearer to each other than this are one place, metres. */
const ONE_PLACE_M = 0.1

/**
 * The edits that lay the lanes of a file: the lanes, the joins between them, and junctions with who goes first.
 * @param zAt height of the ground at a place; undefined to keep the heights of the file
 */
export function layLaneMap(
  map: LaneMap,
  shift: Point2,
  newId: Ids,
  zAt: ((x: number, y: number) => number) | undefined,
): Step[] {
  const moved = ([x, y, z]: Point3): Point3 => {
    const [px, py] = [Math.round((x + shift[0]) * 1000) / 1000, Math.round((y + shift[1]) * 1000) / 1000]
    return [px, py, zAt ? zAt(px, py) : z]
  }
  const things: { in: 'waypoints' | 'routes'; id: string; thing: unknown }[] = []
  /** The waypoints a lane begins and ends at. */
  const ends = new Map<string, { start: string; end: string; points: readonly Point3[] }>()
  const put = (at: Point3): string => {
    const id = newId('waypoints')
    things.push({ in: 'waypoints', id, thing: waypointSchema.parse({ at }) })
    return id
  }
  // Where one lane ends and another goes on they have one waypoint.
  const shared = new Map<string, string>()
  const placeOf = new Map(map.lanes.map((l) => [l.key, l.points]))
  for (const { from, to } of map.joins) {
    const [a, b] = [placeOf.get(from)!, placeOf.get(to)!]
    if (from === to || distance2(a[a.length - 1], b[0]) > ONE_PLACE_M) continue
    const id = shared.get(`${from} end`) ?? shared.get(`${to} start`) ?? put(moved(b[0]))
    shared.set(`${from} end`, id)
    shared.set(`${to} start`, id)
  }
  const named: Record<string, { name: string }> = {}
  for (const { key, name, use, points, widthM, speedLimitMps, noChange } of map.lanes) {
    const ids = points.map((p, k) => (k === 0 ? shared.get(`${key} start`) : k === points.length - 1 ? shared.get(`${key} end`) : undefined) ?? put(moved(p))) // prettier-ignore
    ends.set(key, { start: ids[0], end: ids[ids.length - 1], points })
    const stops: Record<string, unknown> = {}
    const order = ids.map((waypointId) => {
      const id = newId('stops')
      stops[id] = { waypointId }
      return id
    })
    const id = newId('routes')
    const lane = { name: freshNameFor(named, name), kind: 'lane', legs: 'drawn', use, widthM, speedLimitMps, noChange, stops, order } // prettier-ignore
    named[id] = lane
    things.push({ in: 'routes', id, thing: routeSchema.parse(lane) })
  }
  const steps: Step[] = []
  const { drivesOn } = map
  if (drivesOn) steps.push((level) => (level.settings.drivesOn === drivesOn ? NOTHING(level) : changeSettings.apply(level, { set: { drivesOn } }))) // prettier-ignore
  steps.push((level) => addThings.apply(level, { things: things as never, label: '' }))
  // Without joins nothing says yet how they go on.
  if (map.joins.length === 0) return steps
  const linkOf = map.joins.map(() => newId('links'))
  steps.push((level) => {
    const links = map.joins.flatMap(({ from, to }, k) => {
      const [fromId, toId] = [ends.get(from)!.end, ends.get(to)!.start]
      return fromId === toId ? [] : [{ id: linkOf[k], fromId, toId, twoWay: false }]
    })
    return addLinks.apply(level, { links })
  })
  steps.push(
    junctionsAt((middle) => {
      const near = map.junctions.filter(({ at }) => distance2([at[0] + shift[0], at[1] + shift[1]], middle) < NEAR_M)
      return { lit: near.some((j) => j.lit), name: near[0]?.name }
    }, newId),
  )
  if (map.priorities.length > 0)
    steps.push((level) => {
      const said = map.priorities.map(({ waits, goes }) => [linkOf[waits], linkOf[goes]] as const)
      return changeThings.apply(level, { in: 'junctions', changes: saidOf(level, said) })
    })
  return steps
}

/** What a file says of who gives way to whom, in place of what is usual, wherever the two are in each other's way. */
function saidOf(
  level: Level,
  said: readonly (readonly [waits: string, goes: string])[],
): Record<string, Pick<Junction, 'yields'>> {
  const net = laneNet(level)
  const changes: Record<string, Pick<Junction, 'yields'>> = {}
  const waits = new Set(said.map(([a, b]) => pairKey(a, b)))
  for (const [id, junction] of Object.entries(level.junctions)) {
    const told = pairsOf(level, net, junction).flatMap(({ a, b }) => {
      const [ab, ba] = [waits.has(pairKey(a.id, b.id)), waits.has(pairKey(b.id, a.id))]
      return ab === ba ? [] : [ab ? yieldOf(a, b, false) : yieldOf(b, a, false)]
    })
    const settled = new Set(told.flatMap((y) => [yieldKey(y), pairKey(yieldsTo(y)!, whoYields(y)!)]))
    if (told.length > 0)
      changes[id] = { yields: [...junction.yields.filter((y) => !settled.has(yieldKey(y))), ...told] }
  }
  return changes
}

const NOTHING = (level: Level): ReturnType<Step> => ({ level, patch: [], inverse: [] })
