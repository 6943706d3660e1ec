import type { Level } from '@tidytrail/core/level'
import { Survey } from '@tidytrail/core/survey'
import { Rehearsal } from './rehearsal'

/** Surveys a level and rehearses it from beginning to end. @param seconds length; the level's own when not given */
export function rehearseLevel(level: Level, options: { seed?: number; seconds?: number } = {}) {
  const survey = new Survey()
  survey.update(level)
  const seed = options.seed ?? level.settings.seed
  const seconds = options.seconds ?? level.settings.rehearseS
  const rehearsal = new Rehearsal(level, seed, survey.plannerFor)
  rehearsal.runTo(seconds)
  return { level: level.name, seed, seconds, hash: rehearsal.hash, verdicts: rehearsal.verdicts() }
}
