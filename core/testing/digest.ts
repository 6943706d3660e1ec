/** A short text that is the same for what holds the same (FNV-1a; Fowler, Noll and Vo, 1991): quick to compare. */
export function digestOf(value: unknown): string {
  let hash = 0x811c9dc5
  const bytes = (all: Uint8Array) => {
    for (const byte of all) hash = Math.imul(hash ^ byte, 0x01000193)
  }
  const text = (s: string) => bytes(new TextEncoder().encode(s))
  const take = (inner: unknown): void => {
    if (ArrayBuffer.isView(inner)) {
      text(inner.constructor.name)
      bytes(new Uint8Array(inner.buffer, inner.byteOffset, inner.byteLength))
    } else if (inner instanceof Map) take([...inner])
    else if (typeof inner === 'object' && inner !== null) {
      for (const [key, of] of Object.entries(inner).sort(([a], [b]) => (a < b ? -1 : 1))) {
        text(`${key}:`)
        take(of)
      }
    } else text(`${String(inner)};`)
  }
  take(value)
  return (hash >>> 0).toString(16)
}
