import type { Box2 } from '@tidytrail/core/geometry'
import { COLLECTIONS, type Collection } from '@tidytrail/core/level'
import { CHECKS } from './all'
import { Look, type Check, type CheckView, type Source } from './check'
import { SEVERITIES, type Finding } from './finding'
import { RELATIONS } from './relations'

interface Kept {
  readonly look: Look
  readonly findings: readonly Finding[]
}

/** What is known of one check. */
interface State {
  readonly kept: Map<string, Kept>
  /** Things with findings, so that gathering them does not mean going through all. */
  readonly found: Set<string>
  /** Where any of its looks looked. */
  readonly sources: Set<Source>
  /** Did any of its looks look at places? */
  places: boolean
}

type Things = Record<string, unknown>

/** Ids of a collection's things that may have changed; undefined when nobody knows. */
export type Touched = (collection: Collection) => readonly string[] | undefined

/** Runs all checks, and after an edit again only those that saw something that changed. */
export class CheckRunner {
  private readonly states = new Map<Check, State>()
  private before: CheckView | undefined

  constructor(private readonly checks: readonly Check[] = CHECKS) {}

  /**
   * All findings that are not waived, gravest first.
   * @param changed where the terrain or a reach map changed since the last run
   * @param touched the things that may have changed, where that is known; otherwise collections are compared
   */
  run(view: CheckView, changed: readonly Box2[] | 'everywhere', touched?: Touched): Finding[] {
    const stale = this.staleSources(view, changed)
    const diffs = new Map<Collection, readonly string[]>()
    const findings: Finding[] = []
    for (const check of this.checks) {
      let state = this.states.get(check)
      if (!state)
        this.states.set(check, (state = { kept: new Map(), found: new Set(), sources: new Set(), places: false }))
      let ids = diffs.get(check.each)
      if (!ids) {
        const known = this.before && touched?.(check.each)
        ids = known ?? changedIds(this.before?.level[check.each], view.level[check.each])
        diffs.set(check.each, ids)
      }
      this.refresh(check, state, view, ids, stale, changed)
      for (const id of state.found) findings.push(...state.kept.get(id)!.findings)
    }
    this.before = view
    const waived = new Set(Object.values(view.level.waivers).map((w) => `${w.check} ${w.subjects.join(' ')}`))
    return findings.filter((f) => !waived.has(`${f.check} ${f.subjects.join(' ')}`)).sort(byGravity)
  }

  /** The sources that are no longer what they were at the last run. */
  private staleSources(view: CheckView, changed: readonly Box2[] | 'everywhere'): Set<Source> {
    const old = this.before
    const stale = new Set<Source>(COLLECTIONS.filter((c) => old?.level[c] !== view.level[c]))
    for (const r of RELATIONS) if (old?.relations[r] !== view.relations[r]) stale.add(r)
    if (old?.level.settings !== view.level.settings) stale.add('settings')
    if (
      changed === 'everywhere' ||
      changed.length > 0 ||
      stale.has('profiles') ||
      stale.has('spawners') ||
      stale.has('passages')
    )
      stale.add('reach')
    return stale
  }

  private refresh(
    check: Check,
    state: State,
    view: CheckView,
    ids: readonly string[],
    stale: ReadonlySet<Source>,
    changed: readonly Box2[] | 'everywhere',
  ): void {
    const things = view.level[check.each] as Things
    const again = new Set(ids)
    const asked = [...state.sources].some((s) => stale.has(s))
    if (asked || (state.places && (changed === 'everywhere' || changed.length > 0))) {
      for (const [id, { look }] of state.kept) {
        if (again.has(id)) continue
        if (look.saw(changed) || (asked && overlap(look.sources, stale) && !look.stillReads(view, stale))) again.add(id)
      }
    }
    for (const id of again) {
      state.found.delete(id)
      if (!Object.hasOwn(things, id)) {
        state.kept.delete(id)
        continue
      }
      const look = new Look(view, id)
      const { id: name, severity, stage } = check
      const findings = check.run(look, id).map((f): Finding => ({ check: name, severity, stage, ...f }))
      state.kept.set(id, { look, findings })
      for (const source of look.sources) state.sources.add(source)
      state.places ||= look.places
      if (findings.length > 0) state.found.add(id)
    }
  }
}

function overlap(a: ReadonlySet<Source>, b: ReadonlySet<Source>): boolean {
  for (const source of a) if (b.has(source)) return true
  return false
}

/** Ids that are new, gone or no longer the same object. */
function changedIds(before: Things | undefined, after: Things): string[] {
  if (before === after) return []
  const ids: string[] = []
  for (const id in after) if (before?.[id] !== after[id]) ids.push(id)
  for (const id in before) if (!Object.hasOwn(after, id)) ids.push(id)
  return ids
}

function byGravity(a: Finding, b: Finding): number {
  const graver = SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity)
  if (graver !== 0) return graver
  const ka = `${a.check} ${a.subjects.join(' ')}`
  const kb = `${b.check} ${b.subjects.join(' ')}`
  return ka < kb ? -1 : ka > kb ? 1 : 0
}
