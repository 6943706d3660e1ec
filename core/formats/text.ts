/**
 * The letters of a text file: UTF-8, or UTF-16 where its first letters say so, as some programs write.
 * @param bytes with or without a mark of their order
 */
export function textOf(bytes: Uint8Array): string {
  const [a, b, c, d] = bytes
  if (a === 0xff && b === 0xfe) return new TextDecoder('utf-16le').decode(bytes)
  if (a === 0xfe && b === 0xff) return new TextDecoder('utf-16be').decode(bytes)
  // Without a mark, Latin letters have every other byte nought.
  if (b === 0 && d === 0 && a !== 0 && c !== 0) return new TextDecoder('utf-16le').decode(bytes)
  if (a === 0 && c === 0 && b !== 0 && d !== 0) return new TextDecoder('utf-16be').decode(bytes)
  return new TextDecoder().decode(bytes)
}
