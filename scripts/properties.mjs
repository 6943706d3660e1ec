/** `npm run properties [-- rounds] [seed]`: the property tests with cases nobody has seen before; three rounds unless told otherwise. */
import { spawnSync } from 'node:child_process'
import path from 'node:path'
import { installModules, ROOT } from './prepare.mjs'

const say = (/** @type {string} */ line) => process.stdout.write(`${line}\n`)
await installModules(say)
const rounds = Number(process.argv[2] ?? 3)
const first = Number(process.argv[3] ?? Date.now() % 1_000_000_000)
if (!Number.isInteger(rounds) || rounds < 1 || !Number.isInteger(first)) {
  process.stderr.write('Give whole numbers: how many rounds, from 1 on, and the seed of the first.\n')
  process.exit(2)
}
const files = spawnSync('git', ['grep', '-l', 'fc\\.assert', '--', '*.test.ts', ':!server'], {
  cwd: ROOT,
  encoding: 'utf8',
})
let failed = 0
for (let round = 0; round < rounds; round++) {
  say(`\n── round ${round + 1} of ${rounds}, seed ${first + round}`)
  const { status } = spawnSync(
    path.join(ROOT, 'node_modules/.bin/vitest'),
    [
      'run',
      ...['core', 'web', 'page', 'apart'].flatMap((name) => ['--project', name]),
      ...files.stdout.trim().split('\n'),
    ],
    { cwd: ROOT, stdio: 'inherit', env: { ...process.env, PROPERTY_SEED: String(first + round) } },
  )
  if (status !== 0) {
    failed++
    say(`Repeat it with npm run properties -- 1 ${first + round}`)
  }
}
process.exit(failed > 0 ? 1 : 0)
