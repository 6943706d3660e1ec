/** Where things are, as their schemas tell it: places, outlines, directions and heights. */
import { z } from 'zod'
import { roleOf, type Role } from './fields'
import { collectionOf, kindIn, WITH_PARTS } from './kinds/collections'
import { KINDS } from './kinds/list'
import type { Kind } from './kinds/kind'
import { REFS, visitPath } from './references'
import type { Collection, Level } from './schema'

/** The properties of all shapes a thing of a kind may have. */
export function shapesOf(schema: z.ZodType): Readonly<Record<string, z.ZodType>>[] {
  if (schema instanceof z.ZodDiscriminatedUnion) return schema.options.flatMap((o) => shapesOf(o as z.ZodType))
  return schema instanceof z.ZodObject ? [schema.shape as Record<string, z.ZodType>] : []
}

const roles = new Map(
  (KINDS as readonly Kind[]).map((kind) => {
    const all = new Map<string, Role>()
    for (const shape of shapesOf(kind.schema))
      for (const [key, schema] of Object.entries(shape)) {
        const role = roleOf(schema)
        if (role) all.set(key, role)
      }
    return [kind.in, all] as const
  }),
)

/** The properties of things of a collection that say where they are. */
export const rolesIn = (collection: Collection): ReadonlyMap<string, Role> => roles.get(collection)!

type Point = readonly [number, number] | readonly [number, number, number]

/** Every place a thing says it is at: its points and the corners of its outlines. */
export function pointsIn(collection: Collection, thing: object): Point[] {
  const points: Point[] = []
  for (const [key, role] of rolesIn(collection)) {
    const value = (thing as Record<string, unknown>)[key]
    if (value === undefined) continue
    if (role === 'point') points.push(value as Point)
    else if (role === 'ring' || role === 'points') points.push(...(value as Point[]))
  }
  return points
}

const spots = new Map<Collection, readonly string[]>()

/** The properties of things of a collection that are places in space, with a height. */
export function placeKeys(collection: Collection): readonly string[] {
  let keys = spots.get(collection)
  if (!keys) spots.set(collection, (keys = spacePointsOf(collection)))
  return keys
}

function spacePointsOf(collection: Collection): string[] {
  const shapes = shapesOf(kindIn(collection).schema)
  return [...rolesIn(collection)].flatMap(([key, role]) => {
    if (role !== 'point') return []
    return shapes.every(({ [key]: at }) => at instanceof z.ZodTuple && at.def.items.length === 3) ? [key] : []
  })
}

/** The property that holds the one place in space a thing of a collection stands at, if it has just one. */
export function placeKey(collection: Collection): string | undefined {
  const keys = placeKeys(collection)
  return keys.length === 1 ? keys[0] : undefined
}

const upright = new Map<Collection, readonly RefPath[]>()
type RefPath = (typeof REFS)[number]

const standRefs = (collection: Collection): readonly RefPath[] => {
  let refs = upright.get(collection)
  if (!refs) upright.set(collection, (refs = REFS.filter((r) => r.in === collection && r.stands)))
  return refs
}

/** The things a thing stands on: those by whose places it is where it is, such as the waypoints of a route. */
export function supportsOf(collection: Collection, thing: object): string[] {
  const ids: string[] = []
  for (const ref of standRefs(collection)) visitPath(thing, ref.keys.slice(2), (id) => ids.push(id))
  return ids
}

/** The holder of a part by the part's id, such as the route of a stop. */
export function holderOf(level: Level, partId: string): { in: Collection; id: string; part: object } | undefined {
  for (const { in: collection, parts } of WITH_PARTS)
    for (const id in level[collection]) {
      const things = (level[collection][id] as unknown as Record<string, Record<string, object>>)[parts.in]
      if (Object.hasOwn(things, partId)) return { in: collection, id, part: things[partId] }
    }
  return undefined
}

/** The things a part of a thing stands on. */
function supportsOfPart(collection: Collection, partsKey: string, part: object): string[] {
  const ids: string[] = []
  for (const ref of standRefs(collection))
    if (ref.keys[2] === partsKey) visitPath(part, ref.keys.slice(4), (id) => ids.push(id))
  return ids
}

/**
 * The things with places of their own that carry a thing, or a part of one, by its id: itself, or what it stands on.
 * Unknown ids carry nothing.
 */
export function carriersOf(level: Level, id: string): { in: Collection; id: string }[] {
  const collection = collectionOf(level, id)
  let supports: string[]
  if (collection) {
    if (rolesIn(collection).size > 0) return [{ in: collection, id }]
    supports = supportsOf(collection, level[collection][id])
  } else {
    const holder = holderOf(level, id)
    if (!holder) return []
    supports = supportsOfPart(holder.in, kindIn(holder.in).parts!.in, holder.part)
  }
  return [...new Set(supports)].flatMap((s) => carriersOf(level, s))
}

/** Every place of a thing or part by its id, those of what it stands on where it has none of its own. */
export function pointsOf(level: Level, id: string): Point[] {
  return carriersOf(level, id).flatMap((c) => pointsIn(c.in, level[c.in][c.id]))
}
