import { copyNames } from './copy-names'
import { exact, toMillimetre } from '@tidytrail/core/geometry'
import { standsAlone, thingOf } from './kinds/collections'
import { rolesIn } from './places'
import type { Collection, Level } from './schema'

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

type Point = [number, number] | [number, number, number]

/** A direction after a motion, between half a turn either way. */
export function turnedBy({ turnRad, mirror }: Pick<Motion, 'turnRad' | 'mirror'>, rad: number): number {
  const all = (mirror ? Math.PI - rad : rad) + turnRad
  const once = all - 2 * Math.PI * Math.round(all / (2 * Math.PI))
  return Math.round(once * 1e6) / 1e6
}

/** A thing of a collection as it is after a motion; undefined when it has no place of its own. */
export function movedThing<T extends object>(collection: Collection, thing: T, motion: Motion): T | undefined {
  const { turnRad, mirror, dx, dy, dz } = motion
  const c = exact.cos(turnRad)
  const s = exact.sin(turnRad)
  const place = <P extends Point>(p: P): P => {
    const x = mirror ? -p[0] : p[0]
    const moved = [toMillimetre(x * c - p[1] * s + dx), toMillimetre(x * s + p[1] * c + dy)]
    return (p.length === 3 ? [...moved, toMillimetre(p[2] + dz)] : moved) as P
  }
  const out: Record<string, unknown> = { ...(thing as Record<string, unknown>) }
  let has = false
  for (const [key, role] of rolesIn(collection)) {
    const value = out[key]
    if (value === undefined) continue
    if (role === 'point') {
      out[key] = place(value as Point)
      has = true
    } else if (role === 'points') {
      out[key] = (value as Point[]).map(place)
    } else if (role === 'ring') {
      const ring = (value as [number, number][]).map(place)
      // An outline keeps its sense of turning; what has no inside keeps its order.
      out[key] = mirror && ring.length > 2 ? ring.reverse() : ring
      has = true
    } else if (role === 'bearing') {
      if (turnRad !== 0 || mirror) out[key] = turnedBy(motion, value as number)
    } else if (dz !== 0) out[key] = toMillimetre((value as number) + dz)
  }
  return has ? (out as T) : undefined
}

/** Copies of things, one set for each motion, with new ids and names. */
export function copiesOf(
  level: Level,
  ids: readonly string[],
  motions: readonly Motion[],
  newId: (collection: Collection) => string,
): { in: Collection; id: string; thing: unknown }[] {
  const names = new Map<Collection, (name: string) => string>()
  function called(collection: Collection, thing: { name?: unknown }): object {
    let name = names.get(collection)
    if (!name) names.set(collection, (name = copyNames(level[collection])))
    return typeof thing.name === 'string' ? { ...thing, name: name(thing.name) } : thing
  }
  return motions.flatMap((motion) =>
    ids.flatMap((id) => {
      const found = thingOf(level, id)
      if (!found || !standsAlone(found.in)) return []
      const thing = movedThing(found.in, found.thing, motion)
      return thing ? [{ in: found.in, id: newId(found.in), thing: called(found.in, thing) }] : []
    }),
  )
}
