import type { Collection, Level, ThingOf } from '@tidytrail/core/level'
import type { Notes } from './notes'

/** What is read of the level itself. */
export class LookAtLevel {
  constructor(private readonly notes: Notes) {}

  thing<C extends Collection>(collection: C, id: string): ThingOf<C> | undefined {
    this.notes.noteThing(id)
    return this.notes.view.level[collection][id] as ThingOf<C> | undefined
  }

  /** All things of a collection; the check runs again whenever any of them changes. */
  all<C extends Collection>(collection: C): Level[C] {
    return this.notes.note(collection, (v) => v.level[collection])
  }

  settings(): Level['settings'] {
    return this.notes.note('settings', (v) => v.level.settings)
  }
}
