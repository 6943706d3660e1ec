import { simplifyLine } from '@tidytrail/core/geometry'
import {
  addRoute,
  addStop,
  assignRoute,
  changeStops,
  changeThings,
  freshName,
  type EditResult,
  type Level,
} from '@tidytrail/core/level'
import { randomId } from '../stores/random-id'

/** Where a stand-in was at a time, while it was steered. Metres, seconds. */
export interface SteeredPlace {
  readonly t: number
  readonly x: number
  readonly y: number
  readonly z: number
  readonly speed: number
}

/** The line kept is nowhere farther from what was steered than this, metres. */
const TOLERANCE_M = 0.3
/** Who moves slower than this stands; who stands so long has paused. */
const STANDS_MPS = 0.05
const PAUSES_S = 0.8

/** A place of the kept line, and how long one stood there, seconds. */
export interface KeptPlace {
  readonly at: readonly [number, number, number]
  readonly pauseS: number
}

/** What was steered as few places: corners of the line, and where one stood. */
export function placesOf(track: readonly SteeredPlace[]): KeptPlace[] {
  if (track.length === 0) return []
  const kept: KeptPlace[] = []
  const put = (p: SteeredPlace, pauseS: number) => {
    const at = [p.x, p.y, p.z] as const
    const last = kept.at(-1)
    if (last && Math.hypot(last.at[0] - p.x, last.at[1] - p.y) < TOLERANCE_M / 2)
      kept[kept.length - 1] = { at: last.at, pauseS: last.pauseS + pauseS }
    else kept.push({ at, pauseS })
  }
  let run: SteeredPlace[] = []
  const walk = () => {
    const xy = run.flatMap((p) => [p.x, p.y])
    for (const k of simplifyLine(xy, TOLERANCE_M)) put(run[k], 0)
    run = []
  }
  for (let k = 0; k < track.length;) {
    let end = k
    while (end < track.length && track[end].speed < STANDS_MPS) end++
    const stoodS = end > k ? track[end - 1].t - track[k].t : 0
    if (stoodS >= PAUSES_S) {
      walk()
      put(track[k], Math.round(stoodS * 10) / 10)
      k = end
    } else run.push(track[k++])
  }
  walk()
  return kept
}

/** The edits that lay what was steered as a route of its own, which the stand-in then follows. */
export function keepSteered(
  level: Level,
  spawnerId: string,
  track: readonly SteeredPlace[],
): { routeId: string; label: string; edits: ((level: Level) => EditResult)[] } | undefined {
  const places = placesOf(track)
  const spawner = level.spawners[spawnerId]
  if (places.length < 2 || !spawner) return undefined
  const routeId = randomId('routes')
  const name = freshName(level.routes, `Line of ${spawner.name}`)
  const edits: ((level: Level) => EditResult)[] = [
    (l) => addRoute.apply(l, { id: routeId, name, kind: 'patrol' }),
    (l) => changeThings.apply(l, { in: 'routes', changes: { [routeId]: { legs: 'drawn' } } }),
  ]
  for (const { at, pauseS } of places) {
    const stopId = randomId('stops')
    edits.push((l) => addStop.apply(l, { routeId, stopId, waypointId: randomId('waypoints'), at }))
    if (pauseS > 0) {
      const pause = { minS: pauseS, maxS: pauseS }
      edits.push((l) => changeStops.apply(l, { stops: { [routeId]: [stopId] }, set: { pause } }))
    }
  }
  const made = { briefId: randomId('briefs'), stepId: randomId('steps') }
  edits.push((l) => assignRoute.apply(l, { spawnerId, routeId, ...made }))
  return { routeId, label: `Keep the line of ${spawner.name}`, edits }
}
