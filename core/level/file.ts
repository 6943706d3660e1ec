import { LevelError } from './error'
import { parseLevelText, readLevel } from './read'
import { COLLECTIONS, kindIn } from './kinds/collections'
import { shapesOf } from './places'
import { assetHashSchema } from './fields'
import type { Collection, Level } from './schema'
import { upgrade } from './upgrade'
import { writeLevelText } from './write'

/** A level file: the document, and the assets it refers to where they came along, by hash. */
export interface LevelFile {
  readonly level: Level
  readonly assets: ReadonlyMap<string, Uint8Array<ArrayBuffer>>
  /** A run of it that came along; for whoever rehearses to read. */
  readonly run?: unknown
}

/** The collections whose things are made of an asset. */
export const WITH_ASSET = COLLECTIONS.filter((c) => shapesOf(kindIn(c).schema).some((s) => 'assetId' in s))

/** Every asset a level refers to, once each. */
export function assetIdsOf(level: Pick<Level, 'ground'> & Partial<Pick<Level, Collection>>): string[] {
  const hashes = WITH_ASSET.flatMap((c) => Object.values(level[c] ?? {}).map((t) => (t as { assetId: string }).assetId))
  if (level.ground.heights?.assetId) hashes.push(level.ground.heights.assetId)
  return [...new Set(hashes)].sort()
}

/**
 * The text of a level file with its assets inside, as base64 under `assets`. @param run of it, to go along under `run`
 */
export function writeLevelFile(level: Level, assets: ReadonlyMap<string, Uint8Array>, run?: object): string {
  const more: string[] = []
  const lines = [...assets].map(([hash, bytes]) => `    ${JSON.stringify(hash)}: "${toBase64(bytes)}"`)
  if (lines.length > 0) more.push(`,\n  "assets": {\n${lines.join(',\n')}\n  }`)
  if (run) more.push(`,\n  "run": ${JSON.stringify(run)}`)
  const text = writeLevelText(level)
  return more.length === 0 ? text : `${text.trimEnd().slice(0, -2)}${more.join('')}\n}\n`
}

/**
 * A level file read back. Whether an asset's bytes are what its hash says is for whoever keeps them to make sure.
 * @throws LevelError that names the place of the first fault
 */
export function readLevelFile(text: string): LevelFile {
  const { assets: inside, run, ...document } = topOf(parseLevelText(text))
  const level = readLevel(document)
  const assets = new Map<string, Uint8Array<ArrayBuffer>>()
  if (inside === undefined) return { level, assets, run }
  if (typeof inside !== 'object' || inside === null || Array.isArray(inside))
    throw new LevelError('not-valid', 'assets', 'is no record of assets by hash')
  for (const [hash, value] of Object.entries(inside)) {
    const at = `assets.${hash.slice(0, 20)}`
    if (!assetHashSchema.safeParse(hash).success)
      throw new LevelError('not-valid', at, 'is not the SHA-256 of an asset')
    if (typeof value !== 'string') throw new LevelError('not-valid', at, 'is not base64 text')
    let raw: string
    try {
      raw = atob(value)
    } catch {
      throw new LevelError('not-valid', at, 'is not base64 text')
    }
    const bytes = new Uint8Array(raw.length)
    for (let k = 0; k < raw.length; k++) bytes[k] = raw.charCodeAt(k)
    assets.set(hash, bytes)
  }
  return { level, assets, run }
}

/** The top of a document, or what stands in its place for `readLevel` to refuse. */
const topOf = (document: unknown): Record<string, unknown> =>
  typeof document === 'object' && document !== null && !Array.isArray(document)
    ? (document as Record<string, unknown>)
    : (upgrade(document) as never)

function toBase64(bytes: Uint8Array): string {
  let raw = ''
  for (let k = 0; k < bytes.length; k += 0x8000) raw += String.fromCharCode(...bytes.subarray(k, k + 0x8000))
  return btoa(raw)
}
