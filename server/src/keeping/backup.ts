import { createReadStream, createWriteStream, existsSync, renameSync, rmSync, statSync } from 'node:fs'
import path from 'node:path'
import { pipeline } from 'node:stream/promises'
import { createGunzip, createGzip } from 'node:zlib'
import { run } from '../../../scripts/processes.mjs'
import { clientOf, clientProgram, lastLine, nameOf, type Say } from './clients'

/** The tables a backup holds. */
export const TABLES = [
  'levels',
  'revisions',
  'copies',
  'summaries',
  'assets',
  'asset_chunks',
  'jobs',
  'job_parts',
  'rehearsals',
  'rehearsal_chunks',
  'migrations',
] as const

/** What the dumping client writes last. */
const LAST_WORDS = /-- Dump completed/

/** Is a backup whole, to its last line? */
export async function isWhole(file: string): Promise<boolean> {
  let last = ''
  try {
    await pipeline(createReadStream(file), createGunzip(), async (source: AsyncIterable<Buffer>) => {
      for await (const part of source) last = (last + part.toString('latin1')).slice(-400)
    })
  } catch {
    return false
  }
  return LAST_WORDS.test(last)
}

/**
 * Writes all that is kept to one packed file, as it is at one moment, while others go on writing.
 * @param target where to; a name with today's date when left out
 * @returns the file
 * @throws Error when it is there already or cannot be written; then nothing is
 */
export async function backup(url: string, target: string | undefined, say: Say): Promise<string> {
  const file = path.resolve(target ?? `tidytrail-${new Date().toISOString().slice(0, 19).replaceAll(':', '-')}.sql.gz`)
  if (existsSync(file)) throw new Error(`${file} is there already; nothing was written`)
  const aside = `${file}.${process.pid}`
  try {
    const { args, env } = clientOf(url)
    const zip = createGzip()
    const written = pipeline(zip, createWriteStream(aside, { mode: 0o600, flags: 'wx' }))
    // Should the file fail, the dump has nowhere to go and is told below.
    const filed = written.catch((error: Error) => error)
    const ran = await run(
      await clientProgram('mariadb-dump', say),
      [
        ...args,
        '--single-transaction',
        '--quick',
        '--hex-blob',
        '--skip-lock-tables',
        '--no-tablespaces',
        nameOf(url),
        ...TABLES,
      ],
      { env, stdout: zip },
    )
    const failed = await filed
    if (failed instanceof Error) throw new Error(`the backup cannot be written: ${failed.message}`)
    if (ran.status !== 0) throw new Error(`the backup failed: ${lastLine(ran.output)}`)
    if (!(await isWhole(aside))) throw new Error('the backup is cut off; nothing was written')
    renameSync(aside, file)
    say(`${file}: ${Math.ceil(statSync(file).size / 1000).toLocaleString('en')} kB, whole`)
    return file
  } finally {
    rmSync(aside, { force: true })
  }
}
