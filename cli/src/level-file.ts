import { open } from 'node:fs/promises'
import { createHash } from 'node:crypto'
import { provideAsset, terrainOf } from '@tidytrail/core/ground'
import { readScript, type Script } from '@tidytrail/core/rehearsal'
import { LevelError, MAX_LEVEL_TEXT, readLevelFile as readFileText, type Level } from '@tidytrail/core/level'

/**
 * A level from a file.
 * @throws Error with one line that names the file and the place of the fault
 */
export async function readLevelFile(path: string): Promise<Level> {
  return (await readLevelAndRun(path)).level
}

/** The same, with the run that came along, where one did. */
export async function readLevelAndRun(path: string): Promise<{ level: Level; run: Script | undefined }> {
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
    const { level, assets, run } = readFileText(text)
    for (const [hash, bytes] of assets) {
      if (createHash('sha256').update(bytes).digest('hex') !== hash)
        throw new LevelError('not-valid', `assets.${hash.slice(0, 20)}`, 'its bytes are not what its hash says')
      provideAsset(hash, bytes)
    }
    const { missing } = terrainOf(level)
    if (missing.length > 0)
      throw new LevelError(
        'not-valid',
        `assets.${missing[0].slice(0, 20)}`,
        'is missing; export the level with its assets',
      )
    return { level, run: run === undefined ? undefined : readScript(run, level) }
  } catch (error) {
    if (error instanceof LevelError || error instanceof RangeError)
      throw new Error(`${path}: ${error.message}`, { cause: error })
    throw error
  }
}
