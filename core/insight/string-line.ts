import { distance2, distance3, type Point3 } from '@tidytrail/core/geometry'
import type { Level, Route } from '@tidytrail/core/level'
import { FIELD, FRAME_FIELDS, FRAMES_PER_SECOND, STATES, type Recorded } from '@tidytrail/core/rehearsal'
import { Measured } from './sneak'

/** Looks a second. */
const LOOKS_HZ = 2
const WALKING = STATES.indexOf('walking')
const PAUSING = STATES.indexOf('pausing')
/** Stops of two routes as near as this are one place, metres. */
const SAME_M = 2

/** How the way of a leg runs for a body; straight where nothing else is known. */
export type LineOf = (routeId: string, profileId: string, from: number, to: number) => readonly Point3[] | undefined

/** One run of an agent along a route without a break: time, seconds, and distance along the route, metres. */
export interface Thread {
  readonly key: number
  readonly t: readonly number[]
  readonly m: readonly number[]
}

export type MeetKind = 'meeting' | 'overtaking' | 'saw' | 'lost'
export interface StringMark {
  readonly kind: MeetKind
  readonly t: number
  readonly m: number
  readonly keys: readonly number[]
}

/** Time against distance along a route for all who use it: the graphic timetable of the railways (Ibry 1846, after Marey 1885). */
export interface StringLine {
  readonly routeId: string
  readonly lengthM: number
  /** Does the end lie where the start is? */
  readonly closed: boolean
  readonly stops: readonly { readonly m: number; readonly index: number; readonly name: string }[]
  readonly threads: readonly Thread[]
  readonly pauses: readonly { readonly key: number; readonly m: number; readonly from: number; readonly to: number }[]
  readonly marks: readonly StringMark[]
  /** Of each stop, how long it lay unvisited at most, and on average. Seconds; null where it was not visited twice. */
  readonly gaps: readonly {
    readonly index: number
    readonly visits: number
    readonly longestS: number
    readonly fromS: number
  }[]
}

/** Where the stops of a route are along it, metres; the last of a round is its start again. */
export function stopsAlong(level: Level, route: Route): number[] {
  const places = route.order.map((s) => level.waypoints[route.stops[s].waypointId].at)
  if (route.travel === 'round' && places.length > 1) places.push(places[0])
  const s = [0]
  for (let k = 1; k < places.length; k++) s.push(s[k - 1] + distance3(places[k - 1], places[k]))
  return s
}

export function stringLine(recorded: Recorded, routeId: string, lineOf?: LineOf): StringLine | undefined {
  const { level } = recorded
  const route = level.routes[routeId]
  if (!route || route.order.length < 2) return undefined
  const along = stopsAlong(level, route)
  const closed = route.travel === 'round'
  const n = route.order.length
  const number = recorded.routes.indexOf(routeId)
  const place = (k: number) => level.waypoints[route.stops[route.order[k]].waypointId].at
  const measured = new Map<string, Measured>()
  const legOf = (body: number, from: number, to: number): Measured => {
    const name = `${body} ${from} ${to}`
    let leg = measured.get(name)
    if (!leg) {
      const line = lineOf?.(routeId, recorded.profiles[body], from, to)
      measured.set(name, (leg = new Measured(line && line.length > 1 ? line : [place(from), place(to)])))
    }
    return leg
  }
  /** How far along the route a row is; NaN while it is on its way to it. */
  const distance = (frame: Int32Array, r: number): number => {
    const [from, to] = [frame[r + FIELD.from], frame[r + FIELD.to]]
    if (to < 0 || to >= n) return NaN
    if (frame[r + FIELD.state] === PAUSING) return along[to]
    if (from < 0 || from >= n) return NaN
    const end = closed && to === 0 && from === n - 1 ? along[n] : along[to]
    const start = closed && from === 0 && to === n - 1 ? along[n] : along[from]
    return start + (end - start) * shareAlong(legOf(frame[r + FIELD.body], from, to), frame, r)
  }
  const threads: { key: number; t: number[]; m: number[] }[] = []
  const pauses: StringLine['pauses'][number][] = []
  const open = new Map<number, { thread: { key: number; t: number[]; m: number[] }; pausedAt: number | undefined }>()
  const every = Math.round(FRAMES_PER_SECOND / LOOKS_HZ)
  for (let k = 0; k < recorded.frameCount; k += every) {
    const frame = recorded.frame(k)
    const t = k / FRAMES_PER_SECOND
    const seen = new Set<number>()
    for (let r = 0; r < frame.length; r += FRAME_FIELDS) {
      const state = frame[r + FIELD.state]
      if (frame[r + FIELD.route] !== number || (state !== WALKING && state !== PAUSING)) continue
      const m = distance(frame, r)
      if (Number.isNaN(m)) continue
      const key = frame[r]
      seen.add(key)
      let own = open.get(key)
      const before = own?.thread.m.at(-1)
      // Over the start of a round the line goes on at the bottom.
      const wraps = closed && before !== undefined && Math.abs(m - before) > along[n] / 2
      if (!own || wraps) {
        const thread = { key, t: [], m: [] }
        threads.push(thread)
        open.set(key, (own = { thread, pausedAt: own?.pausedAt }))
      }
      own.thread.t.push(t)
      own.thread.m.push(m)
      if (state === PAUSING) own.pausedAt ??= t
      else if (own.pausedAt !== undefined) {
        pauses.push({ key, m: before ?? m, from: own.pausedAt, to: t })
        own.pausedAt = undefined
      }
    }
    for (const key of open.keys()) if (!seen.has(key)) open.delete(key)
  }
  const lengthM = along[along.length - 1]
  return {
    routeId,
    lengthM,
    closed,
    stops: along.map((m, k) => ({
      m,
      index: k % n,
      name: level.waypoints[route.stops[route.order[k % n]].waypointId].name,
    })),
    threads: threads.filter((s) => s.t.length > 1),
    pauses,
    marks: [...crossings(threads), ...sights(recorded, number, threads)].sort((a, b) => a.t - b.t),
    gaps: gapsOf(recorded, number, n),
  }
}

/** The share of a leg somebody has behind it: by the nearest place of its line. */
function shareAlong(leg: Measured, frame: Int32Array, r: number): number {
  const { points, corners, lengthM } = leg
  const [x, y, z] = [frame[r + FIELD.x] / 1000, frame[r + FIELD.y] / 1000, frame[r + FIELD.z] / 1000]
  let best = Infinity
  let at = 0
  for (let k = 1; k < points.length; k++) {
    const [a, b] = [points[k - 1], points[k]]
    const [dx, dy, dz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]]
    const d2 = dx * dx + dy * dy + dz * dz
    const share = d2 > 0 ? Math.min(1, Math.max(0, ((x - a[0]) * dx + (y - a[1]) * dy + (z - a[2]) * dz) / d2)) : 0
    const off = (a[0] + share * dx - x) ** 2 + (a[1] + share * dy - y) ** 2 + (a[2] + share * dz - z) ** 2
    if (off >= best) continue
    best = off
    at = corners[k - 1] + share * (corners[k] - corners[k - 1])
  }
  return lengthM > 0 ? at / lengthM : 0
}

/** Where threads cross: who goes the other way is met, who goes the same way is overtaken. */
function crossings(threads: readonly Thread[]): StringMark[] {
  const marks: StringMark[] = []
  for (let a = 0; a < threads.length; a++)
    for (let b = a + 1; b < threads.length; b++) {
      const [p, q] = [threads[a], threads[b]]
      if (p.key === q.key) continue
      const from = Math.max(p.t[0], q.t[0])
      const to = Math.min(p.t[p.t.length - 1], q.t[q.t.length - 1])
      if (to <= from) continue
      const count = Math.round((to - from) * LOOKS_HZ)
      const [i, j] = [Math.round((from - p.t[0]) * LOOKS_HZ), Math.round((from - q.t[0]) * LOOKS_HZ)]
      let side = 0
      let before = 0
      for (let k = 0; k <= count; k++) {
        const d = p.m[i + k] - q.m[j + k]
        const now = Math.abs(d) < 1e-6 ? 0 : d > 0 ? 1 : -1
        if (now !== 0 && side !== 0 && now !== side) {
          const [vp, vq] = [p.m[i + k] - p.m[i + k - 1], q.m[j + k] - q.m[j + k - 1]]
          // They are level where the straight lines between two looks cross.
          const back = Math.abs(d) / (Math.abs(d) + Math.abs(before))
          const [t, m] = [p.t[i + k] - back / LOOKS_HZ, p.m[i + k] - back * vp]
          marks.push({ kind: vp * vq < 0 ? 'meeting' : 'overtaking', t, m, keys: [p.key, q.key] })
        }
        if (now !== 0) [side, before] = [now, d]
      }
    }
  return marks
}

/** Whom somebody on the route saw, and lost sight of. */
function sights({ events, stepS }: Recorded, route: number, threads: readonly Thread[]): StringMark[] {
  const marks: StringMark[] = []
  for (const e of events) {
    if ((e.kind !== 'saw' && e.kind !== 'lost') || e.route !== route) continue
    const t = e.step * stepS
    const thread = threads.find((s) => s.key === e.key && s.t[0] <= t && s.t[s.t.length - 1] >= t - 1 / LOOKS_HZ)
    if (!thread) continue
    const k = Math.min(thread.t.length - 1, Math.floor((t - thread.t[0]) * LOOKS_HZ))
    marks.push({ kind: e.kind, t, m: thread.m[k], keys: [e.key, e.a] })
  }
  return marks
}

/** How long each stop lies unvisited by anybody. */
function gapsOf({ events, stepS, frameCount }: Recorded, route: number, stops: number): StringLine['gaps'] {
  const visits: number[][] = Array.from({ length: stops }, () => [])
  for (const e of events) if (e.kind === 'reached' && e.route === route && e.a < stops) visits[e.a].push(e.step * stepS)
  const end = (frameCount - 1) / FRAMES_PER_SECOND
  return visits.map((at, index) => {
    const times = [...at, end]
    let [longestS, fromS] = [at[0] ?? end, 0]
    for (let k = 1; k < times.length; k++)
      if (times[k] - times[k - 1] > longestS) [longestS, fromS] = [times[k] - times[k - 1], times[k - 1]]
    return { index, visits: at.length, longestS, fromS }
  })
}

/** A stretch two routes have in common: from metres to metres along each; along the second one may go the other way. */
export interface SharedStretch {
  readonly a: readonly [number, number]
  readonly b: readonly [number, number]
}

/** The stretches two routes share: runs of at least two stops at the same places. */
export function sharedStretches(level: Level, a: string, b: string): SharedStretch[] {
  const [ra, rb] = [level.routes[a], level.routes[b]]
  if (!ra || !rb) return []
  const placesOf = (route: Route) => {
    const places = route.order.map((s) => level.waypoints[route.stops[s].waypointId].at)
    return route.travel === 'round' ? [...places, places[0]] : places
  }
  const [pa, pb] = [placesOf(ra), placesOf(rb)]
  const [sa, sb] = [stopsAlong(level, ra), stopsAlong(level, rb)]
  const same = (i: number, j: number) => pa[i] !== undefined && pb[j] !== undefined && distance2(pa[i], pb[j]) <= SAME_M
  const found: SharedStretch[] = []
  for (const way of [1, -1]) {
    for (let i = 0; i < pa.length - 1; i++)
      for (let j = 0; j < pb.length; j++) {
        if (!same(i, j) || (i > 0 && same(i - 1, j - way))) continue
        let k = 0
        while (same(i + k + 1, j + way * (k + 1))) k++
        if (k > 0) found.push({ a: [sa[i], sa[i + k]], b: [sb[j], sb[j + way * k]] })
      }
  }
  return found
}
