import { rehearseReportSchema } from '@tidytrail/contract'
import { writeFile } from 'node:fs/promises'
import { positionsCsv, recordedOf, rehearseLevel } from '@tidytrail/core/rehearsal'
import { EXIT, unreadable } from '../exit'
import { readLevelAndRun } from '../level-file'

interface Options {
  format: 'text' | 'json'
  seed?: number
  seconds?: number
  /** A file the places of everybody are written to, as CSV. */
  positions?: string
}

/** Rehearses a level file and prints the verdicts; gives the exit code. */
export async function rehearse(file: string, { format, seed, seconds, positions }: Options): Promise<number> {
  const read = await readLevelAndRun(file).catch((error: Error) => error)
  if (read instanceof Error) return unreadable(read.message)
  // A run that came along is repeated to its end, with all that was done to it; another seed or length makes another run.
  const again = seed === undefined && seconds === undefined ? read.run : undefined
  const { run, report: told } = rehearseLevel(read.level, again ?? { seed, seconds })
  const report = rehearseReportSchema.parse(told)
  if (positions) {
    const failed = await writeFile(positions, positionsCsv(recordedOf(run))).then(
      () => undefined,
      (error: Error) => error,
    )
    if (failed) return unreadable(`${positions}: ${failed.message}`)
  }
  if (format === 'json') process.stdout.write(`${JSON.stringify(report, null, 2)}\n`)
  else {
    for (const v of report.verdicts) {
      const route = v.routeName ? `${v.routeName}, ${v.stops.made} stops made, ${v.stops.due} due` : 'no route'
      const reasons = v.reasons.length > 0 ? `: ${v.reasons.join('; ')}` : ''
      process.stdout.write(
        `${v.name}: ${v.verdict.replaceAll('-', ' ')} (${route}, ${v.crossTrack.rms.toFixed(2)} m off the line)${reasons}\n`,
      )
    }
    process.stdout.write(
      `${report.level}: ${report.verdicts.length} agents, seed ${report.seed}, ${report.seconds} s, hash ${report.hash}\n`,
    )
  }
  // Who has no route to follow does not fail to follow it.
  const fine = told.verdicts.every((v) => v.verdict.startsWith('follows') || v.excused === true)
  return fine ? EXIT.fine : EXIT.faults
}
