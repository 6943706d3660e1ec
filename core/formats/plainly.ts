import { LevelError } from '@tidytrail/core/level'
import { FormatError } from './error'

/**
 * Reads a file and answers in the reader's own words, whatever happens: what a library or the language itself has to
 * complain of says nothing to people.
 * @throws FormatError
 */
export async function plainly<T>(word: string, read: () => T | Promise<T>): Promise<T> {
  try {
    return await read()
  } catch (error) {
    if (error instanceof FormatError) throw error
    if (error instanceof LevelError) throw new FormatError(error.at, error.why)
    const large = error instanceof RangeError && /memory|length|size/i.test(error.message)
    throw new FormatError(
      '',
      large
        ? `this ${word} file asks for more memory than there is`
        : `this ${word} file is not built as the format says, and cannot be read`,
    )
  }
}
