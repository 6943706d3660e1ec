import type { Collection } from '@tidytrail/core/level'
import type { Relation } from '@tidytrail/core/survey'

/** What a look may have read beside places: a change in none of these leaves it as true as it was. */
export type Source = Relation | 'reach' | 'settings' | Collection

const sets = new Map<string, SourceSet>()

/** A set of sources. There is one object for each set, so that thousands of looks share the few there are. */
export class SourceSet {
  static readonly NONE = new SourceSet([])
  private readonly larger = new Map<Source, SourceSet>()
  private stale: ReadonlySet<Source> | undefined
  private meeting = false

  private constructor(private readonly sources: readonly Source[]) {}

  /** The set with one more. */
  with(source: Source): SourceSet {
    let set = this.larger.get(source)
    if (!set) this.larger.set(source, (set = this.sources.includes(source) ? this : setOf([...this.sources, source])))
    return set
  }

  /** The set with all of another. */
  and(other: SourceSet): SourceSet {
    return other.sources.reduce((set: SourceSet, source) => set.with(source), this)
  }

  /** Is any of it stale? Asked again about the same sources it answers at once. */
  meets(stale: ReadonlySet<Source>): boolean {
    if (this.stale !== stale) {
      this.stale = stale
      this.meeting = this.sources.some((source) => stale.has(source))
    }
    return this.meeting
  }

  static of(sources: readonly Source[]): SourceSet {
    const sorted = [...sources].sort()
    const key = sorted.join()
    let set = sets.get(key)
    if (!set) sets.set(key, (set = new SourceSet(sorted)))
    return set
  }
}

const setOf = (sources: readonly Source[]) => SourceSet.of(sources)
