/** What has to be there before anything runs: npm packages and a build of the web application. */
import { existsSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { run } from './processes.mjs'

export const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..')

const newest = (/** @type {string} */ place) => {
  if (!existsSync(place)) return 0
  const info = statSync(place)
  if (!info.isDirectory()) return info.mtimeMs
  let time = 0
  for (const entry of readdirSync(place)) {
    if (entry === 'node_modules' || entry === 'dist' || entry.startsWith('dist.')) continue
    time = Math.max(time, newest(path.join(place, entry)))
  }
  return time
}

/** @param {string[]} args @param {string} what @param {AbortSignal} [signal] */
async function npm(args, what, signal) {
  const env = { ...process.env, npm_config_loglevel: 'error' }
  const ran = await run('npm', args, { cwd: ROOT, env, signal })
  if (ran.status !== 0) throw new Error(`${what} failed:\n${ran.output.trim().split('\n').slice(-25).join('\n')}`)
}

/** @param {(line: string) => void} say @param {AbortSignal} [signal] */
export async function installModules(say, signal) {
  const [major, minor] = process.versions.node.split('.').map(Number)
  if (major < 20 || (major === 20 && minor < 19))
    throw new Error(`Node 20.19 or newer is needed; this is ${process.versions.node}`)
  const stamp = path.join(ROOT, 'node_modules/.package-lock.json')
  const wanted = Math.max(
    statSync(path.join(ROOT, 'package-lock.json')).mtimeMs,
    statSync(path.join(ROOT, 'package.json')).mtimeMs,
  )
  if (existsSync(stamp) && statSync(stamp).mtimeMs >= wanted) return
  say('installing npm packages …')
  try {
    await npm(['ci', '--include=dev'], 'installing the npm packages', signal)
  } catch (error) {
    if (signal?.aborted) throw error
    // A registry that lacks a package for some other platform makes `ci` refuse; what this machine needs is there.
    await npm(['install', '--include=dev', '--no-save'], 'installing the npm packages', signal)
  }
}

/**
 * Builds the web application when its sources are newer. It is built aside and put in place whole, so that a build that
 * is killed leaves nothing that looks built.
 * @param {(line: string) => void} say @param {AbortSignal} [signal]
 */
export async function buildWeb(say, signal) {
  const dist = path.join(ROOT, 'web/dist')
  const built = path.join(dist, 'index.html')
  const sources = ['web', 'core', 'contract', 'package-lock.json'].map((p) => path.join(ROOT, p))
  const began = Date.now()
  if (existsSync(built) && statSync(built).mtimeMs >= Math.max(...sources.map(newest))) return
  say('building the web application …')
  const aside = path.join(ROOT, 'web', `dist.${process.pid}`)
  try {
    await npm(
      ['run', 'build', '-w', 'web', '--', '--outDir', aside, '--emptyOutDir'],
      'building the web application',
      signal,
    )
    const old = path.join(ROOT, 'web', `dist.old.${process.pid}`)
    if (existsSync(dist)) renameSync(dist, old)
    renameSync(aside, dist)
    rmSync(old, { recursive: true, force: true })
  } finally {
    // Also what builds that were killed have left behind, unless another may still be at it.
    for (const entry of readdirSync(path.join(ROOT, 'web'))) {
      const left = path.join(ROOT, 'web', entry)
      if (entry === path.basename(aside) || (entry.startsWith('dist.') && statSync(left).mtimeMs < began - 600_000))
        rmSync(left, { recursive: true, force: true })
    }
  }
}
