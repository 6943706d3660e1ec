/** `npm test`: lint, types, unit, server, browser; ends with the true total. Plain Node: it runs before anything is installed. */
import { spawn } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { findProgram, installPackages } from './database.mjs'
import { buildWeb, installModules, ROOT } from './prepare.mjs'

const say = (/** @type {string} */ line) => process.stdout.write(`${line}\n`)
const scratch = mkdtempSync(path.join(tmpdir(), 'tidytrail-test-'))

/** @type {{ passed: number, failed: number }} */
const total = { passed: 0, failed: 0 }

/**
 * Runs a program of ours and waits for it.
 * @param {string[]} command @param {Record<string, string>} [env]
 * @returns {Promise<number>}
 */
function run(command, env = {}) {
  return new Promise((resolve) => {
    const bin = path.join(ROOT, 'node_modules/.bin', command[0])
    const child = spawn(bin, command.slice(1), { cwd: ROOT, stdio: 'inherit', env: { ...process.env, ...env } })
    child.on('exit', (code) => resolve(code ?? 1))
    child.on('error', () => resolve(1))
  })
}

/** A check that passes or fails as a whole. @param {string} name @param {string[][]} commands */
async function whole(name, commands) {
  say(`\n── ${name}`)
  for (const command of commands) {
    if ((await run(command)) === 0) total.passed++
    else {
      total.failed++
      say(`${name} failed: ${command.join(' ')}`)
    }
  }
}

/** @param {string} file */
const report = (file) => (existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : undefined)

/** @param {string} name @param {string[]} projects */
async function vitest(name, ...projects) {
  say(`\n── ${name}`)
  const file = path.join(scratch, `${name}.json`)
  const code = await run([
    'vitest',
    'run',
    ...projects.flatMap((project) => ['--project', project]),
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${file}`,
  ])
  const result = report(file)
  const failed = result
    ? result.numFailedTests +
      result.testResults.filter((/** @type {any} */ t) => t.status === 'failed' && t.assertionResults.length === 0)
        .length
    : 0
  total.passed += result?.numPassedTests ?? 0
  total.failed += failed || (code === 0 ? 0 : 1)
}

async function browser() {
  say('\n── browser')
  const file = path.join(scratch, 'browser.json')
  const code = await run(['playwright', 'test', '--reporter=list,json'], { PLAYWRIGHT_JSON_OUTPUT_NAME: file })
  const stats = report(file)?.stats
  total.passed += stats?.expected ?? 0
  total.failed += (stats ? stats.unexpected + stats.flaky : 0) || (code === 0 ? 0 : 1)
}

try {
  await installModules(say)
  if (!findProgram('mariadbd')) await installPackages(['mariadb-server'], say)
  if (!findProgram('chromium')) await installPackages(['chromium'], say)
  await whole('lint', [
    ['eslint', '.', '--max-warnings', '0'],
    ['prettier', '--check', '--log-level', 'warn', '.'],
  ])
  await whole('types', [
    // The core by itself, without a DOM and without Node.
    ['tsc', '-p', 'core/tsconfig.json'],
    ['tsc', '-p', 'tsconfig.json'],
    ['vue-tsc', '-p', 'web/tsconfig.json'],
  ])
  await vitest('unit', 'core', 'web')
  // Before the server's tests: those that start the whole program would each build it.
  await buildWeb(say)
  await vitest('server', 'server')
  await browser()
} catch (error) {
  process.stderr.write(`Tidy Trail: ${/** @type {Error} */ (error).message}\n`)
  total.failed++
}
rmSync(scratch, { recursive: true, force: true })
say(`\n${total.passed} passed, ${total.failed} failed`)
process.exit(total.failed > 0 ? 1 : 0)
