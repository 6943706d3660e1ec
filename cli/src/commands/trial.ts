import { trialReportSchema } from '@tidytrail/contract'
import { Examined, passing, runFigures, trialWords, tryAll, type RunFigures } from '@tidytrail/core/insight'
import { recordedOf, Run } from '@tidytrail/core/rehearsal'
import { Survey } from '@tidytrail/core/survey'
import { EXIT, unreadable } from '../exit'
import { readLevelFile } from '../level-file'

interface Options {
  format: 'text' | 'json'
  seed?: number
  seconds?: number
  /** So many seeds, from the first on. */
  seeds?: number
}

/** Rehearses a level file with one seed or many and tries its trials; gives the exit code. */
export async function trial(file: string, { format, seed, seconds, seeds = 1 }: Options): Promise<number> {
  const level = await readLevelFile(file).catch((error: Error) => error)
  if (level instanceof Error) return unreadable(level.message)
  const ids = Object.keys(level.trials).filter((id) => !level.trials[id].off)
  if (ids.length === 0) return unreadable(`${file}: the level has no trials; make some in Rehearse`)
  const survey = new Survey()
  survey.update(level)
  const first = seed ?? level.settings.seed
  const lasts = seconds ?? level.settings.rehearseS
  const runs: RunFigures[] = []
  for (let k = 0; k < seeds; k++) {
    const run = new Run(level, first + k, survey)
    run.runTo(lasts)
    const of = new Examined(recordedOf(run), run.verdicts())
    runs.push(
      seeds > 1
        ? runFigures(of, run.hash)
        : { seed: first, hash: run.hash, passes: true, figures: [], trials: tryAll(of) },
    )
  }
  const { trials } = passing(runs)
  const report = trialReportSchema.parse({
    level: level.name,
    seconds: lasts,
    seeds: runs.map((r) => r.seed),
    trials: ids.map((id) => {
      const of = trials.get(id)
      const failing = runs.flatMap((run) =>
        run.trials.filter((t) => t.trialId === id && t.holds === false).map((t) => ({ run, t })),
      )
      const [worst] = failing
      const any = runs[0].trials.find((t) => t.trialId === id)
      return {
        id,
        says: trialWords(level, level.trials[id]),
        holds: !of || of.told === 0 ? null : of.failed.length === 0,
        held: of?.held ?? 0,
        told: of?.told ?? 0,
        failedSeeds: of?.failed ?? [],
        words: (worst?.t ?? any)?.words ?? '',
        momentS: worst?.t.momentS ?? null,
      }
    }),
  })
  if (format === 'json') process.stdout.write(`${JSON.stringify(report, null, 2)}\n`)
  else {
    for (const t of report.trials) {
      const word = t.holds === null ? 'not told' : t.holds ? 'holds' : 'FAILS'
      const share = seeds > 1 && t.told > 0 ? ` in ${t.held} of ${t.told} runs` : ''
      process.stdout.write(`${word.padEnd(8)} ${t.says}${share} ${t.words}\n`)
    }
    const failed = report.trials.filter((t) => t.holds === false).length
    process.stdout.write(
      `${level.name}: ${report.trials.length - failed} of ${report.trials.length} trials hold, ${runs.length} ${runs.length === 1 ? 'rehearsal' : 'rehearsals'}\n`,
    )
  }
  return report.trials.some((t) => t.holds === false) ? EXIT.faults : EXIT.fine
}
