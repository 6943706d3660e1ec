/** What has to be there before anything runs: npm packages and a build of the web application. */
import { spawnSync } from 'node:child_process'
import { existsSync, readdirSync, statSync } from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'

export const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..')

const newest = (/** @type {string} */ place) => {
  if (!existsSync(place)) return 0
  const info = statSync(place)
  if (!info.isDirectory()) return info.mtimeMs
  let time = 0
  for (const entry of readdirSync(place)) {
    if (entry === 'node_modules' || entry === 'dist') continue
    time = Math.max(time, newest(path.join(place, entry)))
  }
  return time
}

/** @param {string[]} args @param {string} what */
function npm(args, what) {
  const run = spawnSync('npm', args, {
    cwd: ROOT,
    encoding: 'utf8',
    env: { ...process.env, npm_config_loglevel: 'error' },
  })
  if (run.error) throw new Error(`npm cannot be run: ${run.error.message}`)
  if (run.status !== 0)
    throw new Error(`${what} failed:\n${(run.stdout + run.stderr).trim().split('\n').slice(-25).join('\n')}`)
}

/** @param {(line: string) => void} say */
export function installModules(say) {
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
    npm(['ci', '--include=dev'], 'installing the npm packages')
  } catch {
    // A registry that lacks a package for some other platform makes `ci` refuse; what this machine needs is there.
    npm(['install', '--include=dev', '--no-save'], 'installing the npm packages')
  }
}

/** @param {(line: string) => void} say */
export function buildWeb(say) {
  const built = path.join(ROOT, 'web/dist/index.html')
  const sources = ['web', 'core', 'contract', 'package-lock.json'].map((p) => path.join(ROOT, p))
  if (existsSync(built) && statSync(built).mtimeMs >= Math.max(...sources.map(newest))) return
  say('building the web application …')
  npm(['run', 'build', '-w', 'web'], 'building the web application')
}
