import type { Level } from '@tidytrail/core/level'
import { Survey } from '@tidytrail/core/survey'
import { Run } from './run'
import type { Command } from './script'

/** Surveys a level and rehearses it from beginning to end. @param seconds length; the level's own when not given */
export function rehearseLevel(
  level: Level,
  options: { seed?: number; seconds?: number; commands?: readonly Command[] } = {},
) {
  const survey = new Survey()
  survey.update(level)
  const seed = options.seed ?? level.settings.seed
  const seconds = options.seconds ?? level.settings.rehearseS
  const run = new Run(level, seed, survey, options.commands)
  run.runTo(seconds)
  return { run, report: { level: level.name, seed, seconds, hash: run.hash, verdicts: run.verdicts() } }
}
