import { z } from 'zod'
import { field, flag, kept, length, METRES, name, positive } from '../../fields'
import { LIMITS } from '../../limits'
import { ruled } from '../../rules'
import { defineKind } from '../kind'
import { BODIES } from './bodies/list'
import type { Body } from './body'

type BodyOf = (typeof BODIES)[number]
export type Medium = BodyOf['medium']
export const MEDIA = BODIES.map((b) => b.medium) as [Medium, ...Medium[]]

const byMedium = new Map<string, Body>(BODIES.map((b) => [b.medium, b]))

/** What a body that gets about in a medium can do. */
export const bodyOf = (medium: string): Body => byMedium.get(medium)!

const only = (can: (body: Body) => boolean) => ({ when: (p: { medium: string }) => can(bodyOf(p.medium)) })
const size = { ...METRES, step: 0.01 }
const DEG = 180 / Math.PI

export const profileSchema = z.strictObject({
  name,
  medium: field(z.enum(MEDIA).default('foot'), {
    label: 'gets about',
    words: Object.fromEntries(BODIES.map((b) => [b.medium, b.word])),
  }),
  radiusM: field(positive.max(LIMITS.bodyRadiusM), { ...size, label: 'radius' }),
  heightM: field(positive.max(LIMITS.bodyHeightM), { ...size, label: 'height' }),
  stepM: field(length, { ...size, label: 'step', ...only((b) => b.stands) }),
  /** Highest jump up, deepest drop down and widest gap jumped, metres; 0 for none. */
  climbM: field(length.default(0), { ...size, label: 'jumps up', ...only((b) => b.jumps) }),
  dropM: field(length.default(0), { ...size, label: 'drops down', ...only((b) => b.jumps) }),
  jumpM: field(length.default(0), { ...size, label: 'jumps over', ...only((b) => b.jumps) }),
  /** Deepest water a body that walks or rolls may stand in, metres. */
  maxWaterDepthM: field(length.default(0), { ...size, label: 'wades to', ...only((b) => b.stands) }),
  /** Water a body that floats needs below its surface, metres. */
  draughtM: field(length.default(0), { ...size, label: 'draws', ...only((b) => b.floats) }),
  /** Lowest and highest a flyer's underside may be above what is below it, metres. */
  minAltitudeM: field(length.default(2), { ...size, label: 'flies above', ...only((b) => b.flies) }),
  maxAltitudeM: field(length.default(30), { ...size, label: 'flies below', ...only((b) => b.flies) }),
  maxSlopeRad: field(
    z
      .number()
      .min(0)
      .max(Math.PI / 2),
    { label: 'slope up to', unit: '°', times: DEG, step: 0.5, digits: 1, ...only((b) => b.stands) },
  ),
  accelMps2: field(positive.default(2), { label: 'acceleration', unit: 'm/s²', step: 0.05 }),
  brakeMps2: field(positive.nullable().default(null), {
    label: 'braking',
    unit: 'm/s²',
    step: 0.05,
    none: 'as it speeds up',
  }),
  /** Greatest acceleration sideways, in bends. */
  gripMps2: field(positive.nullable().default(null), {
    label: 'holds in bends',
    unit: 'm/s²',
    step: 0.1,
    none: 'as it speeds up',
  }),
  turnRateRadps: field(positive.default(4), { label: 'turns', unit: '°/s', times: DEG, step: 1, digits: 0 }),
  /** Radius of the smallest circle it turns in, metres; 0 when only its turning rate says. */
  turnM: field(length.default(0), { ...size, label: 'turning circle', ...only((b) => !b.turnsOnTheSpot) }),
  /** What it keeps in front when it stands behind others in a lane, and the time it keeps to them under way. */
  keepsM: field(length.default(2), {
    ...METRES,
    step: 0.1,
    label: 'keeps in front',
    ...only((b) => !b.turnsOnTheSpot && b.stands),
  }),
  headwayS: field(positive.max(60).default(1.1), {
    label: 'keeps behind others',
    unit: 's',
    step: 0.1,
    ...only((b) => !b.turnsOnTheSpot && b.stands),
  }),
  /** Changes lanes in traffic where it gets on better beside; for the sake of its way it always does. */
  changesLanes: field(flag(true), {
    label: 'changes lanes to get on better',
    ...only((b) => !b.turnsOnTheSpot && b.stands),
  }),
  /** Speed below which it cannot keep itself up, metres a second: it circles instead of standing still. */
  slowestMps: field(z.number().min(0).max(100).default(0), {
    label: 'no slower than',
    unit: 'm/s',
    step: 0.1,
    ...only((b) => b.flies),
  }),
  climbMps: field(positive.default(2), { label: 'climbs', unit: 'm/s', step: 0.1, ...only((b) => b.flies) }),
  /** Time a boat takes to answer its helm, seconds. */
  yawS: field(positive.max(60).default(1), {
    label: 'answers its helm in',
    unit: 's',
    step: 0.1,
    ...only((b) => b.floats),
  }),
  /** How far it sees, within which angle, and from what height; how far it hears somebody who walks. */
  sightM: field(z.number().min(0).max(1000).default(25), { ...METRES, label: 'sees', step: 0.5 }),
  sightRad: field(
    z
      .number()
      .min(0)
      .max(2 * Math.PI)
      .default(2.094),
    { label: 'within', unit: '°', times: DEG, step: 1, digits: 0 },
  ),
  eyeM: field(length.nullable().default(null), { ...size, label: 'eyes at', none: 'near its top' }),
  hearsM: field(z.number().min(0).max(1000).default(10), { ...METRES, label: 'hears a walker within', step: 0.5 }),
  /** Speed of each gait, metres a second. */
  gaits: ruled(z.record(name, z.number().gt(0).max(100)), (g) =>
    Object.keys(g).length > 0 ? undefined : 'needs at least one gait',
  ),
  gait: name,
  ...kept,
})
export type Profile = z.output<typeof profileSchema>

/** Share of a body's height its eyes are at, and its head is looked for at. */
export const HEAD = 0.92

/** How high above its feet a body sees from, metres. */
export const eyesOf = (p: Pick<Profile, 'eyeM' | 'heightM'>): number => p.eyeM ?? HEAD * p.heightM

export const profile = defineKind({ in: 'profiles', prefix: 'pf', word: 'profile', schema: profileSchema })
