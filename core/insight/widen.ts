/**
 * What would give a window of the length that is wanted: every change is tried out in a rehearsal of its own, and of each
 * kind of change the smallest that does is offered, with what else it changes.
 */
import { exact } from '@tidytrail/core/geometry'
import { changeStops, changeThings, type Level } from '@tidytrail/core/level'
import { lookerKeys } from './lookers'
import { runFigures, type RunFigures } from './figures'
import { tryOut, type Examined } from './trials'

/** A change as an ordinary edit of a level, as plain data. */
export type Change =
  | { readonly label: string; readonly edit: 'changeStops'; readonly args: Parameters<typeof changeStops.apply>[1] }
  | { readonly label: string; readonly edit: 'changeThings'; readonly args: Parameters<typeof changeThings.apply>[1] }

export const changed = (level: Level, change: Change): Level =>
  change.edit === 'changeStops'
    ? changeStops.apply(level, change.args).level
    : changeThings.apply(level, change.args).level

/** Which window is to be how long, seconds. */
export interface Wish {
  readonly in: 'watchSpots' | 'sneakLines'
  readonly id: string
  readonly wantedS: number
  /** A trial about it that is to hold, instead of a length. */
  readonly trialId?: string
}

/** Has a wish been fulfilled? */
export const isFulfilled = (of: Examined, wish: Wish): boolean =>
  wish.trialId === undefined
    ? longestOf(of, wish) >= wish.wantedS - 1e-6
    : of.level.trials[wish.trialId] !== undefined && tryOut(of, wish.trialId).holds === true

/** A kind of change: values from the smallest to the greatest that is tried. */
export interface Family {
  readonly kind: 'pause' | 'pace' | 'start' | 'turn'
  readonly about: string
  readonly values: readonly number[]
  change(value: number): Change
}

/** A change that gives what is wanted. */
export interface Widening {
  readonly kind: Family['kind']
  readonly change: Change
  readonly value: number
  /** The longest window with it, seconds. */
  readonly longestS: number
  /** What else is other: figures by name, before and after. */
  readonly else: readonly {
    readonly name: string
    readonly unit: string
    readonly before: number
    readonly after: number
  }[]
}

/** How far it has come: kinds of changes looked at, of how many, and what is known. */
export interface WidenProgress {
  readonly done: number
  readonly total: number
  readonly runs: number
  readonly found: readonly Widening[]
  /** The longest window anything tried gave, and by what; what is to be had at most where nothing does. */
  readonly most: { readonly longestS: number; readonly label: string }
}

const PAUSES = Array.from({ length: 30 }, (_, k) => k + 1)
const STARTS = Array.from({ length: 20 }, (_, k) => (k + 1) * 3)
/** Shares of the usual pace, from a little slower on. */
const PACES = [0.95, 0.9, 0.85, 0.8, 0.75, 0.7, 0.65, 0.6, 0.55, 0.5]
/** Directions are turned by so many degrees either way. */
const TURNS = [30, -30, 60, -60, 90, -90, 120, -120, 150, -150, 180]

/** The longest window a wish is about, as it is in a recording. */
export const longestOf = (of: Examined, { in: collection, id }: Wish): number =>
  collection === 'watchSpots' ? of.spot(id).figures.longestS : of.line(id).figures.longestS

/** All kinds of changes that could make a difference: of those who watch, and of the routes they are on. */
export function familiesOf(of: Examined, wish: Wish): Family[] {
  const { level, recorded } = of
  const keys = lookerKeys(recorded, level[wish.in][wish.id].factionIds)
  const lookers = recorded.agents.filter((a) => keys.has(a.key))
  const routes = new Set(
    recorded.events.flatMap((e) => (keys.has(e.key) && e.route >= 0 ? recorded.routes[e.route] : [])),
  )
  const families: Family[] = []
  for (const routeId of routes) {
    const route = level.routes[routeId]
    if (!route) continue
    route.order.forEach((stopId, k) => {
      const stop = route.stops[stopId]
      const name = level.waypoints[stop.waypointId].name || `stop ${k + 1}`
      const { minS, maxS } = stop.pause
      families.push({
        kind: 'pause',
        about: stopId,
        values: PAUSES,
        change: (s) => ({
          label: `Pause ${s} s longer at ${name} of ${route.name}`,
          edit: 'changeStops',
          args: { stops: { [routeId]: [stopId] }, set: { pause: { minS: minS + s, maxS: maxS + s } } },
        }),
      })
      if (maxS === 0) return
      const facing = stop.facingRad ?? 0
      families.push({
        kind: 'turn',
        about: stopId,
        values: TURNS,
        change: (degrees) => ({
          label: `Look ${Math.abs(degrees)}° further ${degrees > 0 ? 'left' : 'right'} at ${name} of ${route.name}`,
          edit: 'changeStops',
          args: {
            stops: { [routeId]: [stopId] },
            set: { facingRad: wrapped(facing + (degrees * Math.PI) / 180), look: null },
          },
        }),
      })
    })
    const usual = usualMps(of, routeId)
    if (usual > 0)
      families.push({
        kind: 'pace',
        about: routeId,
        values: PACES,
        change: (share) => {
          const speedLimitMps = Math.round(usual * share * 100) / 100
          return {
            label: `Go round ${route.name} at ${speedLimitMps.toFixed(2)} m/s`,
            edit: 'changeThings',
            args: { in: 'routes', changes: { [routeId]: { speedLimitMps } } },
          }
        },
      })
  }
  for (const spawnerId of new Set(lookers.map((a) => a.spawnerId))) {
    const spawner = level.spawners[spawnerId]
    if (!spawner) continue
    families.push({
      kind: 'start',
      about: spawnerId,
      values: STARTS,
      change: (s) => ({
        label: `Let ${spawner.name} begin ${s} s later`,
        edit: 'changeThings',
        args: { in: 'spawners', changes: { [spawnerId]: { firstAfterS: spawner.firstAfterS + s } } },
      }),
    })
  }
  return families
}

const wrapped = (rad: number) => exact.atan2(exact.sin(rad), exact.cos(rad))

/** How fast those on a route usually go, metres a second; 0 when it is not known. */
function usualMps({ level, recorded }: Examined, routeId: string): number {
  const n = recorded.routes.indexOf(routeId)
  const key = recorded.events.find((e) => e.route === n)?.key
  const profile = level.profiles[recorded.agents.find((a) => a.key === key)?.profileId ?? '']
  if (!profile) return 0
  const mps = profile.gaits[profile.gait] ?? Object.values(profile.gaits)[0]
  return Math.min(mps, level.routes[routeId].speedLimitMps ?? Infinity)
}

/**
 * Looks for the smallest change of each kind that gives a window as long as is wanted, or makes a trial hold. It is found by
 * halving, as longer pauses, later starts and slower paces mostly make longer windows; directions are gone through.
 * @param rehearse a rehearsal of a changed level, from its first second to the end
 */
export function* widen(
  before: Examined,
  wish: Wish,
  rehearse: (level: Level) => Examined,
): Generator<WidenProgress, WidenProgress> {
  const families = familiesOf(before, wish)
  const base = runFigures(before, '')
  const found: Widening[] = []
  let most = { longestS: longestOf(before, wish), label: 'as it is' }
  let runs = 0
  const tried = (family: Family, value: number) => {
    const change = family.change(value)
    const after = rehearse(changed(before.level, change))
    runs++
    const longestS = longestOf(after, wish)
    if (longestS > most.longestS) most = { longestS, label: change.label }
    return { change, value, longestS, after, enough: isFulfilled(after, wish) }
  }
  const offer = (family: Family, { change, value, longestS, after }: ReturnType<typeof tried>) =>
    found.push({ kind: family.kind, change, value, longestS, else: whatElse(base, runFigures(after, '')) })
  const progress = (done: number): WidenProgress => ({ done, total: families.length, runs, found: [...found], most })
  for (const [k, family] of families.entries()) {
    const { values } = family
    if (family.kind === 'turn') {
      for (const value of values) {
        const one = tried(family, value)
        if (one.enough) {
          offer(family, one)
          break
        }
        yield progress(k)
      }
    } else {
      // A trial may hold with a little more and fail with much more: it is gone up to in growing steps. Windows mostly
      // grow with what makes them longer: where the most there is does not do, nothing does.
      let low = -1
      let high = values.length - 1
      let best: ReturnType<typeof tried> | undefined
      for (let at = wish.trialId === undefined ? high : 0; at <= high; at = 2 * at + 1) {
        const one = tried(family, values[at])
        yield progress(k)
        if (one.enough) [high, best] = [at, one]
        else low = at
        if (one.enough) break
      }
      if (best) {
        while (high - low > 1) {
          const mid = (low + high) >> 1
          const one = tried(family, values[mid])
          if (one.enough) [high, best] = [mid, one]
          else low = mid
          yield progress(k)
        }
        offer(family, best)
      }
    }
    yield progress(k + 1)
  }
  return progress(families.length)
}

/** Figures that are other by more than a little. */
function whatElse(before: RunFigures, after: RunFigures): Widening['else'] {
  return before.figures.flatMap(({ name, unit, value }) => {
    const now = after.figures.find((f) => f.name === name)?.value
    if (now === undefined || Math.abs(now - value) <= 0.02 * Math.max(1, Math.abs(value))) return []
    return [{ name, unit, before: value, after: now }]
  })
}
