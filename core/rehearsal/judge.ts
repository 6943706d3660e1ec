import type { Settings } from '@tidytrail/core/level'
import type { Engine, Member } from './engine'
import { CAUSES, type Cause } from './events'
import { optionOf } from './options'
import { nameOf as spawnedName } from './spawn'
import { causeWords } from './words'
import { crossTrack } from './measure'
import type { StepRow } from './steps/list'
import { expectedS } from './travel'
import { STATE } from './world'

export const VERDICTS = ['follows', 'follows-with-remarks', 'does-not-follow', 'not-tried'] as const
export type VerdictWord = (typeof VERDICTS)[number]

/** For one agent: did it follow? Metres and seconds. */
export interface Verdict {
  readonly key: number
  readonly agent: string
  readonly name: string
  readonly spawnerId: string
  readonly route: string | null
  readonly routeName: string | null
  readonly verdict: VerdictWord
  readonly crossTrack: { readonly rms: number; readonly p95: number; readonly max: number }
  /** Stops made, how many were passed by too far off, and how many a traveller without any delay would have made. */
  readonly stops: { readonly made: number; readonly missed: number; readonly due: number }
  /** Time on the way from stop to stop: as it was, less what was lost to others along a lane, and as expected at gait speed. */
  readonly legs: { readonly tookS: number; readonly expectedS: number }
  readonly longestStuckS: number
  readonly overlapS: number
  readonly reasons: readonly string[]
  /** Not tried for it was told to follow no route: it has no brief, or one about other things of which nothing has failed. */
  readonly excused?: boolean
  /** Of one who has not come: when it was to, seconds; null while what it waits for has not happened. */
  readonly dueS?: number | null
}

/** The verdict on every agent as things stand, by the limits of the level; on those who have not come yet too. */
export function judge(engine: Engine): Verdict[] {
  const { world, scenario, members } = engine
  const slots = new Map<number, number>()
  for (let n = 0; n < world.count; n++) if (world.key[n] !== 0) slots.set(world.key[n], n)
  const verdicts: Verdict[] = []
  for (const member of members) {
    const n = slots.get(member.key)
    if (n === undefined) {
      const kept = engine.left.get(member.key)
      if (kept) verdicts.push(kept)
    } else verdicts.push(judgeOne(engine, n, member))
  }
  const seen = new Set(members.map((m) => m.id))
  for (const k of scenario.order) {
    const row = scenario.spawners[k]!
    const [first] = row.variants
    for (let number = 1; number <= Math.min(row.count, 1000); number++) {
      const id = `${row.id}#${number}`
      if (seen.has(id)) continue
      const follow = first.steps.find((s) => s.kind === 'follow-route' && s.route)
      const at = Math.max(world.by.nextAt[k], row.firstAfterS + (number - 1) * row.everyS)
      const begun = world.by.begunAt[k] >= 0
      verdicts.push({
        ...NOTHING_DONE,
        key: 0,
        agent: id,
        name: spawnedName(row, number),
        spawnerId: row.id,
        route: follow?.routeId ?? null,
        routeName: follow?.route?.name ?? null,
        verdict: 'not-tried',
        excused: !first.steps.some((s) => s.kind === 'follow-route'),
        dueS: begun ? at : null,
        reasons: [begun ? `it appears only after ${at.toFixed(1)} s` : 'what it waits for has not happened'],
      })
    }
  }
  return verdicts
}

const NOTHING_DONE = {
  crossTrack: { rms: 0, p95: 0, max: 0 },
  stops: { made: 0, missed: 0, due: 0 },
  legs: { tookS: 0, expectedS: 0 },
  longestStuckS: 0,
  overlapS: 0,
}

/** The verdict on an agent that is there. */
export function judgeOne(
  engine: Engine,
  n: number,
  member: Member = engine.members.find((m) => m.key === engine.world.key[n])!,
): Verdict {
  const { world, scenario } = engine
  const { limits } = scenario.level.settings
  const spawner = scenario.spawners[world.spawner[n]]
  const told = engine.toldOf(n)
  const steps = told?.steps ?? []
  const chosen = (s: StepRow) => s.options[optionOf(engine, n, s, steps.indexOf(s), false, 0)] ?? s
  const follow = steps.map(chosen).find((s) => s.kind === 'follow-route' && s.route)
  const track = crossTrack(world, n)
  const legs = { tookS: world.tookS[n], expectedS: world.expectedS[n] }
  const stuck = world.longestStuckS[n]
  const base = {
    key: member.key,
    agent: member.id,
    name: member.name,
    spawnerId: member.spawnerId,
    route: follow?.routeId ?? null,
    routeName: follow?.route?.name ?? null,
    crossTrack: track,
    stops: { made: world.made[n], missed: world.missed[n], due: stopsDue(engine, n) },
    legs,
    longestStuckS: stuck,
    overlapS: world.overlapS[n],
  }
  if (spawner?.standIn && !follow)
    return { ...base, verdict: 'not-tried', excused: true, reasons: ['it stands in for a player'] }
  const toFollow = steps.find((s) => s.kind === 'follow-route')
  if (!follow) {
    const reasons = [
      told?.briefId == null
        ? 'it has no brief, so nothing to do'
        : toFollow
          ? 'its brief says to follow a route, but none is chosen'
          : 'it has no route to follow',
    ]
    // What it was told instead may have come to nothing: that says more.
    const failed = world.failed[n] > 0 && !toFollow && !WAYS.has(CAUSES[world.failed[n] - 1])
    const why = failed ? whyFailed(engine, n, steps) : reasons
    return { ...base, verdict: 'not-tried', excused: !toFollow && world.failed[n] === 0, reasons: why }
  }
  const { fails, remarks } = weigh(limits, track.p95, stuck, legs)
  fails.unshift(...whyFailed(engine, n, steps))
  const behind = base.stops.due - base.stops.made
  if (behind > 1 && world.failed[n] === 0) fails.push(`${behind} stops behind`)
  if (world.missed[n] > 0)
    fails.push(`passed ${world.missed[n]} ${world.missed[n] === 1 ? 'stop' : 'stops'} too far off`)
  if (world.orbits[n] > 0)
    fails.push(`went round and round a stop ${world.orbits[n] === 1 ? 'once' : `${world.orbits[n]} times`}`)
  if (world.overlapS[n] > 0) fails.push(`ran into others for ${world.overlapS[n].toFixed(1)} s`)
  for (const row of steps)
    if (row.lacksGait) remarks.push('is asked for a gait it does not have, and goes at its usual one')
  const verdict = fails.length > 0 ? 'does-not-follow' : remarks.length > 0 ? 'follows-with-remarks' : 'follows'
  return { ...base, verdict, reasons: [...fails, ...remarks] }
}

/** Causes that are about a way from one place to another. */
const WAYS: ReadonlySet<Cause> = new Set(['start', 'end', 'apart'])

/** Why the brief came to an end, in words. */
function whyFailed(engine: Engine, n: number, steps: readonly StepRow[]): string[] {
  const { world } = engine
  const lost = steps.some((s) => s.kind === 'follow-route' && !s.route)
  if (world.failed[n] === 0) return lost ? ['its brief says to follow a route, but none is chosen'] : []
  const cause = CAUSES[world.failed[n] - 1]
  const { planner } = engine.profileOf(n)
  return [
    causeWords(cause, planner, engine.rowOf(n) ?? steps[0], world.fromStop[n], world.toStop[n], [
      world.x[n],
      world.y[n],
      world.z[n],
    ]),
  ]
}

function weigh(
  limits: Settings['limits'],
  p95M: number,
  stuckS: number,
  legs: Verdict['legs'],
): { fails: string[]; remarks: string[] } {
  const fails: string[] = []
  const remarks: string[] = []
  const hold = (value: number, limit: { remark: number; fail: number }, text: string) => {
    if (value > limit.fail) fails.push(text)
    else if (value > limit.remark) remarks.push(text)
  }
  hold(p95M, limits.crossTrackM, `strays ${p95M.toFixed(2)} m from its line (95th percentile)`)
  hold(stuckS, limits.stuckS, `stuck for ${stuckS.toFixed(1)} s`)
  const late = legs.expectedS > 0 ? legs.tookS / legs.expectedS - 1 : 0
  // On short ways a moment more is nothing.
  if (legs.tookS - legs.expectedS > 2)
    hold(late, limits.lateShare, `takes ${Math.round(late * 100)} % longer than expected at its gait`)
  return { fails, remarks }
}

/** Stops a traveller without any delay would have made by now: those made, and what the leg under way is overdue for. */
function stopsDue(engine: Engine, n: number): number {
  const { world, scenario, t } = engine
  const made = world.made[n]
  const course = world.courses[n]
  if (world.state[n] !== STATE.walking || !course || course.marks.length === 0 || !engine.rowOf(n)?.route) return made
  const slack = 1 + scenario.level.settings.limits.lateShare.remark
  const expected = expectedS(engine, n, course) * slack + 1
  const over = t - world.legSince[n] - expected
  if (over < 0) return made
  const legS = made > 0 ? Math.max(1, (world.expectedS[n] / made) * slack) : expected
  return made + 1 + Math.floor(over / legS)
}
