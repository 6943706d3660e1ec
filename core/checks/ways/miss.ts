import { distance2, distanceToSegment, mix3, toMillimetre, type Point2, type Point3 } from '@tidytrail/core/geometry'
import { bodyOf, passageSchema, type Passage, type Profile } from '@tidytrail/core/level'
import { beyondProfile, mayPass } from '@tidytrail/core/reach'
import type { Look } from '../check'
import { derivedId } from '../derived-id'
import type { Fix } from '../fix'
import { metres } from '../words'
import { rampUp } from './ramp'
import { narrowest } from './squeeze'

/** What parts two places, in words, and what would join them. */
export interface Miss {
  readonly words: string
  readonly ways: readonly Fix[]
}

/** Two places a profile can be at, that nothing joins for it. */
export interface Parted {
  readonly profileId: string
  readonly from: Point3
  readonly to: Point3
  /** Who could be given another profile: the spawners that are to go there. */
  readonly spawnerIds: readonly string[]
  /** Where it is that one cannot get on; what would help is wanted there. */
  readonly near: Point3
  /** Things that are to get from one to the other, or to be got to. */
  readonly things: readonly {
    readonly in: 'waypoints' | 'spawners' | 'markers' | 'posts'
    readonly id: string
    readonly at: Point3
  }[]
  /** The route, where its legs are walked exactly as drawn: then ways have to be found, for others to be of use. */
  readonly drawnRouteId?: string
  /** Ids of things that are made begin like this. */
  readonly key: readonly string[]
}

/** Nobody is made to step or climb higher than this by a fix of their profile, metres. */
const HIGHEST_STEP_M = 1.2
/** Ladders span no more than this over the map, metres. */
const LADDER_M = 3
const LEVEL_M = 0.02
const PASSAGE_NAMES: Partial<Record<Passage['kind'], string>> = { jump: 'Jump', ladder: 'Ladder', lift: 'Lift' }

/** The nearest miss between two places that nothing joins, and the ways to mend it. None of them has been tried. */
export function nearestMiss(look: Look, parted: Parted): Miss {
  const { profileId, from, to } = parted
  const nothing = { words: 'nothing joins the two sides', ways: otherProfiles(look, parted) }
  const a = look.reach.island(profileId, from)
  const b = look.reach.island(profileId, to)
  const profile = look.level.thing('profiles', profileId)
  if (a === undefined || b === undefined || a === b || !profile) return nothing
  const shut = shutPassage(look, parted, profile, a, b)
  if (shut) return { words: shut.words, ways: [shut.fix, ...otherProfiles(look, parted)] }
  const gap = look.reach.gap(profileId, a, b, parted.near)
  if (!gap) return nothing
  const ways = [...passages(look, parted, profile, gap)]
  const stands = bodyOf(profile.medium).stands
  if (stands && Math.abs(gap.riseM) <= profile.stepM) {
    const tight = tightGap(look, gap, profile)
    if (tight) {
      const radiusM = Math.floor((tight.widthM / 2 - 0.005) * 100) / 100
      const slimmer = setFigure(profileId, profile, { radiusM }, `${metres(radiusM)} in radius`)
      return {
        words: `the gap between ${tight.between} is ${metres(tight.widthM)}; ${profile.name} needs ${metres(2 * profile.radiusM)}`,
        ways: [...otherProfiles(look, parted), ...(radiusM >= 0.1 ? [slimmer] : [])],
      }
    }
  }
  const rise = Math.abs(gap.riseM)
  if (!stands || rise <= Math.max(profile.stepM, LEVEL_M)) {
    const words = `${nothing.words}; where they come nearest they are ${metres(gap.widthM)} apart`
    return { words, ways: [...ways, ...otherProfiles(look, parted)] }
  }
  const up = gap.riseM > 0
  const high = up ? gap.toAt : gap.fromAt
  const top = topOf(look, high)
  const words = `${up ? 'up onto' : 'down from'} ${top?.name ?? 'the ground'} it is ${metres(rise)}, and ${profile.name} steps ${metres(profile.stepM)}`
  const ramp = rampUp(look, profile, up ? gap.fromAt : gap.toAt, high)
  if (ramp)
    ways.push(addOne(ramp.label, 'solids', derivedId('sd', ...parted.key, 'r'), ramp.thing, parted.drawnRouteId))
  if (top?.lower && rise - profile.stepM < top.heightM - 0.05) {
    const heightM = Math.floor((top.heightM - (rise - profile.stepM)) * 100) / 100
    const label = `Lower ${top.name} to ${metres(heightM)}`
    // What lies on it comes down with it.
    const onTop = parted.things.filter(
      ({ at }) => topOf(look, at)?.id === top.id && Math.abs(at[2] - high[2]) < LEVEL_M,
    )
    const set = onTop.map(({ in: collection, id, at: [x, y, z] }) => ({
      in: collection,
      id,
      set: { at: [x, y, toMillimetre(z - top.heightM + heightM)] },
    }))
    ways.push({
      label,
      edit: 'addAndSet',
      args: { label, add: [], set: [{ in: 'solids', id: top.id, set: { heightM } }, ...set] },
    })
  }
  ways.push(...otherProfiles(look, parted))
  const stepM = Math.ceil(rise * 100 - 1e-6) / 100
  if (stepM <= HIGHEST_STEP_M && bodyOf(profile.medium).jumps)
    ways.push(setFigure(profileId, profile, { stepM }, `step ${metres(stepM)}`))
  return { words, ways }
}

interface Gap {
  readonly fromAt: Point3
  readonly toAt: Point3
  readonly widthM: number
  readonly riseM: number
}

const setFigure = (profileId: string, profile: Profile, change: Partial<Profile>, words: string): Fix => ({
  label: `Let ${profile.name} ${words.startsWith('step') ? words : `be ${words}`}`,
  edit: 'changeThings',
  args: { in: 'profiles', changes: { [profileId]: change } },
})

/** Adds a thing; ways are then found where so far legs are walked as drawn. */
function addOne(
  label: string,
  collection: 'passages' | 'solids',
  id: string,
  thing: unknown,
  drawnRouteId?: string,
): Fix {
  const set = drawnRouteId ? [{ in: 'routes' as const, id: drawnRouteId, set: { legs: 'found' } }] : []
  return { label, edit: 'addAndSet', args: { label, add: [{ in: collection, id, thing }], set } }
}

/** A jump, ladder or lift where two islands come nearest: what the body can use, both ways. */
function* passages(look: Look, { key, drawnRouteId }: Parted, profile: Profile, gap: Gap): Generator<Fix> {
  const round = (p: Point3): [number, number, number] => [toMillimetre(p[0]), toMillimetre(p[1]), toMillimetre(p[2])]
  const make = (kind: Passage['kind'], takesS: number, what: string): Fix => {
    const top = topOf(look, gap.riseM > 0 ? gap.toAt : gap.fromAt)
    const label = `Put a ${what} there`
    const name = `${PASSAGE_NAMES[kind]}${top ? ` to ${top.name}` : ''}`.slice(0, 80)
    const thing = passageSchema.parse({
      name,
      kind,
      takesS,
      twoWay: true,
      from: round(gap.fromAt),
      to: round(gap.toAt),
    })
    return addOne(label, 'passages', derivedId('pg', ...key, kind[0]), thing, drawnRouteId)
  }
  const rise = Math.abs(gap.riseM)
  const { jumps, stands } = bodyOf(profile.medium)
  if (!stands) return
  if (jumps && !beyondProfile({ kind: 'jump', from: gap.fromAt, to: gap.toAt, twoWay: true }, profile))
    yield make('jump', 0.8, 'jump')
  if (rise <= Math.max(profile.stepM, LEVEL_M)) return
  if (gap.widthM >= LADDER_M) return
  if (jumps) yield make('ladder', Math.max(1, Math.round(rise * 20) / 10), `ladder of ${metres(rise)}`)
  else yield make('lift', Math.round(10 + rise), `lift of ${metres(rise)}`)
}

/** A passage that leads from one side to the other and is locked, or for others only. */
function shutPassage(look: Look, { profileId }: Parted, profile: Profile, a: number, b: number) {
  const all = look.level.all('passages')
  for (const id of Object.keys(all).sort()) {
    const passage = all[id]
    const open: Passage = { ...passage, state: 'open', profileIds: [], nobody: false }
    if (mayPass(passage, profileId, profile) || !mayPass(open, profileId, profile)) continue
    if (beyondProfile(passage, profile)) continue
    const ends = [passage.from, passage.to].map((at) => look.reach.caught(profileId, at, passage.catchM))
    const [from, to] = ends.map((end) => (end?.spot ? look.reach.island(profileId, end.at) : undefined))
    if (!((from === a && to === b) || (passage.twoWay && from === b && to === a))) continue
    const name = passage.name || `a ${passage.kind}`
    const locked = passage.state === 'locked'
    const admitted = mayPass({ ...passage, state: 'open' }, profileId, profile)
    const change: Partial<Passage> = {
      ...(locked ? { state: 'open' as const } : {}),
      ...(admitted ? {} : { profileIds: [...passage.profileIds, profileId], nobody: false }),
    }
    const fix: Fix = {
      label: locked ? `Unlock ${name}` : `Let ${profile.name} through ${name}`,
      edit: 'changeThings',
      args: { in: 'passages', changes: { [id]: change } },
    }
    return { words: locked ? `${name} is locked` : `${name} is not for ${profile.name}`, fix }
  }
  return undefined
}

/** The profiles that somebody in the level has and that can go where this one cannot. */
function otherProfiles(look: Look, { profileId, from, to, spawnerIds }: Parted): Fix[] {
  if (spawnerIds.length === 0) return []
  const profiles = look.level.all('profiles')
  return Object.keys(profiles)
    .filter((id) => id !== profileId && look.reach.path(id, from, to, 'found')?.found)
    .sort()
    .map((id) => ({
      label: `Send ${profiles[id].name} instead`,
      edit: 'changeThings' as const,
      args: {
        in: 'spawners' as const,
        changes: Object.fromEntries(spawnerIds.map((s) => [s, { profileId: id }])),
      },
    }))
}

/** What a place high up is on top of; undefined for the ground. */
function topOf(look: Look, [x, y, z]: Point3) {
  const floors = look.ground.floors(x, y)
  const floor = floors.reduce((best, f) => (Math.abs(f.z - z) < Math.abs(best.z - z) ? f : best))
  const surface = look.ground.surface(floor.surface)
  if (!surface) return undefined
  const solid = look.level.thing('solids', surface.id)
  return {
    id: surface.id,
    name: surface.name || 'the solid',
    heightM: solid?.heightM ?? 0,
    lower: solid !== undefined && ['box', 'cylinder', 'prism'].includes(solid.shape),
  }
}

/** The gap between two solids that the body does not fit through, where two islands come nearest. */
function tightGap(look: Look, { fromAt, toAt }: Gap, profile: Profile) {
  const wantedM = 2 * profile.radiusM
  const at = mix3(fromAt, toAt, 0.5)
  const around = wantedM + distance2(fromAt, toAt)
  const box = { minX: at[0] - around, minY: at[1] - around, maxX: at[0] + around, maxY: at[1] + around }
  const near = look.ground.solidsIn(box).filter((s) => s.topM > fromAt[2] + profile.stepM)
  const squeeze = near.length < 2 ? undefined : narrowest([fromAt, toAt], near, profile, wantedM)
  if (!squeeze) return undefined
  // Measured straight across; the sides may come nearer to each other at a corner.
  const [p, q] = squeeze.sides.map(({ ring }) =>
    ring
      .map((from, k): [Point2, Point2] => [from, ring[(k + 1) % ring.length]])
      .filter((side) => toSide(squeeze.at, side) <= wantedM),
  )
  const widthM = Math.min(squeeze.widthM, ...p.flatMap((one) => q.map((other) => between(one, other))))
  return widthM > 0.01 ? { ...squeeze, widthM } : undefined
}

const toSide = ([x, y]: readonly number[], [a, b]: readonly [Point2, Point2]) =>
  distanceToSegment(x, y, a[0], a[1], b[0], b[1])

/** Distance of two segments that do not cross. */
const between = (p: readonly [Point2, Point2], q: readonly [Point2, Point2]) =>
  Math.min(toSide(p[0], q), toSide(p[1], q), toSide(q[0], p), toSide(q[1], p))
