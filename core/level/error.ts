export type LevelProblem =
  | 'too-large'
  | 'not-json'
  | 'hostile-key'
  | 'wrong-format'
  | 'newer-version'
  | 'not-valid'
  | 'dangling-reference'
  | 'patch-refused'

/** A text as it can be told: on one line, whatever it was made of. */
export const oneLine = (text: string): string => text.replaceAll(/\p{Cc}|\p{Zl}|\p{Zp}/gu, '·')

/** Why a level file, document or patch was refused, and where. Nothing of it has been taken over. */
export class LevelError extends Error {
  override readonly name = 'LevelError'
  constructor(
    readonly problem: LevelProblem,
    /** The place inside the document, such as `routes.rt_ab12.stops.st_1.waypointId`, or a line and column. */
    readonly at: string,
    readonly why: string,
    /** The keys that lead to the place, where it is one of the document. */
    readonly keys: readonly string[] = [],
  ) {
    super(oneLine(at ? `${at}: ${why}` : why))
  }
}
