import { assertShallow, assetIdsOf, LevelError, readLevel } from '@tidytrail/core/level'
import { newLevelSchema } from '@tidytrail/contract'
import { HttpProblem } from '../http/problem'
import { validOr } from '../http/valid'

/** What a request for a new level asks for, read and made sure of. */
export type NewLevel =
  | { readonly blank: string }
  | { readonly copyOf: string }
  /** The document is UTF-8 JSON: bytes change threads without being copied. */
  | { readonly name: string; readonly document: Uint8Array<ArrayBuffer>; readonly assetIds: readonly string[] }

/**
 * Reads a request for a new level.
 * @throws HttpProblem 400 when it is no such request, LevelError when its document is no level
 */
export function readNewLevel(body: Uint8Array): NewLevel {
  let request: unknown
  try {
    assertShallow(body)
    request = JSON.parse(new TextDecoder().decode(body))
  } catch (error) {
    if (error instanceof LevelError) throw error
    throw new HttpProblem(400, 'the request is not JSON')
  }
  const asked = validOr(newLevelSchema, request, 'a new level')
  if ('blank' in asked) return { blank: asked.blank.name }
  if ('copyOf' in asked) return { copyOf: asked.copyOf }
  const level = readLevel(asked.document)
  return { name: level.name, document: new TextEncoder().encode(JSON.stringify(level)), assetIds: assetIdsOf(level) }
}
