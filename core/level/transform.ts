import { exact, toMillimetre } from '@tidytrail/core/geometry'
import { collectionOf, type Collection } from './kinds'
import type { Level } from './schema'

/** A move of the plane: turned about the origin, perhaps mirrored east for west first, then shifted. */
export interface Motion {
  readonly turnRad: number
  readonly mirror: boolean
  readonly dx: number
  readonly dy: number
  readonly dz: number
}

export const shift = (dx: number, dy: number, dz = 0): Motion => ({ turnRad: 0, mirror: false, dx, dy, dz })

/** Turned about a place. */
export function turnAbout(x: number, y: number, turnRad: number): Motion {
  const c = exact.cos(turnRad)
  const s = exact.sin(turnRad)
  return { turnRad, mirror: false, dx: x - x * c + y * s, dy: y - x * s - y * c, dz: 0 }
}

/** Mirrored in a line through a place, upright (north to south) or level (west to east) on the map. */
export function mirrorIn(axis: 'upright' | 'level', x: number, y: number): Motion {
  // A level mirror is an upright one with half a turn.
  return axis === 'upright'
    ? { turnRad: 0, mirror: true, dx: 2 * x, dy: 0, dz: 0 }
    : { turnRad: Math.PI, mirror: true, dx: 0, dy: 2 * y, dz: 0 }
}

type Place = [number, number] | [number, number, number]

/** A thing of any collection that has a place, as it is after a motion; undefined when it has none. */
export function movedThing<T extends object>(thing: T, motion: Motion): T | undefined {
  const { turnRad, mirror, dx, dy, dz } = motion
  const c = exact.cos(turnRad)
  const s = exact.sin(turnRad)
  const place = <P extends Place>(p: P): P => {
    const x = mirror ? -p[0] : p[0]
    const moved = [toMillimetre(x * c - p[1] * s + dx), toMillimetre(x * s + p[1] * c + dy)]
    return (p.length === 3 ? [...moved, toMillimetre(p[2] + dz)] : moved) as P
  }
  const turned = (rad: number) => {
    const all = (mirror ? Math.PI - rad : rad) + turnRad
    const once = all - 2 * Math.PI * Math.round(all / (2 * Math.PI))
    return Math.round(once * 1e6) / 1e6
  }
  const out: Record<string, unknown> = { ...(thing as Record<string, unknown>) }
  let has = false
  for (const key of ['at', 'from', 'to']) {
    if (!Array.isArray(out[key])) continue
    out[key] = place(out[key] as Place)
    has = true
  }
  if (Array.isArray(out.ring)) {
    const ring = (out.ring as [number, number][]).map(place)
    out.ring = mirror ? ring.reverse() : ring
    has = true
  }
  if (!has) return undefined
  for (const key of ['turnRad', 'facingRad'])
    if (typeof out[key] === 'number' && (turnRad !== 0 || mirror)) out[key] = turned(out[key])
  if (dz !== 0 && typeof out.baseM === 'number') out.baseM = toMillimetre(out.baseM + dz)
  return out as T
}

/** Collections whose things stand for themselves, so that a copy is a thing of its own. */
export const COPIED: readonly Collection[] = [
  'solids',
  'meshes',
  'underlays',
  'covers',
  'reachAreas',
  'passages',
  'markers',
  'zones',
  'posts',
  'spawners',
]

/** Copies of things, one set for each motion, with new ids. */
export function copiesOf(
  level: Level,
  ids: readonly string[],
  motions: readonly Motion[],
  newId: (collection: Collection) => string,
): { in: Collection; id: string; thing: unknown }[] {
  return motions.flatMap((motion) =>
    ids.flatMap((id) => {
      const collection = collectionOf(level, id)
      if (!collection || !COPIED.includes(collection)) return []
      const thing = movedThing(level[collection][id] as object, motion)
      return thing ? [{ in: collection, id: newId(collection), thing }] : []
    }),
  )
}
