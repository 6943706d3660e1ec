import { LANE_WRITERS } from '@tidytrail/core/formats'
import { writeFile } from 'node:fs/promises'
import { EXIT, unreadable } from '../exit'
import { readLevelFile } from '../level-file'

/** Writes the lanes of a level file in an open format; gives the exit code. */
export async function lanes(file: string, { as, out }: { as: string; out?: string }): Promise<number> {
  const level = await readLevelFile(file).catch((error: Error) => error)
  if (level instanceof Error) return unreadable(level.message)
  const { text, left } = LANE_WRITERS.find((w) => w.id === as)!.write(level)
  if (out === undefined) process.stdout.write(text)
  else {
    try {
      await writeFile(out, text)
    } catch (error) {
      return unreadable(`cannot write ${out}: ${(error as Error).message}`)
    }
  }
  for (const what of left) process.stderr.write(`without ${what}\n`)
  return EXIT.fine
}
