/**
 * `npm run try-files [-- package …]`: fetches packages that happen to hold models, maps and pictures, puts every file in
 * them before the readers, and tells what became of it. Nothing of them is kept. A reader may refuse a file in its own
 * words; it may not fall over, nor say what no person understands.
 */
import {
  FORMATS,
  formatsOf,
  FormatError,
  plainly,
  textOf,
  unpackZip,
  isZip,
  type GivenFile,
} from '@tidytrail/core/formats'
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import draco3d from 'draco3dgltf'

const NPM = ['@mapbox/geojson-fixtures', 'geojson-world-map', 'world-atlas', 'cesium', '@babylonjs/assets', 'plotly.js']
const DEBIAN = [
  'assimp-testmodels',
  'libgdal-dev',
  'r-cran-raster',
  'r-cran-sp',
  'r-cran-terra',
  'grass-doc',
  'gmt-dcw',
]
const MOST_BYTES = 40 * 1024 * 1024

function* filesIn(folder: string): Generator<string> {
  for (const name of readdirSync(folder)) {
    const full = path.join(folder, name)
    const stat = statSync(full, { throwIfNoEntry: false })
    if (stat?.isDirectory()) yield* filesIn(full)
    else if (stat?.isFile()) yield full
  }
}

/** Fetches and unpacks a package; false when there is no such one here. */
function fetchPackage(name: string, debian: boolean, into: string): boolean {
  try {
    if (debian) {
      execFileSync('apt-get', ['download', name], { cwd: into, stdio: 'ignore' })
      const [deb] = readdirSync(into).filter((f) => f.endsWith('.deb'))
      execFileSync('dpkg-deb', ['-x', deb, 'unpacked'], { cwd: into, stdio: 'ignore' })
    } else {
      execFileSync('npm', ['pack', name, '--silent'], { cwd: into, stdio: 'ignore' })
      const [tgz] = readdirSync(into).filter((f) => f.endsWith('.tgz'))
      execFileSync('tar', ['-xzf', tgz], { cwd: into, stdio: 'ignore' })
    }
    return true
  } catch {
    return false
  }
}

const UNSPEAKABLE = /undefined|\[object|is not a function|Cannot read|is not iterable|Invalid typed array|NaN of/
const sums = { read: 0, refused: 0, fellOver: 0 }
const said = new Map<string, { n: number; file: string }>()

async function tryFile(file: string, root: string): Promise<void> {
  const name = path.relative(root, file)
  if (statSync(file).size > MOST_BYTES || statSync(file).size === 0) return
  const bytes = new Uint8Array(readFileSync(file))
  let formats
  try {
    formats = formatsOf(name, bytes)
  } catch {
    return
  }
  const folder = path.dirname(file)
  const files: GivenFile[] = readdirSync(folder)
    .filter((f) => /\.(bin|glbin|gltf)$/.test(f))
    .map((f) => ({ path: f, bytes: new Uint8Array(readFileSync(path.join(folder, f))) }))
  for (const format of formats) {
    if (format.gives === 'picture') continue
    try {
      const result = await plainly(format.word, () => {
        if (format.gives === 'mesh')
          return format.read(
            bytes,
            { upAxis: 'y', scale: 1 },
            { files, decoders: { draco: () => draco3d.createDecoderModule() } },
          )
        if (format.gives === 'lanes') return format.read(bytes)
        if (format.gives === 'heights') return format.read(bytes, { lowM: 0, highM: 100 })
        return format.read(textOf(bytes), { units: 'degrees', originLon: 0, originLat: 0 })
      })
      sums.read++
      for (const note of result.repairs) count(`(${format.id}, read) ${note}`, name)
    } catch (error) {
      const { message } = error as Error
      const plain = error instanceof FormatError && !UNSPEAKABLE.test(message)
      sums[plain ? 'refused' : 'fellOver']++
      count(`(${format.id}, ${plain ? 'refused' : 'FELL OVER'}) ${message}`, name)
    }
  }
}

function count(words: string, file: string): void {
  const key = words
    .replace(/\d[\d,.]*/g, '#')
    .replace(/“[^”]*”/g, '“…”')
    .slice(0, 170)
  const known = said.get(key)
  if (known) known.n++
  else said.set(key, { n: 1, file })
}

const asked = process.argv.slice(2)
const wanted =
  asked.length > 0
    ? asked.flatMap(
        (name) =>
          [
            [name, false],
            [name, true],
          ] as const,
      )
    : [...NPM.map((n) => [n, false] as const), ...DEBIAN.map((n) => [n, true] as const)]
const endings = new RegExp(`\\.(${FORMATS.flatMap((f) => f.endings).join('|')}|zip)$`, 'i')
for (const [name, debian] of wanted) {
  const folder = mkdtempSync(path.join(tmpdir(), 'try-files-'))
  try {
    const there = fetchPackage(name, debian, folder)
    const before = { ...sums }
    for (const file of there ? filesIn(folder) : []) {
      if (!endings.test(file)) continue
      if (/\.zip$/i.test(file)) {
        const bytes = new Uint8Array(readFileSync(file))
        if (isZip(bytes))
          await plainly('zip', () => unpackZip(bytes)).catch((e: Error) => count(`(zip, refused) ${e.message}`, file))
        continue
      }
      await tryFile(file, folder)
    }
    const of = (k: keyof typeof sums) => sums[k] - before[k]
    process.stdout.write(
      there
        ? `${name}: ${of('read')} read, ${of('refused')} refused in words, ${of('fellOver')} fell over\n`
        : `${name}: not to be had here\n`,
    )
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
for (const [words, { n, file }] of [...said].sort((a, b) => b[1].n - a[1].n))
  process.stdout.write(`${String(n).padStart(5)} × ${words}   e.g. ${file}\n`)
process.stdout.write(`${sums.read} read, ${sums.refused} refused in words, ${sums.fellOver} fell over\n`)
process.exitCode = sums.fellOver > 0 ? 1 : 0
