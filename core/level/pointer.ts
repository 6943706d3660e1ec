/** JSON Pointers (RFC 6901), and the operations of a JSON Patch (RFC 6902) that lead by them. */

/** One operation of a JSON Patch, limited to the three an edit is made of. */
export type PatchOp = { op: 'add' | 'replace'; path: string; value: unknown } | { op: 'remove'; path: string }

const escape = (key: string) => (/[~/]/.test(key) ? key.replaceAll('~', '~0').replaceAll('/', '~1') : key)
const unescape = (key: string) => (key.includes('~') ? key.replaceAll('~1', '/').replaceAll('~0', '~') : key)

/** The JSON Pointer that leads through some keys. */
export function pointerOf(keys: readonly string[]): string {
  let path = ''
  for (const key of keys) path += `/${escape(key)}`
  return path
}

/** The keys a JSON Pointer leads through. */
export function pointerKeys(path: string): string[] {
  return path === '' ? [] : path.slice(1).split('/').map(unescape)
}

export function child(value: unknown, key: string): unknown {
  return typeof value === 'object' && value !== null ? (value as Record<string, unknown>)[key] : undefined
}

export function valueAt(value: unknown, keys: readonly string[]): unknown {
  let inside = value
  for (const key of keys) inside = child(inside, key)
  return inside
}

const within = (p: string, q: string) => p === q || q.startsWith(`${p}/`)

/** Do two places touch: are they the same, or does one lie within the other? */
export const placesTouch = (p: string, q: string): boolean => within(p, q) || within(q, p)

/**
 * The place an operation writes, for comparing patches: the list as a whole where it adds to one or takes from it, for
 * then all that follows stands elsewhere.
 */
export const writtenPath = ({ op, path }: { readonly op: string; readonly path: string }): string =>
  op !== 'replace' && op !== 'test' && /\/(\d+|-)$/.test(path) ? path.slice(0, path.lastIndexOf('/')) : path
