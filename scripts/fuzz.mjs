/** `npm run fuzz [-- runs] [seed]`: every reader and the HTTP interface under random fire, 20,000 each unless told otherwise. */
import { spawnSync } from 'node:child_process'
import path from 'node:path'
import { installModules, ROOT } from './prepare.mjs'

await installModules((line) => process.stdout.write(`${line}\n`))
const [runs = '20000', seed = String(Date.now() % 1_000_000_000)] = process.argv.slice(2)
process.stdout.write(`${runs} of each kind, seed ${seed}\n`)
const { status } = spawnSync(
  path.join(ROOT, 'node_modules/.bin/vitest'),
  ['run', '--testTimeout', '1200000', 'core/formats/fuzz.test.ts', 'server/test/fuzz.test.ts'],
  { cwd: ROOT, stdio: 'inherit', env: { ...process.env, FUZZ_RUNS: runs, FUZZ_SEED: seed } },
)
process.exit(status ?? 1)
