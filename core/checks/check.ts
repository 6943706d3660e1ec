import type { Collection } from '@tidytrail/core/level'
import type { Finding, Severity, Stage } from './finding'
import type { Look } from './look/look'

export { WATER } from './look/ground'
export type { Look } from './look/look'

/** A rule a level is held against. One file each in `list/`. */
export interface Check {
  readonly id: string
  readonly stage: Stage
  readonly severity: Severity
  /** What the rule is, in a sentence for people. */
  readonly sentence: string
  /** The collection it looks at one thing of at a time. */
  readonly each: Collection
  run(look: Look, id: string): Omit<Finding, 'check' | 'stage' | 'severity'>[]
}
