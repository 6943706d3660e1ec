import type { Level } from '@tidytrail/core/level'
import { FIELD, FRAME_FIELDS, FRAMES_PER_SECOND, STATES, type Recorded, type Verdict } from '@tidytrail/core/rehearsal'
import type { Finding } from './finding'

/** What is proved of an agent and of the route it follows, in the order of the sheet. */
export const PROOFS = ['connects', 'reachable', 'travels', 'followed', 'pauses', 'stuck', 'overlaps'] as const
export type Proof = (typeof PROOFS)[number]
/** What the level alone proves, and needs no rehearsal. */
export const FROM_CHECKS: ReadonlySet<Proof> = new Set(['connects', 'reachable', 'travels'])

/** One cell of the sheet: is it so, and what says so. */
export interface ProofCell {
  /** undefined where it has not been tried, or there is nothing to prove. */
  readonly holds: boolean | undefined
  readonly words: string
  /** The moment, seconds, or the things to look at. */
  readonly momentS: number | undefined
  readonly subjects: readonly string[]
}

export interface ProofRow {
  readonly id: string
  readonly name: string
  readonly kind: 'route' | 'agent'
  readonly routeId: string | null
  readonly cells: Readonly<Record<Proof, ProofCell>>
}

/** The checks whose findings speak against what the level alone proves, and whom they have to be about. */
const AGAINST: Readonly<Record<'connects' | 'reachable' | 'travels', readonly string[]>> = {
  connects: ['route.leg-blocked', 'route.too-few', 'route.not-closed', 'waypoint.off-reach'],
  reachable: [
    'spawner.off-reach',
    'spawner.inside-solid',
    'spawner.under-ground',
    'reach.islands',
    'brief.unreachable-step',
    'reach.none',
  ],
  travels: ['route.wrong-medium', 'route.gait-missing', 'route.steep', 'route.arrival-orbit', 'reach.narrow'],
}

const yes = (words: string): ProofCell => ({ holds: true, words, momentS: undefined, subjects: [] })
const untried = (words: string): ProofCell => ({ holds: undefined, words, momentS: undefined, subjects: [] })
const no = (words: string, momentS?: number, subjects: readonly string[] = []): ProofCell => ({
  holds: false,
  words,
  momentS,
  subjects,
})

/**
 * The sheet of proofs: every route somebody is told to follow, and under it everybody who is, against what must be so.
 * @param recorded the rehearsal the verdicts are of; undefined where none was run
 */
export function proofSheet(
  level: Level,
  findings: readonly Finding[],
  verdicts: readonly Verdict[],
  recorded: Recorded | undefined,
): ProofRow[] {
  const rows: ProofRow[] = []
  const byRoute = new Map<string, Verdict[]>()
  const loose: Verdict[] = []
  for (const v of verdicts) {
    if (v.route === null || !level.routes[v.route]) {
      if (!v.excused) loose.push(v)
    } else byRoute.set(v.route, [...(byRoute.get(v.route) ?? []), v])
  }
  const checked = (proof: keyof typeof AGAINST, ids: readonly string[], nothing: string): ProofCell => {
    const found = findings.find((f) => AGAINST[proof].includes(f.check) && f.subjects.some((s) => ids.includes(s)))
    return found ? no(found.message, undefined, found.subjects) : yes(nothing)
  }
  const agentRow = (v: Verdict): ProofRow => {
    const ids = [v.spawnerId, ...(v.route ? [v.route, ...level.routes[v.route].order] : [])]
    return {
      id: v.agent,
      name: v.name,
      kind: 'agent',
      routeId: v.route,
      cells: {
        connects: checked('connects', ids, 'every leg of its route can be walked'),
        reachable: checked('reachable', [v.spawnerId], 'it can get to its route from where it appears'),
        travels: checked('travels', ids, 'its body can travel all of it'),
        ...rehearsedCells(v, recorded, level),
      },
    }
  }
  for (const [routeId, list] of [...byRoute].sort(([a], [b]) =>
    level.routes[a].name < level.routes[b].name ? -1 : 1,
  )) {
    const agents = list.map(agentRow)
    rows.push({
      id: routeId,
      name: level.routes[routeId].name,
      kind: 'route',
      routeId,
      cells: Object.fromEntries(
        PROOFS.map((proof) => [proof, together(agents.map((a) => ({ name: a.name, cell: a.cells[proof] })))]),
      ) as ProofRow['cells'],
    })
    rows.push(...agents)
  }
  rows.push(...loose.map(agentRow))
  return rows
}

/** What a rehearsal says of one agent. */
function rehearsedCells(
  v: Verdict,
  recorded: Recorded | undefined,
  level: Level,
): Omit<ProofRow['cells'], 'connects' | 'reachable' | 'travels'> {
  const { stuckS } = level.settings.limits
  if (!recorded || v.key === 0) {
    const cell = untried(recorded ? (v.reasons[0] ?? 'it never appeared') : 'nothing was rehearsed')
    return { followed: cell, pauses: cell, stuck: cell, overlaps: cell }
  }
  const eventAt = (...kinds: string[]) => {
    const event = recorded.events.find((e) => e.key === v.key && kinds.includes(e.kind))
    return event && event.step * recorded.stepS
  }
  return {
    followed:
      v.verdict === 'not-tried'
        ? untried(v.reasons[0] ?? 'it was not tried')
        : v.verdict === 'does-not-follow'
          ? no(v.reasons[0] ?? 'it does not follow', eventAt('blocked', 'stuck', 'strayed', 'missed'))
          : yes(
              `${v.stops.made} stops made, ${v.crossTrack.p95.toFixed(2)} m off its line at most in 95 % of the time`,
            ),
    pauses: pausesKept(recorded, v.key),
    stuck:
      v.longestStuckS > stuckS.remark
        ? no(`stuck for ${v.longestStuckS.toFixed(1)} s`, eventAt('stuck'))
        : yes(`stuck for ${v.longestStuckS.toFixed(1)} s at most`),
    overlaps:
      v.overlapS > 0
        ? no(`stood in others for ${v.overlapS.toFixed(1)} s`, eventAt('ran-into'))
        : yes('never stood in anybody'),
  }
}

const PAUSING = STATES.indexOf('pausing')
/** A pause that is cut short by less than this is kept, seconds. */
const SHORT_S = 0.25

/** Did somebody pause at each stop for as long as was drawn for it? What a standing sentence broke off is not counted. */
function pausesKept({ events, stepS, frame, frameCount }: Recorded, key: number): ProofCell {
  let kept = 0
  for (const e of events) {
    if (e.key !== key || e.kind !== 'reached' || e.b <= 0) continue
    const from = e.step * stepS
    const dueS = e.b / 1000
    const first = Math.ceil(from * FRAMES_PER_SECOND)
    const last = Math.floor((from + dueS - SHORT_S) * FRAMES_PER_SECOND)
    if (last >= frameCount) continue
    const broken = events.some(
      (o) => o.key === key && o.kind === 'interrupted' && o.step * stepS >= from && o.step * stepS <= from + dueS,
    )
    if (broken) continue
    for (let k = first + 1; k <= last; k++) {
      const rows = frame(k)
      for (let r = 0; r < rows.length; r += FRAME_FIELDS)
        if (rows[r] === key && rows[r + FIELD.state] !== PAUSING)
          return no(
            `left stop ${e.a + 1} after ${(k / FRAMES_PER_SECOND - from).toFixed(1)} of ${dueS.toFixed(1)} s`,
            from,
          )
    }
    kept++
  }
  return kept > 0
    ? yes(`${kept} ${kept === 1 ? 'pause' : 'pauses'} kept`)
    : untried('it came to no stop at which it pauses')
}

/** What holds of a route is what holds of everybody on it. */
function together(list: readonly { readonly name: string; readonly cell: ProofCell }[]): ProofCell {
  const failing = list.filter(({ cell }) => cell.holds === false)
  const [first] = failing
  if (first) return { ...first.cell, words: `${failing.length} of ${list.length}: ${first.name}, ${first.cell.words}` }
  const told = list.filter(({ cell }) => cell.holds === true)
  return told.length > 0 ? yes(`all ${told.length}`) : untried(list[0]?.cell.words ?? 'nobody follows it')
}
