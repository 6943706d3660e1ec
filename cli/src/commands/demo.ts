import { mkdir, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { writeLevelText } from '@tidytrail/core/level'
import { DEMO_LEVELS } from '@tidytrail/demo'
import { EXIT, unreadable } from '../exit'

/** Lists the demo levels, or writes one or all of the shelf's as files; gives the exit code. */
export async function demo(name: string | undefined, { out }: { out?: string }): Promise<number> {
  const wanted = name?.toLowerCase()
  const found = wanted ? DEMO_LEVELS.filter((d) => d.slug === wanted || d.name.toLowerCase() === wanted) : DEMO_LEVELS
  if (found.length === 0) {
    return unreadable(`there is no demo level "${name}"; there are ${DEMO_LEVELS.map((d) => d.slug).join(', ')}`)
  }
  if (!out && !wanted) {
    for (const d of DEMO_LEVELS) process.stdout.write(`${d.slug.padEnd(14)} ${d.name}: ${d.about}\n`)
    return EXIT.fine
  }
  const dir = out ?? '.'
  try {
    await mkdir(dir, { recursive: true })
    for (const d of wanted ? found : found.filter((f) => f.onShelf)) {
      const file = path.join(dir, `${d.slug}.tidytrail.json`)
      await writeFile(file, writeLevelText(d.make()))
      process.stdout.write(`${file}\n`)
    }
  } catch (error) {
    return unreadable(`cannot write to ${dir}: ${(error as Error).message}`)
  }
  return EXIT.fine
}
