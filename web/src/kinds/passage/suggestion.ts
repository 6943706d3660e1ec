import { freshName, type Level } from '@tidytrail/core/level'
import type { Suggestion } from '@tidytrail/core/reach'
import { PASSAGE_WORDS, usualTimeS } from './draw-passage'

/** A suggested passage as one to be added. */
export function passageOf(level: Level, s: Suggestion, taken: readonly string[] = []) {
  const names = Object.fromEntries(taken.map((name, n) => [n, { name }]))
  return {
    name: freshName({ ...level.passages, ...names }, PASSAGE_WORDS[s.kind]),
    kind: s.kind,
    from: [...s.from] as [number, number, number],
    to: [...s.to] as [number, number, number],
    twoWay: s.twoWay,
    takesS: usualTimeS(s.kind, s.from, s.to),
  }
}
