import { newJobSchema, type NewJob } from '@tidytrail/contract'
import { Examined, runFigures, type RunFigures } from '@tidytrail/core/insight'
import { readLevel, type Level } from '@tidytrail/core/level'
import { recordedOf, Run } from '@tidytrail/core/rehearsal'
import { Survey } from '@tidytrail/core/survey'

/** What one rehearsal of many is given. */
export interface SeedPart {
  readonly seed: number
  readonly seconds: number
}

/** The parts of a job that rehearses a level with many seeds. */
export function seedParts(asked: NewJob, level: Level): SeedPart[] {
  const {
    first = level.settings.seed,
    count = 1,
    seeds,
    seconds = level.settings.rehearseS,
  } = newJobSchema.parse(asked)
  const list = seeds ?? Array.from({ length: count }, (_, k) => (first + k) % 0x80000000)
  return [...new Set(list)].map((seed) => ({ seed, seconds }))
}

/** The level of a document with its reach: worked out once for all the seeds of a job. */
let known: { readonly document: string; readonly level: Level; readonly survey: Survey } | undefined

/** Rehearses a level with one seed. @param document the level, as JSON text */
export function rehearseSeed(document: string, { seed, seconds }: SeedPart): RunFigures {
  if (known?.document !== document) {
    const level = readLevel(JSON.parse(document))
    const survey = new Survey()
    survey.update(level)
    known = { document, level, survey }
  }
  const run = new Run(known.level, seed, known.survey)
  run.runTo(seconds)
  return runFigures(new Examined(recordedOf(run), run.verdicts()), run.hash)
}
