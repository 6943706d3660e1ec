import type { Box2 } from '@tidytrail/core/geometry'
import { COLLECTIONS, sameValue, type Collection } from '@tidytrail/core/level'
import { RELATIONS, type SurveyView, type Touched } from '@tidytrail/core/survey'
import { CHECKS } from './all'
import type { Check } from './check'
import { Look } from './look/look'
import { Notes } from './look/notes'
import { SourceSet, type Source } from './look/sources'
import { keyOf, SEVERITIES, type Finding } from './finding'

interface Kept {
  readonly notes: Notes
  readonly findings: readonly Finding[]
}

/** What is known of one check. */
interface State {
  readonly kept: Map<string, Kept>
  /** Things with findings, so that gathering them does not mean going through all. */
  readonly found: Set<string>
  /** Where any of its looks looked. */
  sources: SourceSet
  /** Which of its things looked at a single thing of another kind or at a neighbour, by that thing's id. */
  readonly readers: Map<string, string | Set<string>>
  /** Did any of its looks look at places? */
  places: boolean
}

type Things = Record<string, unknown>

/** Runs all checks, and after an edit again only those that saw something that changed. */
export class CheckRunner {
  private readonly states = new Map<Check, State>()
  private before: SurveyView | undefined

  constructor(private readonly checks: readonly Check[] = CHECKS) {}

  /**
   * All findings that are not waived, gravest first.
   * @param changed where the terrain or a reach map changed since the last run
   * @param touched the things that may have changed, where that is known; otherwise collections are compared
   */
  run(view: SurveyView, changed: readonly Box2[] | 'everywhere', touched?: Touched): Finding[] {
    const stale = this.staleSources(view, changed)
    const diffs = new Map<Collection, readonly string[]>()
    const idsOf = (collection: Collection): readonly string[] => {
      let ids = diffs.get(collection)
      if (!ids) {
        const known = this.before && touched?.(collection)
        ids = known ?? changedIds(this.before?.level[collection], view.level[collection])
        diffs.set(collection, ids)
      }
      return ids
    }
    // What no check has seen yet nobody has read yet.
    const altered = this.before
      ? COLLECTIONS.flatMap((c) => (this.before!.level[c] === view.level[c] ? [] : idsOf(c)))
      : []
    const findings: Finding[] = []
    for (const check of this.checks) {
      let state = this.states.get(check)
      if (!state)
        this.states.set(
          check,
          (state = { kept: new Map(), found: new Set(), sources: SourceSet.NONE, readers: new Map(), places: false }),
        )
      this.refresh(check, state, view, idsOf(check.each), altered, stale, changed)
      for (const id of state.found) findings.push(...state.kept.get(id)!.findings)
    }
    this.before = view
    const waived = new Set(Object.values(view.level.waivers).map(keyOf))
    return findings
      .map((finding) => ({ finding, key: keyOf(finding) }))
      .filter(({ key }) => !waived.has(key))
      .sort(byGravity)
      .map(({ finding }) => finding)
  }

  /** The sources that are no longer what they were at the last run. */
  private staleSources(view: SurveyView, changed: readonly Box2[] | 'everywhere'): ReadonlySet<Source> {
    const old = this.before
    const other = COLLECTIONS.filter((c) => old?.level[c] !== view.level[c])
    const stale: Source[] = [...other, ...RELATIONS.filter((r) => old?.relations[r] !== view.relations[r])]
    if (old?.level.settings !== view.level.settings) stale.push('settings')
    const moved = changed === 'everywhere' || changed.length > 0
    if (moved || other.some((c) => c === 'profiles' || c === 'spawners' || c === 'passages')) stale.push('reach')
    return new Set(stale)
  }

  private refresh(
    check: Check,
    state: State,
    view: SurveyView,
    ids: readonly string[],
    altered: readonly string[],
    stale: ReadonlySet<Source>,
    changed: readonly Box2[] | 'everywhere',
  ): void {
    const things = view.level[check.each] as Things
    const again = new Set(ids)
    for (const id of altered) {
      const readers = state.readers.get(id)
      if (typeof readers === 'string') again.add(readers)
      else if (readers) for (const reader of readers) again.add(reader)
    }
    const asked = state.sources.meets(stale)
    if (asked || (state.places && (changed === 'everywhere' || changed.length > 0))) {
      for (const [id, { notes }] of state.kept) {
        if (again.has(id)) continue
        if (notes.saw(changed) || (asked && !notes.stillReads(view, stale))) again.add(id)
      }
    }
    for (const id of again) {
      state.found.delete(id)
      if (!Object.hasOwn(things, id)) {
        state.kept.delete(id)
        continue
      }
      const notes = new Notes(view, id)
      const { id: name, severity, stage } = check
      const findings = check.run(new Look(notes), id).map((f): Finding => ({ check: name, severity, stage, ...f }))
      const before = state.kept.get(id)?.findings
      // What comes out as it was stays the same objects: who is told of findings need only be told of others.
      state.kept.set(id, { notes, findings: before && sameValue(before, findings) ? before : findings })
      state.sources = state.sources.and(notes.sources)
      for (const read of notes.things ?? []) addReader(state.readers, read, id)
      state.places ||= notes.places
      if (findings.length > 0) state.found.add(id)
    }
  }
}

function addReader(readers: State['readers'], read: string, id: string): void {
  const known = readers.get(read)
  if (known === undefined) readers.set(read, id)
  else if (typeof known !== 'string') known.add(id)
  else if (known !== id) readers.set(read, new Set([known, id]))
}

/** Ids that are new, gone or no longer the same object. */
function changedIds(before: Things | undefined, after: Things): string[] {
  if (before === after) return []
  const ids: string[] = []
  for (const id in after) if (before?.[id] !== after[id]) ids.push(id)
  for (const id in before) if (!Object.hasOwn(after, id)) ids.push(id)
  return ids
}

function byGravity(a: Keyed, b: Keyed): number {
  const graver = SEVERITIES.indexOf(a.finding.severity) - SEVERITIES.indexOf(b.finding.severity)
  return graver !== 0 ? graver : a.key < b.key ? -1 : a.key > b.key ? 1 : 0
}

interface Keyed {
  readonly finding: Finding
  readonly key: string
}
