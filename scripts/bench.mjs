/** `npm run bench`: every figure beside its budget and a reference measured in the same run. */
import { spawnSync } from 'node:child_process'
import path from 'node:path'
import { installModules, ROOT } from './prepare.mjs'

await installModules((line) => process.stdout.write(`${line}\n`))
const { status } = spawnSync(
  process.execPath,
  ['--expose-gc', '--import', 'tsx', path.join(ROOT, 'bench/main.ts'), ...process.argv.slice(2)],
  {
    cwd: ROOT,
    stdio: 'inherit',
  },
)
process.exit(status ?? 1)
