import type { Point3 } from '@tidytrail/core/geometry'
import type { Fix } from './fix'

export const SEVERITIES = ['blocker', 'warning', 'note'] as const
export type Severity = (typeof SEVERITIES)[number]
export const STAGES = ['ground', 'reach', 'routes', 'cast', 'rehearse', 'sign-off'] as const
export type Stage = (typeof STAGES)[number]

/** What a check says: what is wrong, with which things, where, and what would help. */
export interface Finding {
  readonly check: string
  readonly severity: Severity
  readonly stage: Stage
  /** Ids of the things concerned, the one to mend first. */
  readonly subjects: readonly string[]
  readonly at: Point3
  /** A sentence for people. */
  readonly message: string
  /** The plain way to mend it. Whether it does is known when it has been tried (`waysOut`). */
  readonly fix?: Fix
  /** Other ways out. */
  readonly ways?: readonly Fix[]
}

const keys = new WeakMap<object, string>()

/** What makes a finding the same as another: waivers know it by this. It is put together once for each. */
export function keyOf(f: Pick<Finding, 'check' | 'subjects'>): string {
  let key = keys.get(f)
  if (key === undefined) keys.set(f, (key = `${f.check} ${f.subjects.join(' ')}`))
  return key
}
