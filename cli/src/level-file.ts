import { open } from 'node:fs/promises'
import { LevelError, MAX_LEVEL_TEXT, readLevelText, type Level } from '@tidytrail/core/level'

/**
 * A level from a file.
 * @throws Error with one line that names the file and the place of the fault
 */
export async function readLevelFile(path: string): Promise<Level> {
  let text: string
  try {
    const file = await open(path)
    try {
      const { size } = await file.stat()
      if (size > MAX_LEVEL_TEXT * 2)
        throw new Error(`the file has ${Math.round(size / 1024 / 1024)} MB, too large to be read`)
      text = await file.readFile('utf8')
    } finally {
      await file.close()
    }
  } catch (error) {
    const { code, message } = error as NodeJS.ErrnoException
    const why = code === 'ENOENT' ? 'there is no such file' : code === 'EISDIR' ? 'this is a folder' : message
    throw new Error(`${path}: ${why}`, { cause: error })
  }
  try {
    return readLevelText(text)
  } catch (error) {
    if (error instanceof LevelError) throw new Error(`${path}: ${error.message}`, { cause: error })
    throw error
  }
}
