/** Where those a spawner sends may appear. */
import { distance2, exact, lengthOf, type Point3 } from '@tidytrail/core/geometry'
import type { Area, Level, Spawner } from '@tidytrail/core/level'
import { legPath, type LegPlanner } from '@tidytrail/core/network'
import { byWeight, draw, numberOf, USE } from '../chance'

/** A place, and how one faces there. */
export interface SpawnPlace {
  readonly at: Point3
  readonly facingRad: number
}

/** So many places are drawn in an area until one will do. */
export const DRAWS = 48

/** The places of a spawner one after the other; of one that sends into a zone there are none, but the zone. */
export function placesOf(level: Level, spawner: Spawner, planner: LegPlanner): readonly SpawnPlace[] {
  const { where, at, facingRad } = spawner
  const one = { at, facingRad }
  if (where === 'area' || where === 'lanes') return []
  if (where === 'spots') return [one, ...spawner.spots.map((p) => ({ at: p, facingRad }))]
  if (where === 'ranks') return ranks(spawner, planner)
  if (where === 'route') return alongRoute(level, spawner, planner)
  return [one]
}

/** Rank behind rank, the first at the place itself, each centred on it. */
function ranks({ at: [x, y, z], facingRad, files, apartM, count }: Spawner, planner: LegPlanner): SpawnPlace[] {
  const [fx, fy] = [exact.cos(facingRad), exact.sin(facingRad)]
  return Array.from({ length: count }, (_, k) => {
    const back = Math.floor(k / files) * apartM
    const side = ((k % files) - (Math.min(files, count) - 1) / 2) * apartM
    const [px, py] = [x - fx * back - fy * side, y - fy * back + fx * side]
    const spot = planner.map.reachedAt(px, py, z)
    return { at: [px, py, spot ? planner.map.zOf(spot) : z], facingRad }
  })
}

/** The ways of a route put end to end, as its travellers go; where there is no way a straight line. */
function lineOf(level: Level, routeId: string, planner: LegPlanner): Point3[] {
  const route = level.routes[routeId]
  const at = (k: number) => level.waypoints[route.stops[route.order[k]].waypointId].at
  const line: Point3[] = []
  const legs = route.travel === 'round' ? route.order.length : route.order.length - 1
  for (let k = 0; k < legs; k++) {
    const to = (k + 1) % route.order.length
    const way = legPath(planner, route, level.waypoints, k, to)
    const piece = way.found ? way.line : [at(k), at(to)]
    line.push(...(line.length > 0 ? piece.slice(1) : piece))
  }
  return line
}

function alongRoute(level: Level, spawner: Spawner, planner: LegPlanner): SpawnPlace[] {
  const route = level.routes[spawner.routeId ?? '']
  if (!route || route.order.length < 2) return []
  const line = lineOf(level, spawner.routeId!, planner)
  const whole = lengthOf(line)
  const { count, offsetM, apartM, along } = spawner
  if (along === 'stops') {
    const stops = route.order.map((s) => level.waypoints[route.stops[s].waypointId].at)
    return stops.map((p) => ({ at: p, facingRad: headingAt(line, nearestAlong(line, p)) }))
  }
  const round = route.travel === 'round'
  const gap = along === 'apart' ? apartM : (whole - (round ? 0 : offsetM)) / (round ? count : Math.max(1, count - 1))
  const places: SpawnPlace[] = []
  for (let k = 0; k < count; k++) {
    const m = offsetM + k * gap
    if (m > whole + 1e-6 && !round) break
    if (round && k > 0 && k * gap > whole - 1e-6) break
    const s = round ? m % whole : m
    places.push({ at: pointAt(line, s), facingRad: headingAt(line, s) })
  }
  return places
}

/** The piece of a line so far along it, and the share of it. */
function pieceAt(line: readonly Point3[], m: number): { k: number; share: number } {
  let left = m
  for (let k = 1; k < line.length; k++) {
    const d = distance3D(line[k - 1], line[k])
    if (left <= d && d > 0) return { k, share: left / d }
    left -= d
  }
  return { k: line.length - 1, share: 1 }
}
const distance3D = (a: Point3, b: Point3) => Math.sqrt((b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2 + (b[2] - a[2]) ** 2)

function pointAt(line: readonly Point3[], m: number): Point3 {
  const { k, share } = pieceAt(line, m)
  const [a, b] = [line[k - 1], line[k]]
  return [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share, a[2] + (b[2] - a[2]) * share]
}

function headingAt(line: readonly Point3[], m: number): number {
  const { k } = pieceAt(line, m + 1e-6)
  return exact.atan2(line[k][1] - line[k - 1][1], line[k][0] - line[k - 1][0])
}

/** How far along a line the place nearest to another is, of its corners. */
function nearestAlong(line: readonly Point3[], at: Point3): number {
  let run = 0
  let best = Infinity
  let where = 0
  line.forEach((p, k) => {
    if (k > 0) run += distance3D(line[k - 1], p)
    const d = distance2(p, at)
    if (d < best - 1e-9) {
      best = d
      where = run
    }
  })
  return where
}

/** Chance as a spawner has it: what is drawn depends on the seed, its id, and how often it has drawn. */
export const spawnLuck = (seed: number, use: number, spawnerId: string, count: number): number =>
  draw(seed, use as 7, numberOf(spawnerId), count)

/** One of several spots by weight. @param weights the first spot's first; those not said are 1 */
export const spotByWeight = (weights: readonly number[], places: number, luck: number): number =>
  byWeight(
    Array.from({ length: places }, (_, k) => weights[k] ?? 1),
    luck,
  )

/** A place in an area where a profile can stand, drawn evenly over its floors; undefined when what was drawn is none. */
export function placeIn(area: Area, { map }: LegPlanner, draw: () => number): SpawnPlace | undefined {
  const x = area.box.minX + draw() * (area.box.maxX - area.box.minX)
  const y = area.box.minY + draw() * (area.box.maxY - area.box.minY)
  const [which, turn] = [draw(), draw()]
  if (!area.holds(x, y)) return undefined
  const floors = map.reachedFloors(x, y).filter((f) => area.holds(x, y, map.zOf(f)))
  const spot = floors[Math.floor(which * floors.length)]
  return spot && { at: [x, y, map.zOf(spot)], facingRad: (turn * 2 - 1) * Math.PI }
}

export const PLACE_USE = USE.place
