import { oneLine } from '@tidytrail/core/level'

/** Why a file cannot be read: what is wrong, and where in it. */
export class FormatError extends Error {
  override readonly name = 'FormatError'
  /** The place in the file: a line, a node, a feature; empty when it is the file as a whole. */
  readonly at: string
  readonly why: string

  constructor(at: string, why: string) {
    super(oneLine(at ? `${at}: ${why}` : why))
    this.at = oneLine(at)
    this.why = oneLine(why)
  }
}
