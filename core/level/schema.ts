/** The level document, version 1. Metres, seconds and radians throughout; x east, y north, z up. */
import { z } from 'zod'

export const LEVEL_FORMAT = 'tidytrail-level'
export const LEVEL_VERSION = 1

/** Greatest numbers of things in one level. */
export const LIMITS = {
  waypoints: 200_000,
  things: 50_000,
  spawnCount: 5_000,
  textLength: 4_000,
  nameLength: 200,
  coordinateM: 100_000,
  heightSamples: 16_000_000,
  /** Shortest and longest side of a sheet, metres, and how often the one may go into the other. */
  shortestSideM: 1,
  longestSideM: 20_000,
  sideRatio: 1_000,
  /** Columns a reach map of the whole sheet may have: the browser would run out of memory with more. */
  columns: 60_000_000,
  /** Half the width and the height of the largest body, metres. */
  bodyRadiusM: 50,
  bodyHeightM: 500,
} as const

const id = z.string().regex(/^[a-z]{2}_[A-Za-z0-9]{1,32}$/, 'is not an id such as wp_k3v9xq2a')
const name = z.string().max(LIMITS.nameLength)
const text = z.string().max(LIMITS.textLength)
const metres = z.number().min(-LIMITS.coordinateM).max(LIMITS.coordinateM)
const length = z.number().min(0).max(LIMITS.coordinateM)
const positive = z.number().gt(0).max(LIMITS.coordinateM)
const seconds = z.number().min(0).max(86_400)
const angle = z.number().min(-100).max(100)
const tags = z.array(name).max(50).default([])
/** SHA-256 of an asset's bytes, as 64 hexadecimal digits. */
export const assetHashSchema = z.string().regex(/^[0-9a-f]{64}$/, 'is not the SHA-256 of an asset')
const point2 = z.tuple([metres, metres])
const point3 = z.tuple([metres, metres, metres])
const ring = z.array(point2).min(3, 'needs at least three corners').max(10_000)
const flag = (value: boolean) => z.boolean().default(value)

/** A rule over a whole value: why it is broken, or undefined when it holds. */
export type Rule = (value: never) => string | undefined

const rules = new WeakMap<z.ZodType, readonly Rule[]>()

/** The rules a schema was given by `ruled`, so that they can be looked at without reading all that the value holds. */
export const rulesOf = (schema: z.ZodType): readonly Rule[] => rules.get(schema) ?? []

/** A schema whose values also keep some rules that look at more than one of their parts. */
function ruled<S extends z.ZodType>(schema: S, ...all: ((value: z.output<S>) => string | undefined)[]): S {
  const whole = schema.superRefine((value, context) => {
    for (const rule of all) {
      const why = rule(value)
      if (why !== undefined) context.addIssue({ code: 'custom', message: why })
    }
  })
  rules.set(whole, all as unknown as Rule[])
  return whole
}

/** How a thing is shown and kept from the hand, the same for every kind. */
const kept = { note: text.default(''), tags, locked: flag(false), hidden: flag(false) }

export const waypointSchema = z.strictObject({
  name: name.default(''),
  at: point3,
  /** Height above the floor it belongs to, kept when it is settled. */
  liftM: metres.default(0),
  markerId: id.nullable().default(null),
  tags,
})

export const linkSchema = z.strictObject({
  fromId: id,
  toId: id,
  twoWay: flag(true),
  /** How much dearer than its length it is to whoever looks for the shortest way. */
  costFactor: z.number().gt(0).max(1000).default(1),
  /** Of those who come to a fork, the part that takes this link, beside the parts of the others. */
  share: z.number().min(0).max(1000).default(1),
  tags,
})

export const stopSchema = z.strictObject({
  waypointId: id,
  /** A fixed pause has equal ends; otherwise each visit draws one from between. */
  pause: z.strictObject({ minS: seconds, maxS: seconds }).default({ minS: 0, maxS: 0 }),
  /** Share of the visits that pause at all, 0 to 1. */
  pauseShare: z.number().min(0).max(1).default(1),
  facingRad: angle.nullable().default(null),
  /** Directions between which somebody who pauses here looks around. */
  look: z.strictObject({ fromRad: angle, toRad: angle }).nullable().default(null),
  gait: name.nullable().default(null),
  arrivalRadiusM: positive.nullable().default(null),
  /** What the game is to do here, and a note for those who write the game. */
  action: text.default(''),
  note: text.default(''),
  /** A smooth route keeps its corner here. */
  sharp: flag(false),
  tags,
})

export const ROUTE_KINDS = ['patrol', 'lane', 'circuit', 'mission', 'network'] as const
export const TRAVEL_MODES = ['one-way', 'round', 'there-and-back', 'any-order'] as const

export const ROUTE_COLOURS = ['rust', 'lake', 'plum', 'ochre', 'pine', 'ink'] as const
export const ROUTE_PATTERNS = ['unbroken', 'dashes', 'dots', 'dash-dot'] as const

export const routeSchema = z.strictObject({
  name,
  kind: z.enum(ROUTE_KINDS).default('patrol'),
  travel: z.enum(TRAVEL_MODES).default('one-way'),
  legs: z.enum(['found', 'drawn']).default('found'),
  curve: z.enum(['straight', 'smooth']).default('straight'),
  /** How taut a smooth line is: 0 as round as it gets, 1 straight. */
  tension: z.number().min(0).max(1).default(0),
  widthM: length.default(0),
  speedLimitMps: z.number().gt(0).max(1000).nullable().default(null),
  /** How it is drawn; null as its kind is. */
  colour: z.enum(ROUTE_COLOURS).nullable().default(null),
  pattern: z.enum(ROUTE_PATTERNS).nullable().default(null),
  /** Who may use it; empty for everyone. */
  profileIds: z.array(id).max(200).default([]),
  stops: z.record(id, stopSchema),
  order: z.array(id).max(LIMITS.waypoints),
  linkIds: z.array(id).max(LIMITS.waypoints).default([]),
  ...kept,
})

export const zoneSchema = z.strictObject({
  name,
  purpose: z.enum(['wander', 'guard', 'hold', 'start', 'contest']).default('wander'),
  ring,
  ...kept,
})

export const postSchema = z.strictObject({
  name,
  at: point3,
  facingRad: angle.default(0),
  zoneId: id.nullable().default(null),
  ...kept,
})

export const MEDIA = ['foot', 'wheels', 'water', 'air', 'amphibious'] as const

export const profileSchema = z.strictObject({
  name,
  medium: z.enum(MEDIA).default('foot'),
  radiusM: positive.max(LIMITS.bodyRadiusM),
  heightM: positive.max(LIMITS.bodyHeightM),
  stepM: length,
  maxSlopeRad: z
    .number()
    .min(0)
    .max(Math.PI / 2),
  /** Highest jump up, deepest drop down and widest gap jumped, metres; 0 for none. */
  climbM: length.default(0),
  dropM: length.default(0),
  jumpM: length.default(0),
  /** Deepest water a body that walks or rolls may stand in, metres. */
  maxWaterDepthM: length.default(0),
  /** Water a body that floats needs below its surface, metres. */
  draughtM: length.default(0),
  /** Lowest and highest a flyer's underside may be above what is below it, metres. */
  minAltitudeM: length.default(2),
  maxAltitudeM: length.default(30),
  /** Speed of each gait, metres a second. */
  gaits: ruled(z.record(name, z.number().gt(0).max(100)), (g) =>
    Object.keys(g).length > 0 ? undefined : 'needs at least one gait',
  ),
  gait: name,
  accelMps2: positive.default(2),
  turnRateRadps: positive.default(4),
  ...kept,
})

export const factionSchema = z.strictObject({
  name,
  hostileTo: z.array(id).max(200).default([]),
  pattern: z.enum(['plain', 'striped', 'dotted', 'ringed']).default('plain'),
  ...kept,
})

export const spawnerSchema = z.strictObject({
  name,
  at: point3,
  facingRad: angle.default(0),
  profileId: id.nullable(),
  factionId: id.nullable().default(null),
  briefId: id.nullable().default(null),
  count: z.number().int().min(1).max(LIMITS.spawnCount).default(1),
  firstAfterS: seconds.default(0),
  everyS: seconds.default(2),
  ...kept,
})

export const briefStepSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('follow-route'), routeId: id.nullable(), gait: name.nullable().default(null) }),
  z.strictObject({ kind: z.literal('pause'), forS: seconds }),
])

export const briefSchema = z.strictObject({
  name,
  steps: z.record(id, briefStepSchema),
  order: z.array(id).max(1000),
  ...kept,
})

const standing = {
  name,
  /** Height of the underside, metres. */
  baseM: metres,
  heightM: positive,
  /** May agents stand on its top? */
  walkable: flag(false),
  blocksSight: flag(true),
  ...kept,
}

export const solidSchema = z.discriminatedUnion('shape', [
  z.strictObject({
    shape: z.literal('box'),
    at: point2,
    sizeX: positive,
    sizeY: positive,
    turnRad: angle.default(0),
    ...standing,
  }),
  z.strictObject({ shape: z.literal('cylinder'), at: point2, radiusM: positive, ...standing }),
  z.strictObject({ shape: z.literal('prism'), ring, ...standing }),
  /** A wedge that rises along its own x axis, from its underside to its full height. */
  z.strictObject({
    shape: z.literal('ramp'),
    at: point2,
    sizeX: positive,
    sizeY: positive,
    turnRad: angle.default(0),
    ...standing,
  }),
  /** A flight of equal steps that rises along its own x axis; solid down to its underside. */
  z.strictObject({
    shape: z.literal('stairs'),
    at: point2,
    sizeX: positive,
    sizeY: positive,
    turnRad: angle.default(0),
    steps: z.number().int().min(1).max(500).default(10),
    ...standing,
  }),
])

/** Imported geometry: triangles kept as an asset, and where they stand. */
export const meshSchema = z.strictObject({
  name,
  assetId: assetHashSchema,
  at: point3,
  turnRad: angle.default(0),
  scale: z.number().gt(0).max(10_000).default(1),
  walkable: flag(true),
  blocksSight: flag(true),
  ...kept,
})

/** A picture laid under the map to trace. */
export const underlaySchema = z.strictObject({
  name,
  assetId: assetHashSchema,
  /** Where its lower left corner lies. */
  at: point2,
  metresPerPixel: z.number().gt(0).max(10_000),
  turnRad: angle.default(0),
  opacity: z.number().min(0).max(1).default(0.6),
  ...kept,
})

/** Kinds of cover the program knows; any other word is a kind of the user's own. */
export const COVER_KINDS = ['road', 'pavement', 'grass', 'mud', 'water', 'off-limits'] as const

export const coverSchema = z.strictObject({
  name,
  kind: name.min(1, 'is empty'),
  ring,
  speedFactor: z.number().gt(0).max(10).default(1),
  grip: z.number().gt(0).max(2).default(1),
  /** Who may use it; empty for everyone, or for nobody where it is off limits. */
  profileIds: z.array(id).max(200).default([]),
  ...kept,
})

export const PASSAGE_KINDS = ['jump', 'drop', 'ladder', 'door', 'lift', 'portal', 'ford'] as const
export const PASSAGE_STATES = ['open', 'closed', 'locked'] as const

export const passageSchema = z.strictObject({
  name,
  kind: z.enum(PASSAGE_KINDS),
  /** A closed one opens to whoever comes; a locked one to nobody until what `opensWhen` says has happened. */
  state: z.enum(PASSAGE_STATES).default('open'),
  opensWhen: text.default(''),
  /** How far an end may be from the floor it catches, metres. */
  catchM: z.number().min(0.05).max(10).default(0.6),
  from: point3,
  to: point3,
  twoWay: flag(true),
  profileIds: z.array(id).max(200).default([]),
  takesS: seconds.default(1),
  ...kept,
})

export const junctionSchema = z.strictObject({
  name,
  ring,
  laneIds: z.array(id).max(1000).default([]),
  control: z.enum(['none', 'give-way', 'stop', 'signals']).default('none'),
  ...kept,
})

export const markerSchema = z.strictObject({ name, at: point3, kind: name.default('place'), ...kept })

export const reachAreaSchema = z.strictObject({ name, ring, profileIds: z.array(id).max(200), ...kept })

/** A finding someone has looked at and accepts. */
export const waiverSchema = z.strictObject({
  check: z.string().max(100),
  subjects: z.array(id).max(50),
  reason: text.min(1),
})

const limitPair = (remark: number, fail: number) =>
  z.strictObject({ remark: z.number().min(0), fail: z.number().min(0) }).default({ remark, fail })

/** Has a sheet a shape that can be drawn, printed and surveyed? */
function extentFault(e: { minX: number; minY: number; maxX: number; maxY: number }): string | undefined {
  const width = e.maxX - e.minX
  const depth = e.maxY - e.minY
  if (!(width > 0 && depth > 0)) return 'is empty'
  const short = Math.min(width, depth)
  const long = Math.max(width, depth)
  const size = `is ${+width.toFixed(3)} × ${+depth.toFixed(3)} m`
  if (short < LIMITS.shortestSideM) return `${size}; each side must have at least ${LIMITS.shortestSideM} m`
  if (long > LIMITS.longestSideM) return `${size}; a side may have at most ${LIMITS.longestSideM / 1000} km`
  if (long > short * LIMITS.sideRatio) return `${size}; one side may be at most ${LIMITS.sideRatio} times the other`
  return undefined
}

interface SheetSize {
  extent: { minX: number; minY: number; maxX: number; maxY: number }
  cellM: number
}

/** Columns of a reach map of a whole sheet. */
export const columnsOf = ({ extent, cellM }: SheetSize): number =>
  Math.ceil((extent.maxX - extent.minX) / cellM) * Math.ceil((extent.maxY - extent.minY) / cellM)

function columnsFault(settings: SheetSize): string | undefined {
  const columns = columnsOf(settings)
  if (columns <= LIMITS.columns) return undefined
  const { extent } = settings
  const least = Math.sqrt(((extent.maxX - extent.minX) * (extent.maxY - extent.minY)) / LIMITS.columns)
  const million = (n: number) => `${Math.round(n / 1e6).toLocaleString('en')} million`
  return `would have ${million(columns)} reach map columns, and at most ${million(LIMITS.columns)} can be surveyed: make the columns at least ${(Math.ceil(least * 20) / 20).toFixed(2)} m wide, or the sheet smaller`
}

const settingsParts = z.strictObject({
  extent: ruled(z.strictObject({ minX: metres, minY: metres, maxX: metres, maxY: metres }), extentFault),
  gridM: positive.max(1000).default(1),
  snap: flag(true),
  /** Width of a reach map column, metres. */
  cellM: z.number().min(0.1).max(4).default(0.25),
  stepsPerSecond: z.number().int().min(5).max(240).default(30),
  seed: z.number().int().min(0).max(0x7fffffff).default(1),
  rehearseS: seconds.min(1).max(7200).default(240),
  drivesOn: z.enum(['left', 'right']).default('left'),
  waterLevelM: metres.nullable().default(null),
  /** What a verdict turns on. */
  limits: z
    .object({
      crossTrackM: limitPair(0.5, 2),
      stuckS: limitPair(3, 10),
      lateShare: limitPair(0.25, 1),
    })
    .prefault({}),
})
export const settingsSchema = ruled(settingsParts, columnsFault)

export const groundSchema = z.strictObject({
  /** Height where no sample lies, metres. */
  baseM: metres.default(0),
  heights: ruled(
    z.strictObject({
      originX: metres,
      originY: metres,
      spacingM: positive,
      /** South to north, each row west to east, metres. Empty when the samples are those of an asset. */
      rows: z.array(z.array(metres).min(2)),
      assetId: assetHashSchema.nullable().default(null),
      /** With an asset: rows changed since, by their number from the south, such as `r17`. */
      changed: z.record(z.string().regex(/^r\d{1,5}$/), z.array(metres).min(2)).default({}),
    }),
    (h) => (h.assetId !== null || h.rows.length >= 2 ? undefined : 'needs at least two rows of samples'),
    (h) => (h.rows.every((r) => r.length === h.rows[0].length) ? undefined : 'has rows of different lengths'),
    (h) => (h.rows.length * (h.rows[0]?.length ?? 0) <= LIMITS.heightSamples ? undefined : 'has too many samples'),
  )
    .nullable()
    .default(null),
})

export const levelSchema = z.strictObject({
  format: z.literal(LEVEL_FORMAT),
  version: z.literal(LEVEL_VERSION),
  name: name.min(1, 'is empty'),
  note: text.default(''),
  settings: settingsSchema,
  ground: groundSchema.prefault({}),
  solids: z.record(id, solidSchema).default({}),
  meshes: z.record(id, meshSchema).default({}),
  underlays: z.record(id, underlaySchema).default({}),
  covers: z.record(id, coverSchema).default({}),
  reachAreas: z.record(id, reachAreaSchema).default({}),
  profiles: z.record(id, profileSchema).default({}),
  passages: z.record(id, passageSchema).default({}),
  waypoints: z.record(id, waypointSchema).default({}),
  links: z.record(id, linkSchema).default({}),
  routes: z.record(id, routeSchema).default({}),
  junctions: z.record(id, junctionSchema).default({}),
  markers: z.record(id, markerSchema).default({}),
  zones: z.record(id, zoneSchema).default({}),
  posts: z.record(id, postSchema).default({}),
  factions: z.record(id, factionSchema).default({}),
  briefs: z.record(id, briefSchema).default({}),
  spawners: z.record(id, spawnerSchema).default({}),
  waivers: z.record(id, waiverSchema).default({}),
})

export type Level = z.output<typeof levelSchema>
export type LevelInput = z.input<typeof levelSchema>
export type Settings = Level['settings']
export type Ground = Level['ground']
export type Solid = z.output<typeof solidSchema>
export type Mesh = z.output<typeof meshSchema>
export type Underlay = z.output<typeof underlaySchema>
export type Cover = z.output<typeof coverSchema>
export type ReachArea = z.output<typeof reachAreaSchema>
export type Passage = z.output<typeof passageSchema>
export type Medium = (typeof MEDIA)[number]
export type Profile = z.output<typeof profileSchema>
export type Waypoint = z.output<typeof waypointSchema>
export type Route = z.output<typeof routeSchema>
export type Link = z.output<typeof linkSchema>
export type Marker = z.output<typeof markerSchema>
export type Zone = z.output<typeof zoneSchema>
export type RouteKind = (typeof ROUTE_KINDS)[number]
export type Stop = z.output<typeof stopSchema>
export type Spawner = z.output<typeof spawnerSchema>
export type Brief = z.output<typeof briefSchema>
export type BriefStep = z.output<typeof briefStepSchema>
export type Waiver = z.output<typeof waiverSchema>
export type TravelMode = (typeof TRAVEL_MODES)[number]
