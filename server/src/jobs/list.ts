import { rehearseSeed } from './kinds/seeds'

/** How a part of each kind of job is done: a file a kind, a line here. */
export const JOB_KINDS = {
  seeds: rehearseSeed,
} as const
export type JobKind = keyof typeof JOB_KINDS
