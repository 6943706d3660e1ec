import { parse, type ParseError } from 'jsonc-parser'
import { LevelError } from './error'
import { errorOf, tellable } from './faults'
import { COLLECTIONS, kindIn } from './kinds/collections'
import { LIMITS } from './limits'
import { isHostileKey } from './operate'
import { assertReferences } from './references'
import { levelSchema, type Collection, type Level } from './schema'
import { upgrade } from './upgrade'

/** Greatest size of a level file, in UTF-16 units of its text. */
export const MAX_LEVEL_TEXT = 96 * 1024 * 1024
const MAX_DEPTH = 16
const MAX_VALUES = 20_000_000

/**
 * A level from the text of a `*.tidytrail.json` file.
 * @throws LevelError that names the place of the first fault
 */
export function readLevelText(text: string): Level {
  return readLevel(parseLevelText(text))
}

/** The document a level file holds, not yet looked at. @throws LevelError when it is too large or no JSON */
export function parseLevelText(text: string): unknown {
  if (text.length > MAX_LEVEL_TEXT) {
    const mb = (n: number) => Math.round(n / 1024 / 1024)
    throw new LevelError(
      'too-large',
      '',
      `the file has ${mb(text.length)} MB; at most ${mb(MAX_LEVEL_TEXT)} MB are read`,
    )
  }
  assertShallow(text)
  let document: unknown
  try {
    document = JSON.parse(text.charCodeAt(0) === 0xfeff ? text.slice(1) : text)
  } catch {
    throw new LevelError('not-json', placeOfFault(text), 'this is not JSON')
  }
  return document
}

/**
 * A level from a parsed document of any version.
 * @throws LevelError that names the place of the first fault
 */
export function readLevel(document: unknown): Level {
  assertTame(document)
  const current = upgrade(document)
  assertCounts(current)
  const result = levelSchema.safeParse(current)
  if (!result.success) throw errorOf(result.error)
  assertReferences(result.data)
  return result.data
}

/** How deep the text of a document may be nested; a level needs a dozen. */
const MAX_TEXT_DEPTH = 64

/**
 * Refuses text nested deeper than any level is, before a parser spends time and memory on it. Takes text, or its UTF-8
 * bytes.
 * @throws LevelError that names the place
 */
export function assertShallow(text: string | Uint8Array): void {
  const codeAt = typeof text === 'string' ? (k: number) => text.charCodeAt(k) : (k: number) => text[k]
  let depth = 0
  let inString = false
  for (let k = 0; k < text.length; k++) {
    const c = codeAt(k)
    if (inString) {
      if (c === 0x5c) k++
      else if (c === 0x22) inString = false
    } else if (c === 0x22) inString = true
    else if (c === 0x5b || c === 0x7b) {
      if (++depth > MAX_TEXT_DEPTH)
        throw new LevelError('not-valid', `character ${k + 1}`, `is nested deeper than ${MAX_TEXT_DEPTH} levels`)
    } else if (c === 0x5d || c === 0x7d) depth--
  }
}

/** How many things a collection may hold. */
export const mostThings = (collection: Collection): number => kindIn(collection).most ?? LIMITS.things

/** Refuses collections with too many things before each of them is looked at. */
function assertCounts(document: Record<string, unknown>): void {
  for (const collection of COLLECTIONS) {
    const things = document[collection]
    const most = mostThings(collection)
    const count = typeof things === 'object' && things !== null ? Object.keys(things).length : 0
    if (count > most) throw new LevelError('too-large', collection, `holds ${count} things; at most ${most} are read`)
  }
}

/** Refuses keys that could reach a prototype, and documents too deep or too big to be a level. */
export function assertTame(document: unknown, from = ''): void {
  let values = 0
  const visit = (value: unknown, at: string, depth: number): void => {
    if (++values > MAX_VALUES) throw new LevelError('too-large', at, `the document holds over ${MAX_VALUES} values`)
    if (typeof value !== 'object' || value === null) return
    if (depth > MAX_DEPTH) throw new LevelError('not-valid', at, `is nested deeper than ${MAX_DEPTH} levels`)
    if (Array.isArray(value)) {
      for (let i = 0; i < value.length; i++) {
        if (typeof value[i] === 'object') visit(value[i], `${at}.${i}`, depth + 1)
        else values++
      }
      return
    }
    for (const key of Object.keys(value)) {
      const place = at ? `${at}.${tellable(key)}` : tellable(key)
      const inside = (value as Record<string, unknown>)[key]
      // Nothing in a level has such a length, and checks of lists would compare it.
      if (key === 'length' && typeof inside === 'object') throw new LevelError('not-valid', place, 'is not known here')
      if (isHostileKey(key)) throw new LevelError('hostile-key', place, 'this key is not allowed')
      visit(inside, place, depth + 1)
    }
  }
  visit(document, from, 0)
}

/** Line and column of the first fault in a text that is not JSON; engines do not agree on telling it. */
function placeOfFault(text: string): string {
  const errors: ParseError[] = []
  parse(text, errors, { disallowComments: true })
  const before = text.slice(0, errors[0]?.offset ?? text.length)
  return `line ${before.split('\n').length}, column ${before.length - before.lastIndexOf('\n')}`
}
