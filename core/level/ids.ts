import type { Kind, Parts } from './kinds/kind'
import { KINDS } from './kinds/list'

type All = (typeof KINDS)[number]
type PartsOf<K> = K extends { readonly parts?: Parts<infer I> } ? I : never

/** What has ids of its own: things by their collections, and the parts of things. */
export type IdKind = All['in'] | PartsOf<All>

const prefixes = new Map<string, string>()
for (const kind of KINDS as readonly Kind[]) {
  prefixes.set(kind.in, kind.prefix)
  if (kind.parts) prefixes.set(kind.parts.in, kind.parts.prefix)
}

const LETTERS = 'abcdefghijkmnpqrstuvwxyz23456789'
const ID_LENGTH = 8

/**
 * A new id, such as `wp_k3v9xq2a`.
 * @param random gives a number in [0, 1); the core has no chance of its own
 */
export function newId(kind: IdKind, random: () => number): string {
  let id = `${prefixes.get(kind)}_`
  for (let i = 0; i < ID_LENGTH; i++) id += LETTERS[Math.floor(random() * LETTERS.length)]
  return id
}
