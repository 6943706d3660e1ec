import type { Level } from '@tidytrail/core/level'
import { trialWords, type TrialResult } from '@tidytrail/core/insight'
import { limitWords, type AgentEvent, type Verdict } from '@tidytrail/core/rehearsal'
import type { Point3 } from '@tidytrail/core/geometry'
import type { Finding, Severity } from './finding'

/** A rule a rehearsal is held against while it runs. */
export interface RunCheck {
  readonly id: string
  readonly stage: 'rehearse'
  readonly severity: Severity
  readonly sentence: string
}

const rule = (id: string, severity: Severity, sentence: string): RunCheck => ({
  id,
  stage: 'rehearse',
  severity,
  sentence,
})

/** What is found by rehearsing: it comes and goes while a rehearsal runs, and points at its moment. */
export const RUN_CHECKS = [
  rule(
    'rehearsal.not-followed',
    'warning',
    'An agent does not follow what it was told to, by the limits of the level.',
  ),
  rule('rehearsal.stuck', 'blocker', 'An agent wanted to get on and could not, and gave up or is still stuck.'),
  rule('rehearsal.overlap', 'warning', 'An agent stood in another one for longer than an instant.'),
  rule(
    'rehearsal.never-arrived',
    'blocker',
    'An agent never came to the first stop it was to make, though there was time.',
  ),
  rule('rehearsal.stale', 'note', 'What was rehearsed is not all of the level as it now is.'),
  rule(
    'rehearsal.never-spawned',
    'blocker',
    'An agent that was to appear never did, for there was no room or a player in the way.',
  ),
  rule('rehearsal.trial-failed', 'warning', 'A trial of the level, a statement that must hold, did not.'),
] as const

/** The trials that failed in a rehearsal, as findings that point at their moment. */
export function findingsOfTrials(level: Level, results: readonly TrialResult[]): RunFinding[] {
  const { id: check, severity } = RUN_CHECKS[6]
  return results.flatMap(({ trialId, holds, words, momentS, at }): RunFinding[] => {
    const trial = level.trials[trialId]
    if (!trial || holds !== false) return []
    const about = [trial.spotId, trial.lineId, trial.zoneId, trial.markerId, trial.spawnerId].filter((s) => s !== null)
    const { extent } = level.settings
    const middle: Point3 = [(extent.minX + extent.maxX) / 2, (extent.minY + extent.maxY) / 2, 0]
    return [
      {
        check,
        stage: 'rehearse',
        severity,
        subjects: [trialId, ...about],
        at: at ?? middle,
        message: `${trial.name ? `${trial.name}: ` : ''}${trialWords(level, trial)} ${words}`,
        moment: momentS ?? 0,
      },
    ]
  })
}

/** A finding of a rehearsal, and the moment it points at, seconds. */
export interface RunFinding extends Finding {
  readonly moment: number
}

/** What is known of a run at the moment that is looked at. */
export interface RunSoFar {
  readonly level: Level
  readonly t: number
  readonly stepS: number
  readonly verdicts: readonly Verdict[]
  readonly events: readonly AgentEvent[]
  /** How often the level was changed while it ran. */
  readonly changes: number
  nameOf(key: number): string | undefined
  /** Where an agent was at a time; undefined when it was not there. */
  placeOf(key: number, t: number): Point3 | undefined
}

/** How long somebody may be under way to a first stop before it counts as never come to, in multiples of what is expected. */
const PATIENCE = 2
/** Who has not come so long after its time is overdue, seconds. */
const OVERDUE_S = 20

/** The findings of a run as it stands, the gravest first. */
export function findingsOfRun(run: RunSoFar): RunFinding[] {
  const findings: RunFinding[] = []
  const step = run.t / run.stepS + 1e-6
  const byAgent = new Map<number, AgentEvent[]>()
  for (const event of run.events) {
    if (event.step > step) break
    const list = byAgent.get(event.key)
    if (list) list.push(event)
    else byAgent.set(event.key, [event])
  }
  const lastOf = (key: number, ...kinds: AgentEvent['kind'][]) =>
    byAgent.get(key)?.findLast((e) => kinds.includes(e.kind))
  const add = (k: number, verdict: Verdict, moment: number, message: string) => {
    const check = RUN_CHECKS[k]
    const spawner = run.level.spawners[verdict.spawnerId]
    const subjects = [verdict.spawnerId, ...(verdict.route && run.level.routes[verdict.route] ? [verdict.route] : [])]
    if (!spawner) return
    const at = run.placeOf(verdict.key, moment) ?? spawner.at
    findings.push({ check: check.id, stage: 'rehearse', severity: check.severity, subjects, at, message, moment })
  }
  const overdue = new Set<string>()
  for (const verdict of run.verdicts) {
    if (verdict.key === 0) {
      // Once for each spawner: of the first that is overdue.
      if (verdict.dueS == null || run.t < verdict.dueS + OVERDUE_S || overdue.has(verdict.spawnerId)) continue
      overdue.add(verdict.spawnerId)
      const s = (run.t - verdict.dueS).toFixed(0)
      const shy = run.level.spawners[verdict.spawnerId]
      const looked = shy && (shy.unseen || shy.beyondM !== null) ? ', or a player is near or could see it' : ''
      add(5, verdict, run.t, `${verdict.name} was to appear ${s} s ago, and has not: there is no room for it${looked}.`)
      continue
    }
    const { key, name } = verdict
    const stuck = lastOf(key, 'stuck')
    const gaveUp = lastOf(key, 'gave-up')
    const freed = lastOf(key, 'free', 'reached')
    if (gaveUp || (stuck && (!freed || freed.step < stuck.step))) {
      const event = gaveUp ?? stuck!
      // What was tried in between may hide who it was that stood in the way.
      const by = byAgent.get(key)?.findLast((e) => e.kind === 'stuck' && e.b > 0 && e.step >= (freed?.step ?? 0))
      const cause = by ?? stuck
      const why = limitWords(cause?.a ?? 0, by ? run.nameOf(by.b) : undefined)
      add(1, verdict, event.step * run.stepS, `${name} ${gaveUp ? 'gave up' : 'gets no farther'}: ${why}.`)
    }
    const into = lastOf(key, 'ran-into')
    if (verdict.overlapS > 0) {
      const whom = (into && run.nameOf(into.a)) ?? 'others'
      const at = into ? into.step * run.stepS : run.t
      add(2, verdict, at, `${name} stood in ${whom} for ${verdict.overlapS.toFixed(1)} s.`)
    }
    if (verdict.verdict !== 'does-not-follow') continue
    const blocked = lastOf(key, 'blocked')
    const late = verdict.stops.made === 0 && verdict.stops.due >= PATIENCE
    // It never set out, for there is no way to where it was to begin; or it has been under way for far too long.
    if (verdict.stops.made === 0 && !stuck && (late || blocked?.b === -1))
      add(
        3,
        verdict,
        blocked ? blocked.step * run.stepS : run.t,
        `${name} never comes to its first stop${blocked ? `: ${verdict.reasons[0]}` : ''}.`,
      )
    else if (!stuck || verdict.reasons.length > 1) {
      const worst = lastOf(key, 'strayed', 'missed', 'orbits') ?? blocked
      add(
        0,
        verdict,
        worst ? worst.step * run.stepS : run.t,
        `${name} does not follow ${verdict.routeName ?? 'its brief'}: ${verdict.reasons[0]}.`,
      )
    }
  }
  if (run.changes > 0) {
    const [first] = run.verdicts
    if (first)
      add(
        4,
        { ...first, route: null },
        0,
        `The level was changed ${run.changes === 1 ? 'once' : `${run.changes} times`} while this ran; what came before is of the level as it was.`,
      )
  }
  const rank = { blocker: 0, warning: 1, note: 2 }
  return findings.sort((a, b) => rank[a.severity] - rank[b.severity])
}
