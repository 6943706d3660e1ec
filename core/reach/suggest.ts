import { mix3, type Point3 } from '@tidytrail/core/geometry'
import { floorsAt } from '@tidytrail/core/ground'
import { bodyOf, type Passage, type Profile } from '@tidytrail/core/level'
import { nearestGap, rimOf } from './gaps'
import type { ReachMap } from './map'
import { beyondProfile } from './passages'

/** A passage that could be there. */
export interface Suggestion {
  readonly kind: Passage['kind']
  readonly from: Point3
  readonly to: Point3
  readonly twoWay: boolean
  readonly takesS: number
  /** The islands it would join. */
  readonly islands: readonly [number, number]
  /** Width on the map and height gained, metres. */
  readonly widthM: number
  readonly riseM: number
  /** Does somebody have to get from one of its ends to the other, who cannot so far? */
  readonly needed?: boolean
}

/** What is known of the level beside the map. Nobody needs anything and nothing leads back where it is left out. */
export interface SuggestFor {
  /** Pairs of islands somebody has to get from one to the other of. */
  readonly needs?: readonly (readonly [number, number])[]
  /** Can one get from one island to another by the passages there are? */
  readonly joins?: (from: number, to: number) => boolean
}

/** Islands smaller than this are not worth a passage, square metres. */
const LEAST_M2 = 0.5
/** One suggestion for each pair of islands in each square of this side, metres. */
const SPACING_M = 8
const MOST = 300
const G = 9.81

/**
 * Passages from island to island that a profile could use: first those that somebody needs, then those to the largest
 * islands. They lead both ways, but for drops to where one can get back from by another way: no drop is suggested that
 * one would be trapped by, a ladder is.
 */
export function suggestPassages(map: ReachMap, profile: Profile, known: SuggestFor = {}): Suggestion[] {
  const needs = (known.needs ?? []).map(([from, to]) => passageFor(map, profile, from, to, known.joins))
  const needed = needs.flatMap((s) => (s ? [{ ...s, needed: true }] : []))
  const pair = ([a, b]: readonly [number, number]) => `${Math.min(a, b)} ${Math.max(a, b)}`
  const wanted = new Set(needed.map((s) => pair(s.islands)))
  return [...needed, ...jumpsAndDrops(map, profile, known).filter((s) => !wanted.has(pair(s.islands)))].slice(0, MOST)
}

function jumpsAndDrops(map: ReachMap, profile: Profile, { joins = () => false }: SuggestFor): Suggestion[] {
  if (!bodyOf(profile.medium).jumps) return []
  const rim = rimOf(map)
  if (!rim.index) return []
  const { radiusM, cellM } = map.source
  const within = Math.max(profile.jumpM, 1) + 2 * radiusM + cellM
  const best = new Map<string, Suggestion>()
  const area = (n: number) => map.islands.list[n].areaM2
  for (let n = 0; n < rim.x.length; n++) {
    const a = rim.island[n]
    if (area(a) < LEAST_M2) continue
    const box = [rim.x[n] - within, rim.y[n] - within, rim.x[n] + within, rim.y[n] + within] as const
    for (const m of rim.index.search(...box, (m) => rim.island[m] !== a)) {
      const b = rim.island[m]
      // Each pair once, from the higher to the lower end.
      if (rim.z[m] > rim.z[n] || (rim.z[m] === rim.z[n] && a > b) || area(b) < LEAST_M2) continue
      const from: Point3 = [rim.x[n], rim.y[n], rim.z[n]]
      const to: Point3 = [rim.x[m], rim.y[m], rim.z[m]]
      const dx = to[0] - from[0]
      const dy = to[1] - from[1]
      const widthM = Math.sqrt(dx * dx + dy * dy)
      const fallM = from[2] - to[2]
      const key = `${Math.min(a, b)} ${Math.max(a, b)} ${Math.floor((from[0] + to[0]) / 2 / SPACING_M)} ${Math.floor((from[1] + to[1]) / 2 / SPACING_M)}`
      const known = best.get(key)
      if (known && known.widthM <= widthM) continue
      const steep = fallM > profile.climbM + 1e-6
      const kind = !steep ? 'jump' : joins(b, a) ? 'drop' : 'ladder'
      const path = { kind, from, to, twoWay: kind !== 'drop' } as const
      if (beyondProfile(steep ? { ...path, kind: 'drop', twoWay: false } : path, profile)) continue
      if (!clearAir(map, from, to)) continue
      best.set(key, {
        ...path,
        takesS: usualS(kind, fallM),
        islands: [a, b],
        widthM,
        riseM: -fallM,
      })
    }
  }
  const worth = (s: Suggestion) => Math.min(area(s.islands[0]), area(s.islands[1]))
  return [...best.values()].sort((p, q) => worth(q) - worth(p) || p.widthM - q.widthM).slice(0, MOST)
}

/** How long a passage takes, where nothing else is said, s: a drop falls, a ladder is climbed at half a metre a second. */
function usualS(kind: 'jump' | 'drop' | 'ladder', riseM: number): number {
  if (kind === 'drop') return Math.max(0.3, Math.round(10 * Math.sqrt((2 * Math.abs(riseM)) / G)) / 10)
  return kind === 'jump' ? 0.8 : Math.max(0.5, Math.round(Math.abs(riseM) * 20) / 10)
}

/** Is there room for the body along the way, at the height of its higher end? */
function clearAir(map: ReachMap, from: Point3, to: Point3): boolean {
  const { terrain, heightM, cellM, stepM } = map.source
  const lowM = Math.max(from[2], to[2])
  const length = Math.sqrt((to[0] - from[0]) ** 2 + (to[1] - from[1]) ** 2)
  const pieces = Math.max(2, Math.ceil(length / cellM))
  for (let k = 0; k <= pieces; k++) {
    const [x, y] = mix3(from, to, k / pieces)
    const free = floorsAt(terrain, x, y).some((f) => f.z <= lowM + stepM + 0.05 && f.ceilingM >= lowM + heightM - 0.05)
    if (!free) return false
  }
  return true
}

/**
 * What would join two islands where they come nearest: a jump the profile can do both ways, a drop where it gets back by
 * another way, else a ladder, a lift or a portal.
 */
export function passageFor(
  map: ReachMap,
  profile: Profile,
  from: number,
  to: number,
  joins: (from: number, to: number) => boolean = () => false,
): Suggestion | undefined {
  const gap = nearestGap(map, from, to)
  if (!gap) return undefined
  const { widthM, riseM } = gap
  const ends = { from: gap.fromAt, to: gap.toAt, islands: [from, to] as const, widthM, riseM }
  const { jumps } = bodyOf(profile.medium)
  const fits = (kind: 'jump' | 'drop', twoWay: boolean) =>
    jumps &&
    !beyondProfile({ kind, from: ends.from, to: ends.to, twoWay }, profile) &&
    clearAir(map, ends.from, ends.to)
  if (fits('jump', true)) return { kind: 'jump', twoWay: true, takesS: 0.8, ...ends }
  if (joins(to, from) && fits('drop', false))
    return { kind: 'drop', twoWay: false, takesS: usualS('drop', riseM), ...ends }
  const rise = Math.abs(riseM)
  if (jumps && rise > 0.5 && widthM < 3) {
    return { kind: 'ladder', twoWay: true, takesS: usualS('ladder', rise), ...ends }
  }
  if (rise > 0.5 && widthM < 6) return { kind: 'lift', twoWay: true, takesS: Math.round(10 + rise), ...ends }
  return { kind: 'portal', twoWay: true, takesS: 1, ...ends }
}
