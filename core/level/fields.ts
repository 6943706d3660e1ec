/** What the properties of things are made of: their values, and what a card has to know to show them. */
import { z } from 'zod'
import { LIMITS } from './limits'

/** What a value says of where a thing is, so that it goes along when the thing is moved, turned or mirrored. */
export type Role = 'point' | 'points' | 'ring' | 'bearing' | 'height'

/** How a property is shown and set by hand. */
export interface Field {
  /** What people call it; for a place what they call each of its coordinates. */
  readonly label: string | readonly string[]
  readonly unit?: string
  /** By what a value is multiplied to be shown in its unit. */
  readonly times?: number
  /** What one pixel of dragging the label adds, and how many digits are shown, both as shown. */
  readonly step?: number
  readonly digits?: number
  /** A direction shown as a bearing, 0° north and clockwise; or a turn, clockwise as well. */
  readonly compass?: 'bearing' | 'turn'
  /** What each choice is called. */
  readonly words?: Readonly<Record<string, string>>
  /** What it is called that nothing is set. */
  readonly none?: string
  /** Is it of any use for a thing such as this? */
  readonly when?: (thing: never) => boolean
  /** A text of several lines. */
  readonly long?: boolean
  /** Set with a slider. */
  readonly slider?: boolean
}

const roles = new WeakMap<z.ZodType, Role>()
const fields = new WeakMap<z.ZodType, Field>()

function withRole<S extends z.ZodType>(schema: S, role: Role): S {
  roles.set(schema, role)
  return schema
}

/** A schema that knows how its value is shown. */
export function field<S extends z.ZodType>(schema: S, about: Field): S {
  const own = schema.clone() as S
  fields.set(own, about)
  const role = roles.get(schema)
  if (role) roles.set(own, role)
  return own
}

/** A schema without what says that a value may be left out or empty. */
export function peel(schema: z.ZodType): z.ZodType {
  let inner: unknown = schema
  while (
    inner instanceof z.ZodDefault ||
    inner instanceof z.ZodPrefault ||
    inner instanceof z.ZodNullable ||
    inner instanceof z.ZodOptional
  )
    inner = inner.unwrap()
  return inner as z.ZodType
}

export const roleOf = (schema: z.ZodType): Role | undefined => roles.get(schema) ?? roles.get(peel(schema))
export const fieldOf = (schema: z.ZodType): Field | undefined => fields.get(schema)

/** An id, such as `wp_k3v9xq2a`. */
export const id = z.string().regex(/^[a-z]{2}_[A-Za-z0-9]{1,32}$/, 'is not an id such as wp_k3v9xq2a')
export const name = z.string().max(LIMITS.nameLength)
export const text = z.string().max(LIMITS.textLength)
export const metres = z.number().min(-LIMITS.coordinateM).max(LIMITS.coordinateM)
export const length = z.number().min(0).max(LIMITS.coordinateM)
export const positive = z.number().gt(0).max(LIMITS.coordinateM)
export const seconds = z.number().min(0).max(86_400)
export const angle = z.number().min(-100).max(100)
export const flag = (value: boolean) => z.boolean().default(value)
/** SHA-256 of an asset's bytes, as 64 hexadecimal digits. */
export const assetHashSchema = z.string().regex(/^[0-9a-f]{64}$/, 'is not the SHA-256 of an asset')

export const point2 = withRole(z.tuple([metres, metres]), 'point')
export const point3 = withRole(z.tuple([metres, metres, metres]), 'point')
export const ring = withRole(z.array(point2).min(3, 'needs at least three corners').max(10_000), 'ring')
/** An outline that may have fewer corners, where its thing is not told by corners alone. */
export const looseRing = withRole(z.array(point2).max(10_000), 'ring')
/** Places in space in an order of their own. */
export const points3 = withRole(z.array(point3).max(1_000), 'points')
/** A direction on the map, counterclockwise from east, radians. */
export const bearing = withRole(z.number().min(-100).max(100), 'bearing')
/** A height above zero that is not part of a place, metres. */
export const height = withRole(z.number().min(-LIMITS.coordinateM).max(LIMITS.coordinateM), 'height')

export const PLACE: Field = { label: ['east', 'north', 'height'], unit: 'm', step: 0.05, digits: 3 }
export const DEGREES = { unit: '°', times: 180 / Math.PI, step: 1, digits: 0 } as const
/** A direction somebody faces, and how far something is turned, as on a map. */
export const BEARING = { unit: '°', compass: 'bearing', step: 1, digits: 0 } as const
export const TURNED = { unit: '°', compass: 'turn', step: 1, digits: 1 } as const
export const METRES = { unit: 'm', step: 0.05 } as const

/** How fast it may be gone along, where that is limited, metres a second. */
export const speedLimit = field(z.number().gt(0).max(1000).nullable().default(null), {
  label: 'speed limit',
  unit: 'km/h',
  times: 3.6,
  step: 1,
  digits: 1,
  none: 'none',
})

/** How a thing is shown and kept from the hand, the same for every kind. */
export const kept = {
  note: field(text.default(''), { label: 'note', long: true }),
  tags: z.array(name).max(50).default([]),
  locked: flag(false),
  hidden: flag(false),
}
export const tags = z.array(name).max(50).default([])

/**
 * Who may use a thing. Nobody named means everyone, unless it says that nobody may: so it does once the last profile it
 * named has been deleted.
 */
export const restriction = {
  profileIds: z.array(id).max(200).default([]),
  nobody: flag(false),
}
export type Restriction = { readonly profileIds: readonly string[]; readonly nobody: boolean }

/** May everyone use it? */
export const isOpenToAll = ({ profileIds, nobody }: Restriction): boolean => profileIds.length === 0 && !nobody

/** May a profile use it? */
export const admits = (thing: Restriction, profileId: string): boolean =>
  isOpenToAll(thing) || thing.profileIds.includes(profileId)
