import type { Limit } from '@tidytrail/core/rehearsal'

/** What holds somebody back, in a word or two for a table. */
const SHORT: Partial<Record<Limit, string>> = {
  nothing: 'setting off',
  corner: 'a bend',
  arrival: 'arriving',
  slope: 'a slope',
  cover: 'the ground',
  neighbour: 'somebody beside it',
  gap: 'a gap',
  grip: 'grip',
  turning: 'turning',
  queue: 'who is in front',
  'setting-out': 'setting out',
  signal: 'a signal',
  'give-way': 'giving way',
  'kept-clear': 'a junction kept clear',
  'lane-end': 'the end of its lane',
  crossing: 'those who cross',
  traffic: 'vehicles it lets pass',
  halt: 'a halt',
  narrow: 'those who come towards it',
}
export const limitShort = (limit: string): string => SHORT[limit as Limit] ?? limit
