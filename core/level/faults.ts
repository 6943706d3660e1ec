/** What is wrong with a value, in plain words: one sentence that can stand behind the name of the place. */
import type { z } from 'zod'
import { LevelError, oneLine } from './error'

type Issue = z.core.$ZodIssue

const figure = (n: number | bigint) => Number(n).toLocaleString('en', { maximumFractionDigits: 3 })

const KIND_OF: Record<string, string> = {
  string: 'text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'yes or no',
  object: 'an object',
  record: 'an object',
  array: 'a list',
  tuple: 'a list',
  nan: 'a number',
}

/** Why a value is refused, without its place. */
export function whyOf(issue: Issue): string {
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined && /received undefined/.test(issue.message)
        ? 'is missing'
        : `must be ${KIND_OF[issue.expected] ?? issue.expected}`
    case 'too_big': {
      const most = figure(issue.maximum)
      if (issue.origin === 'string') return `may have at most ${most} letters`
      if (issue.origin === 'array') return `may hold at most ${most}`
      return issue.inclusive === false ? `must be less than ${most}` : `may be at most ${most}`
    }
    case 'too_small': {
      const least = figure(issue.minimum)
      if (issue.origin === 'string') return issue.minimum === 1 ? 'is empty' : `needs at least ${least} letters`
      if (issue.origin === 'array')
        return issue.message.startsWith('Too small') ? `needs at least ${least}` : issue.message
      return issue.inclusive === false ? `must be more than ${least}` : `must be at least ${least}`
    }
    case 'unrecognized_keys':
      return 'is not known here'
    case 'invalid_key':
      return issue.issues[0] ? whyOf(issue.issues[0]) : 'is not an id'
    case 'invalid_value':
      return `must be one of ${issue.values.map((v) => String(v)).join(', ')}`
    case 'invalid_union':
      return issue.message.startsWith('Invalid discriminator value. Expected ')
        ? `must be one of ${[...issue.message.matchAll(/'([^']*)'/g)].map((m) => m[1]).join(', ')}`
        : 'is none of what may stand here'
    default:
      return issue.message
  }
}

/** A key as it can be told: short, and on one line. */
export const tellable = (key: string): string => oneLine(key.slice(0, 60))

/** The keys that lead to a fault. */
export const keysOf = (issue: Issue): string[] => [
  ...issue.path.map((key) => tellable(String(key))),
  ...(issue.code === 'unrecognized_keys' ? [tellable(issue.keys[0])] : []),
]

/** The first fault of a value as the error that names its place. */
export function errorOf(error: z.ZodError, from: readonly string[] = []): LevelError {
  // Of several faults of one value the last is told: a limit of its own comes after that of its kind, and is narrower.
  const place = (i: Issue) => keysOf(i).join('.')
  const first = place(error.issues[0])
  const issue = error.issues.findLast((i) => place(i) === first)!
  const more = new Set(error.issues.map(place)).size - 1
  const tail = more > 0 ? ` (and ${more} more ${more === 1 ? 'fault' : 'faults'})` : ''
  const keys = [...from, ...keysOf(issue)]
  return new LevelError('not-valid', keys.join('.'), whyOf(issue) + tail, keys)
}
