import { exact, type Point3 } from '@tidytrail/core/geometry'
import type { LegPlanner } from '@tidytrail/core/network'
import {
  byRank,
  COLLECTIONS,
  eyesOf,
  type Brief,
  type Collection,
  type Level,
  type Profile,
} from '@tidytrail/core/level'
import { StraightWalker } from '@tidytrail/core/reach'
import { laneForks } from './forks'
import { BODY_MODELS } from './bodies/list'
import type { BodyModel } from './bodies/body'
import type { Powers } from './course'
import { compileStep, type StepRow } from './steps/list'
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

/** A spawner made ready. */
export interface SpawnRow {
  readonly id: string
  readonly name: string
  readonly at: Point3
  readonly facingRad: number
  readonly profile: number
  readonly faction: string | null
  readonly briefId: string | null
  readonly steps: readonly StepRow[]
  readonly count: number
  readonly firstAfterS: number
  readonly everyS: number
  readonly standIn: boolean
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
}

export const freshRegisters = (): Registers => ({
  profiles: new Register(),
  spawners: new Register(),
  routes: new Register(),
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
  /** Has the level covers at all, and so a reason to look at one? */
  readonly covered: boolean
  /** Of each lane by its number, the ways that part at each of its stops: none where it is no fork. */
  readonly forks: ReadonlyMap<number, readonly (readonly Turn[])[]>
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
  const asBefore = before && COLLECTIONS.every((c) => BESIDE_BRIEFS.has(c) || before.level[c] === level[c])
  for (const id of Object.keys(level.spawners).sort()) {
    const spawner = level.spawners[id]
    const profile = spawner.profileId ? registers.profiles.of(spawner.profileId) : -1
    const row = profiles[profile]
    if (!row) continue
    const k = registers.spawners.of(id)
    const brief = spawner.briefId ? level.briefs[spawner.briefId] : undefined
    const known = before?.spawners[k]
    if (
      known &&
      asBefore &&
      before.level.spawners[id] === spawner &&
      before.level.briefs[spawner.briefId ?? ''] === brief &&
      before.profiles[profile] === row
    ) {
      spawners[k] = known
      order.push(k)
      continue
    }
    const made: SpawnRow = {
      id,
      name: spawner.name,
      at: spawner.at,
      facingRad: spawner.facingRad,
      profile,
      faction: spawner.factionId,
      briefId: brief ? spawner.briefId : null,
      steps: brief ? stepsOf(level, brief, row, registers) : [],
      count: spawner.count,
      firstAfterS: spawner.firstAfterS,
      everyS: spawner.everyS,
      standIn: spawner.standIn,
    }
    spawners[k] = known && sameRow(known, made) ? known : made
    order.push(k)
  }
  return {
    level,
    stepS: 1 / level.settings.stepsPerSecond,
    profiles,
    spawners,
    order,
    covered: byRank(level.covers).length > 0,
    forks: laneForks(level, registers),
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

/** The steps of a brief, in order; the same objects as long as nothing they name has changed. */
function stepsOf(level: Level, brief: Brief, profile: ProfileRow, registers: Registers): readonly StepRow[] {
  return brief.order.map((id) => compileStep(level, brief.steps[id], profile, registers))
}

function sameRow(a: SpawnRow, b: SpawnRow): boolean {
  const keys = Object.keys(b) as (keyof SpawnRow)[]
  return keys.every((k) =>
    k === 'steps'
      ? a.steps.length === b.steps.length && a.steps.every((s, i) => sameStep(s, b.steps[i]))
      : a[k] === b[k],
  )
}

/** Do two rows of a step say the same, their routes being the very same objects? */
export function sameStep(a: StepRow, b: StepRow): boolean {
  if (a === b) return true
  const keys = Object.keys(b) as (keyof StepRow)[]
  const same = (p: unknown, q: unknown) =>
    p === q || (Array.isArray(p) && Array.isArray(q) && p.length === q.length && p.every((v, i) => v === q[i]))
  return keys.length === Object.keys(a).length && keys.every((k) => same(a[k], b[k]))
}
