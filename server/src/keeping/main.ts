/** `npm run backup`, `npm run restore`, `npm run tidy`: what is kept, in one file and back, and rid of what nobody needs. */
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { parseArgs } from 'node:util'
import { readConfig } from '../config'
import { openDatabase } from '../store/database'
import { storageOf, tidy } from '../store/upkeep'
import { backup } from './backup'
import { reach } from './clients'
import { restore } from './restore'

const say = (line: string) => void process.stdout.write(`${line}\n`)
const USAGE = `npm run backup -- [FILE]             all that is kept, into one file
npm run restore -- FILE [--replace]  back from it; --replace when something is there
npm run tidy                         throw away what is kept no longer, and say what is kept`

async function main(): Promise<void> {
  const { values, positionals } = parseArgs({
    allowPositionals: true,
    options: { replace: { type: 'boolean', default: false } },
  })
  const [command, file, ...more] = positionals
  if (more.length > 0 || !['backup', 'restore', 'tidy'].includes(command) || (command === 'restore' && !file))
    throw new Error(`these are the commands:\n${USAGE}`)
  const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '../../..')
  const database = await reach(process.env, root, say)
  try {
    if (command === 'backup') await backup(database.url, file, say)
    else if (command === 'restore') await restore(database.url, file, values.replace, say)
    else {
      const { keeping } = readConfig({ ...process.env, TIDYTRAIL_DATABASE_URL: database.url })
      const db = await openDatabase(database.url)
      try {
        const { lines } = await tidy(db, keeping)
        for (const line of lines.length > 0 ? lines : ['there was nothing to throw away']) say(line)
        const { levels, history, assets } = await storageOf(db, keeping)
        const mb = (bytes: number) => `${(bytes / 1e6).toFixed(1)} MB`
        say(
          `kept: ${levels.count} levels, ${mb(levels.bytes)}; ${history.revisions} changes, ${mb(history.bytes)}; ${assets.count} assets, ${mb(assets.bytes)}`,
        )
      } finally {
        await db.close()
      }
    }
  } finally {
    await database.stop()
  }
}

try {
  await main()
} catch (error) {
  process.stderr.write(`Tidy Trail: ${(error as Error).message}\n`)
  process.exitCode = 1
}
