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
/** What failed, by name: said again at the end, as what a suite prints itself may be far above. @type {string[]} */
const failures = []

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
      failures.push(`${name}: ${command.join(' ')}`)
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
  /** @type {string[]} */
  const failed = (result?.testResults ?? []).flatMap(
    (/** @type {any} */ { name: of, status, assertionResults: all }) => {
      const where = path.relative(ROOT, of)
      if (all.length === 0) return status === 'failed' ? [`${where}: could not be run`] : []
      return all
        .filter((/** @type {any} */ one) => one.status === 'failed')
        .map((/** @type {any} */ one) => `${where}: ${one.fullName}\n  ${firstLines(one.failureMessages?.[0])}`)
    },
  )
  total.passed += result?.numPassedTests ?? 0
  count(name, failed, code)
}

/** The beginning of what is said of a failure. @param {string} [text] */
const firstLines = (text = '') => text.split('\n').slice(0, 6).join('\n  ')

/** Counts what failed in a suite; one that ends badly though nothing in it failed has failed too. @param {string} name @param {string[]} failed @param {number} code */
function count(name, failed, code) {
  if (failed.length === 0 && code !== 0) failed = [`${name}: ended with ${code}`]
  total.failed += failed.length
  failures.push(...failed)
}

async function browser() {
  say('\n── browser')
  const file = path.join(scratch, 'browser.json')
  const code = await run(['playwright', 'test', '--reporter=list,json'], { PLAYWRIGHT_JSON_OUTPUT_NAME: file })
  const result = report(file)
  total.passed += result?.stats.expected ?? 0
  count('browser', result ? result.suites.flatMap(failedIn) : [], code)
}

/** @param {any} suite @returns {string[]} */
function failedIn({ file, specs = [], suites = [] }) {
  return [
    ...specs
      .filter((/** @type {any} */ { tests }) => tests.some((/** @type {any} */ t) => /unexpected|flaky/.test(t.status)))
      .map((/** @type {any} */ spec) => `e2e/${file}:${spec.line}: ${spec.title}`),
    ...suites.flatMap(failedIn),
  ]
}

try {
  await installModules(say)
  if (!findProgram('mariadbd')) await installPackages(['mariadb-server'], say)
  if (!findProgram('chromium')) await installPackages(['chromium'], say)
  // Side by side: each keeps one core busy.
  await Promise.all([
    whole('lint', [
      ['eslint', '.', '--max-warnings', '0'],
      ['prettier', '--check', '--log-level', 'warn', '.'],
    ]),
    whole('types', [
      // The core by itself, without a DOM and without Node.
      ['tsc', '-p', 'core/tsconfig.json'],
      ['tsc', '-p', 'tsconfig.json'],
      ['vue-tsc', '-p', 'web/tsconfig.json'],
    ]),
  ])
  await vitest('unit', 'core', 'web', 'page', 'apart')
  // Before the server's tests: those that start the whole program would each build it.
  await buildWeb(say)
  await vitest('server', 'server')
  await browser()
} catch (error) {
  total.failed++
  failures.push(`Tidy Trail: ${/** @type {Error} */ (error).message}`)
}
rmSync(scratch, { recursive: true, force: true })
if (failures.length > 0) say(`\n── failed\n${failures.join('\n')}`)
say(`\n${total.passed} passed, ${total.failed} failed`)
process.exit(total.failed > 0 ? 1 : 0)
