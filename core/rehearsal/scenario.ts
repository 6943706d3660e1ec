import { exact } from '@tidytrail/core/geometry'
import type { LegPlanner } from '@tidytrail/core/network'
import {
  briefIdOf,
  briefIdsOf,
  byRank,
  COLLECTIONS,
  eyesOf,
  factionIdOf,
  filledStep,
  newStep,
  stepsOf,
  type Area,
  type Brief,
  type BriefWhen,
  type Fill,
  type Collection,
  type Level,
  type Profile,
  type Spawner,
} from '@tidytrail/core/level'
import { StraightWalker } from '@tidytrail/core/reach'
import { laneForks } from './forks'
import { planFor } from './traffic/lanes'
import { NO_TRAFFIC, type TrafficPlan } from '@tidytrail/core/traffic'
import { BODY_MODELS } from './bodies/list'
import type { BodyModel } from './bodies/body'
import type { Powers } from './course'
import { streamOf, type StreamRow } from './spawning/stream'
import { placesOf, type SpawnPlace } from './spawning/places'
import { areaFor, compileStep, type StepRow } from './steps/list'
import type { WhenRow } from './whens'
import type { Turn } from './world'

/** Most agents alive at once, and most one spawner sends. */
export const MAX_AGENTS = 100_000

/** Collections no step of a brief reads, or of which only those a spawner names are read. */
const BESIDE_BRIEFS: ReadonlySet<Collection> = new Set([
  'spawners',
  'briefs',
  'profiles',
  'solids',
  'meshes',
  'underlays',
  'covers',
  'passages',
  'reachAreas',
  'waivers',
])

/** Steps for which it has to be known where others are. */
const ABOUT_OTHERS: ReadonlySet<StepRow['kind']> = new Set(['guard', 'chase', 'search', 'shadow'])

/** A profile made ready: what moves it, what it can do, and the ways over its reach. */
export interface ProfileRow {
  readonly id: string
  readonly profile: Profile
  readonly planner: LegPlanner
  readonly walker: StraightWalker
  readonly body: BodyModel
  readonly powers: Powers
  readonly gaitMps: number
  readonly eyeM: number
  /** The cosine of how far to either side it sees. */
  readonly sightCos: number
}

/** One of those a spawner sends: its body, whose side it is on, and what it is told. */
export interface Variant {
  readonly profile: number
  readonly faction: string | null
  readonly briefId: string | null
  readonly steps: readonly StepRow[]
  readonly whens: readonly WhenRow[]
  /** Has it anything to do with others, so that it has to be remembered where they were? */
  readonly remembers: boolean
}

/** A spawner made ready. */
export interface SpawnRow {
  readonly id: string
  readonly name: string
  readonly calls: string
  /** Those it sends, and how often each. */
  readonly variants: readonly Variant[]
  readonly weights: readonly number[]
  /** Where they appear: places in turn or at random by weight, or somewhere in an area. */
  readonly places: readonly SpawnPlace[]
  readonly random: boolean
  readonly spotWeights: readonly number[]
  readonly area: Area | undefined
  /** How many in all, or how many it keeps. */
  readonly count: number
  readonly keeps: boolean
  readonly mostAlive: number
  readonly atOnce: number
  readonly begins: Spawner['begins']
  readonly triggerArea: Area | undefined
  readonly triggerFaction: string | null
  /** The number of the spawner it waits for; −1 for any. */
  readonly trigger: number
  readonly firstAfterS: number
  readonly everyS: number
  readonly spreadS: number
  readonly untilS: number
  readonly beyondM: number
  readonly unseen: boolean
  readonly standIn: boolean
  /** The lane it sends a stream onto; one row each where there are several. */
  readonly stream: StreamRow | undefined
}

/** Numbers for ids, that stay the same while a level is edited: the columns of a world hold them. */
export class Register {
  private readonly byId = new Map<string, number>()
  readonly ids: string[] = []

  of(id: string): number {
    let n = this.byId.get(id)
    if (n === undefined) {
      n = this.ids.length
      this.byId.set(id, n)
      this.ids.push(id)
    }
    return n
  }
}

export interface Registers {
  readonly profiles: Register
  readonly spawners: Register
  readonly routes: Register
  readonly posts: Register
  readonly signals: Register
  /** Lanes, the ways between them, and ways through junctions. */
  readonly pieces: Register
}

export const freshRegisters = (): Registers => ({
  profiles: new Register(),
  spawners: new Register(),
  routes: new Register(),
  posts: new Register(),
  signals: new Register(),
  pieces: new Register(),
})

/** All that a run reads. Never changed: an edited level is compiled anew, and parts that are the same stay the same. */
export interface Scenario {
  readonly level: Level
  readonly stepS: number
  /** By their numbers in the registers; undefined where the level no longer has one, or nobody of it can be placed. */
  readonly profiles: readonly (ProfileRow | undefined)[]
  readonly spawners: readonly (SpawnRow | undefined)[]
  /** Spawners in the order they send. */
  readonly order: readonly number[]
  /** Is anybody told of anything that may interrupt, or of others? */
  readonly interrupts: boolean
  /** Where those of some factions are to keep out; of none named everyone. */
  readonly keptOut: readonly { readonly area: Area; readonly factionIds: readonly string[] }[]
  /** Half the width of the widest body, metres. */
  readonly widestM: number
  /** Has the level covers at all, and so a reason to look at one? */
  readonly covered: boolean
  /** Of each lane by its number, the ways that part at each of its stops: none where it is no fork. */
  readonly forks: ReadonlyMap<number, readonly (readonly Turn[])[]>
  /** The lanes and junctions as those go by who drive along them. */
  readonly traffic: TrafficPlan
  /** Rows of lanes that have been turned into, by the row of the step that led there; made when first asked for. */
  readonly turned: Map<StepRow, Map<number, StepRow>>
}

/**
 * Makes a level ready to be rehearsed.
 * @param plannerFor gives the ways over the reach map of a profile, or undefined when nobody of it can be placed
 * @param before what was compiled of it before an edit: rows whose source is the same are kept
 */
export function compileScenario(
  level: Level,
  plannerFor: (profileId: string) => LegPlanner | undefined,
  registers: Registers,
  before?: Scenario,
): Scenario {
  const profiles: (ProfileRow | undefined)[] = registers.profiles.ids.map(() => undefined)
  for (const id of Object.keys(level.profiles).sort()) {
    const planner = plannerFor(id)
    if (!planner) continue
    const k = registers.profiles.of(id)
    const known = before?.profiles[k]
    const profile = level.profiles[id]
    profiles[k] = known?.profile === profile && known.planner === planner ? known : profileRow(id, profile, planner)
  }
  const spawners: (SpawnRow | undefined)[] = registers.spawners.ids.map(() => undefined)
  const order: number[] = []
  const traffic = profiles.some((p) => p?.body.keepsLane) ? planFor(level, registers) : NO_TRAFFIC
  const asBefore = before && COLLECTIONS.every((c) => BESIDE_BRIEFS.has(c) || before.level[c] === level[c])
  for (const id of Object.keys(level.spawners).sort()) {
    const spawner = level.spawners[id]
    const profile = spawner.profileId ? registers.profiles.of(spawner.profileId) : -1
    const row = profiles[profile]
    if (!row) continue
    const k = registers.spawners.of(id)
    const known = before?.spawners[k]
    if (spawner.where === 'lanes') {
      // A row for each lane, so that each has its own times and its own queue; the first stands for the spawner.
      const sources = spawner.laneIds.filter((laneId) => traffic.net.lanes.has(laneId))
      sources.forEach((laneId, nth) => {
        const q = nth === 0 ? k : registers.spawners.of(`${id} ${laneId}`)
        const made = spawnRow(level, id, spawner, profiles, registers, {
          laneId,
          nth,
          of: sources.length,
          rows: sources.map((l, i) => (i === 0 ? k : registers.spawners.of(`${id} ${l}`))),
        })
        const was = before?.spawners[q]
        spawners[q] = was && sameRow(was, made) ? was : made
        order.push(q)
      })
      continue
    }
    if (
      known &&
      asBefore &&
      before.level.spawners[id] === spawner &&
      sameTold(before.level, level, spawner) &&
      known.variants.every((v) => before.profiles[v.profile] === profiles[v.profile])
    ) {
      spawners[k] = known
      order.push(k)
      continue
    }
    const made = spawnRow(level, id, spawner, profiles, registers)
    spawners[k] = known && sameRow(known, made) ? known : made
    order.push(k)
  }
  // Those that look out for players come after these.
  const shy = (k: number) => (spawners[k]!.unseen || spawners[k]!.beyondM > 0 ? 1 : 0)
  order.sort((a, b) => shy(a) - shy(b))
  return {
    level,
    stepS: 1 / level.settings.stepsPerSecond,
    profiles,
    spawners,
    order,
    keptOut: Object.keys(level.zones)
      .sort()
      .filter((id) => level.zones[id].purpose === 'keep-out')
      .flatMap((id) => {
        const area = areaFor(level, id)
        return area ? [{ area, factionIds: level.zones[id].factionIds }] : []
      }),
    widestM: Math.max(0, ...profiles.map((p) => p?.profile.radiusM ?? 0)),
    interrupts: order.some((k) => spawners[k]!.variants.some((v) => v.remembers)),
    covered: byRank(level.covers).length > 0,
    forks: laneForks(level, registers),
    traffic,
    turned: new Map(),
  }
}

function profileRow(id: string, profile: Profile, planner: LegPlanner): ProfileRow {
  const body = BODY_MODELS.find((b) => b.medium === profile.medium)!
  return {
    id,
    profile,
    planner,
    walker: new StraightWalker(planner.map),
    body,
    powers: body.powers(profile),
    gaitMps: profile.gaits[profile.gait] ?? Object.values(profile.gaits)[0],
    eyeM: eyesOf(profile),
    sightCos: exact.cos(profile.sightRad / 2),
  }
}

/** Are the briefs somebody is told by, and the squad, the very same as before? */
const sameTold = (before: Level, level: Level, spawner: Spawner): boolean =>
  before.squads[spawner.squadId ?? ''] === level.squads[spawner.squadId ?? ''] &&
  briefIdsOf(level, spawner).every((b) => before.briefs[b] === level.briefs[b])

function spawnRow(
  level: Level,
  id: string,
  spawner: Spawner,
  profiles: readonly (ProfileRow | undefined)[],
  registers: Registers,
  source?: Pick<StreamRow, 'laneId' | 'nth' | 'of' | 'rows'>,
): SpawnRow {
  const zoneId = level.squads[spawner.squadId ?? '']?.zoneId ?? null
  const own = {
    profileId: spawner.profileId!,
    factionId: factionIdOf(level, spawner),
    briefId: briefIdOf(level, spawner),
  }
  const variant = (profileId: string, factionId: string | null, briefId: string | null): Variant | undefined => {
    const profile = registers.profiles.of(profileId)
    const row = profiles[profile]
    if (!row) return undefined
    const brief = level.briefs[briefId ?? '']
    const told = brief
      ? stepsFor(level, brief, row, profiles, registers, zoneId, spawner.fills)
      : { steps: source ? [alongLane(level, row, registers, source.laneId)] : [], whens: [] }
    const remembers = told.whens.length > 0 || told.steps.some((s) => ABOUT_OTHERS.has(s.kind))
    return { profile, faction: factionId, briefId: brief ? briefId : null, ...told, remembers }
  }
  const mixed = spawner.mix.flatMap((m) => {
    const made = variant(m.profileId ?? own.profileId, m.factionId ?? own.factionId, m.briefId ?? own.briefId)
    return made && m.weight > 0 ? [{ made, weight: m.weight }] : []
  })
  const all = [{ made: variant(own.profileId, own.factionId, own.briefId)!, weight: spawner.weight }, ...mixed]
  const { planner } = profiles[all[0].made.profile]!
  const trigger = spawner.triggerSpawnerId
  return {
    id,
    name: spawner.name,
    calls: spawner.calls,
    variants: all.map((v) => v.made),
    weights: all.map((v) => v.weight),
    places: placesOf(level, spawner, planner),
    random: spawner.where === 'spots' && spawner.pick === 'random',
    spotWeights: spawner.weights,
    area: spawner.where === 'area' ? areaFor(level, spawner.zoneId) : undefined,
    count: spawner.alive === 'fill' ? Math.max(0, spawner.count - level.settings.players) : spawner.count,
    keeps: spawner.alive === 'keep',
    mostAlive: spawner.mostAlive ?? Infinity,
    atOnce: spawner.atOnce,
    begins: spawner.begins,
    triggerArea: areaFor(level, spawner.triggerZoneId),
    triggerFaction: spawner.triggerFactionId,
    trigger: trigger === null ? -1 : registers.spawners.of(trigger),
    firstAfterS: spawner.firstAfterS,
    everyS: spawner.everyS,
    spreadS: spawner.spreadS,
    untilS: spawner.untilS ?? Infinity,
    beyondM: spawner.beyondM ?? 0,
    unseen: spawner.unseen,
    standIn: spawner.standIn,
    stream: source && { ...source, ...streamOf(spawner, registers, source.laneId) },
  }
}

/** What those of a stream do who are told nothing else: they drive along their lane. */
const alongLane = (level: Level, profile: ProfileRow, registers: Registers, laneId: string): StepRow =>
  compileStep({ level, registers, zoneId: null, profile }, newStep('follow-route', { routeId: laneId }))

/** The steps of a brief and its standing sentences, in order; what is done in something boarded with the body of that. */
function stepsFor(
  level: Level,
  brief: Brief,
  profile: ProfileRow,
  profiles: readonly (ProfileRow | undefined)[],
  registers: Registers,
  zoneId: string | null,
  fills: readonly Fill[],
): Pick<Variant, 'steps' | 'whens'> {
  const context = { level, registers, zoneId }
  let body = profile
  const steps = stepsOf(brief).map((id) => {
    const step = filledStep(brief.steps[id], fills)
    const row = compileStep({ ...context, profile: body }, step)
    if (step.kind === 'board') {
      const vehicle = level.spawners[step.spawnerId ?? '']?.profileId
      body = (vehicle && profiles[registers.profiles.of(vehicle)]) || body
    } else if (step.kind === 'get-out') body = profile
    return row
  })
  const whens = brief.whens.map((when): WhenRow => {
    const told = stepsOf(brief, when.id).map((id) =>
      compileStep({ ...context, profile }, filledStep(brief.steps[id], fills)),
    )
    return whenRow(level, when, told, registers)
  })
  return { steps, whens }
}

function whenRow(level: Level, when: BriefWhen, steps: readonly StepRow[], registers: Registers): WhenRow {
  const told = when as {
    readonly whom?: WhenRow['whom']
    readonly withinM?: number | null
    readonly forS?: number
    readonly afterS?: number
    readonly spawnerId?: string | null
    readonly zoneId?: string | null
    readonly signalId?: string | null
  }
  const { spawnerId } = told
  return {
    source: when,
    kind: when.kind,
    after: when.after,
    // Time that has passed has passed for good.
    once: when.once || when.kind === 'time',
    whom: told.whom ?? 'anyone',
    withinM: told.withinM ?? Infinity,
    s: told.forS ?? told.afterS ?? 0,
    spawner: spawnerId ? registers.spawners.of(spawnerId) : -1,
    area: areaFor(level, told.zoneId ?? null),
    signal: told.signalId ? registers.signals.of(told.signalId) : -1,
    steps,
  }
}

/** Parts of rows that are only the same when they are the very same object. */
const WHOLE: ReadonlySet<string> = new Set(['route', 'area', 'triggerArea', 'source'])

/** Do two rows say the same, what they name being the very same objects? */
function same(p: unknown, q: unknown, key = ''): boolean {
  if (p === q) return true
  if (WHOLE.has(key) || typeof p !== 'object' || typeof q !== 'object' || p === null || q === null) return false
  if (Array.isArray(p)) return Array.isArray(q) && p.length === q.length && p.every((v, i) => same(v, q[i]))
  const keys = Object.keys(q)
  return (
    keys.length === Object.keys(p).length &&
    keys.every((k) => same((p as Record<string, unknown>)[k], (q as Record<string, unknown>)[k], k))
  )
}

const sameRow = (a: SpawnRow, b: SpawnRow): boolean => same(a, b)

/** Do two rows of a step say the same, their routes being the very same objects? */
export const sameStep = (a: StepRow, b: StepRow): boolean => same(a, b)
