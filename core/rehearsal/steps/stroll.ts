import { distance2, mix3, type Point2, type Point3 } from '@tidytrail/core/geometry'
import { admits } from '@tidytrail/core/level'
import {
  crossingsOf,
  laneNet,
  leadsTo,
  nearestWalk,
  walkAlong,
  walkNet,
  walksFrom,
  type NetLane,
  type Stretch,
  type WalkNet,
  type WalkPoint,
} from '@tidytrail/core/traffic'
import type { Engine } from '../engine'
import { hasArrived, here, setOut } from '../travel'
import { STATE } from '../world'
import { headFor, luckOf, standAWhile, timeEndsAt, timeIsUp } from './make-for'
import { gaitedRow, type StepEnd, type StepRow, type StepRun } from './step'

/** The lanes somebody walks about on. */
export interface Walks {
  readonly net: WalkNet
  readonly may: (lane: NetLane) => boolean
  /** Lanes that are gone to. */
  readonly goals: readonly NetLane[]
  /** Where they lead over lanes that are driven along: nobody goes there to stay. */
  readonly crossings: readonly (Stretch & { readonly laneId: string })[]
}

/** A place nearer than this is none to go to, metres; so many are drawn until one is farther. */
const FAR_M = 12
const DRAWS = 12
/** One keeps so far from the edge of a lane, metres. */
const EDGE_M = 0.1
/** No place is gone to so near to a kerb, metres. */
const KERB_M = 0.8
/** Its line has a place as often as this, metres. */
const EVERY_M = 5

/**
 * Walks from place to place along lanes for walking: a place of one of them is drawn, the more often the longer it is,
 * and the shortest way along lanes leads there. Everybody keeps to a line of their own over the width of the lane, on
 * the right as everybody does who walks, so that those who meet pass each other.
 */
export const stroll: StepRun<'stroll'> = {
  kind: 'stroll',
  compile({ level, profile }, step) {
    const net = walkNet(level)
    const may = ({ route }: NetLane) => admits(route, profile.id)
    const tag = step.tag.trim()
    const goals = [...net.lanes.values()].filter((l) => may(l) && (tag === '' || l.route.tags.includes(tag)))
    const crossings = crossingsOf(level, net, laneNet(level))
    return {
      ...gaitedRow(step, profile),
      walks: { net, may, goals, crossings },
      pause: step.pause,
      forS: step.forS ?? 0,
    }
  },
  begin: toAnother,
  anew: toAnother,
  update(engine, n, row) {
    const { world, t } = engine
    if (timeIsUp(engine, n, row)) return 'done'
    if (world.state[n] !== STATE.walking) return t + 1e-9 >= world.until[n] ? toAnother(engine, n, row) : 'running'
    if (!hasArrived(engine, n)) return 'running'
    standAWhile(engine, n, row)
    return 'running'
  },
}

/** Sets out to another place. */
function toAnother(engine: Engine, n: number, row: StepRow): StepEnd {
  const { world } = engine
  const { net, may, goals, crossings } = row.walks!
  const place = here(engine, n)
  const from = nearestWalk(net, place, may)
  if (!from) return 'no-lanes'
  const tree = walksFrom(net, from, may)
  const there = goals.filter((lane) => leadsTo(net, tree, lane.id))
  const total = there.reduce((sum, lane) => sum + lane.line.lengthM, 0)
  if (there.length === 0) return 'no-lanes'
  const profile = engine.profileOf(n)
  // It keeps to the same line all the way: drawn once for each.
  const share = luckOf(engine, n)
  let way: ReturnType<typeof walkAlong>
  for (let k = 0; k < DRAWS; k++) {
    let left = luckOf(engine, n) * total
    const lane = there.find((l) => (left -= l.line.lengthM) < 0) ?? there[there.length - 1]
    const m = Math.max(0, lane.line.lengthM + left)
    if (crossings.some((c) => c.laneId === lane.id && m > c.fromM - KERB_M && m < c.toM + KERB_M)) continue
    const found = walkAlong(net, tree, { laneId: lane.id, m })
    if (found && (!way || way.lengthM < FAR_M)) way = found
    if (way && way.lengthM >= FAR_M) break
  }
  if (!way || way.lengthM < 1e-6) return 'no-lanes'
  const beside = keptBeside(way.points, share, profile.profile.radiusM)
  const line: Point3[] = [place, ...beside.filter((p, k) => k > 0 || distance2(p, place) > 1e-3)]
  const along = profile.planner.along(line)
  world.arrivalM[n] = 0.5
  world.toStop[n] = -1
  if (along.found) {
    const leg = { line: along.line, uses: along.uses, gaitMps: row.gaitMps, stop: -1, extraS: 0, wide: true } as const
    setOut(engine, n, [leg], true)
  } else {
    // Something stands in that line: to the same place by whatever way there is.
    const end = headFor(engine, n, row, way.points[way.points.length - 1].at)
    if (end !== 'running') return end
  }
  world.due[n] = timeEndsAt(engine, n, row)
  return 'running'
}

/**
 * The way beside the middle of its lanes on which somebody keeps: between the middle and the right edge. It has a place
 * every few metres, so that who had to step aside comes back to it.
 * @param share from the middle, 0, to the edge, 1
 */
export function keptBeside(points: readonly WalkPoint[], share: number, radiusM: number): Point3[] {
  const bends = points.map(({ at, widthM }, k): Point3 => {
    const free = Math.max(0, widthM / 2 - radiusM - EDGE_M)
    const [bx, by] = direction(points[Math.max(0, k - 1)].at, points[Math.max(1, k)]?.at ?? at)
    const [ax, ay] = k + 1 < points.length ? direction(at, points[k + 1].at) : [bx, by]
    const [sx, sy] = [ax + bx, ay + by]
    const length = Math.sqrt(sx * sx + sy * sy)
    // Where it turns right back it stays on the middle.
    if (length < 0.3) return at
    const m = (share * free) / Math.max(0.7, length / 2)
    return [at[0] + (sy / length) * m, at[1] - (sx / length) * m, at[2]]
  })
  return bends.flatMap((p, k) => {
    const next = bends[k + 1]
    const pieces = next ? Math.max(1, Math.ceil(distance2(p, next) / EVERY_M)) : 1
    return Array.from({ length: pieces }, (_, q) => (q === 0 ? p : mix3(p, next!, q / pieces)))
  })
}

function direction(a: Point3, b: Point3): Point2 {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]]
  const length = Math.sqrt(dx * dx + dy * dy)
  return length > 0 ? [dx / length, dy / length] : [0, 0]
}
