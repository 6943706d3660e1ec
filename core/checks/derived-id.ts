/** An id for a thing a fix makes: always the same for the same finding. */
export function derivedId(prefix: string, ...parts: (string | number)[]): string {
  return `${prefix}_${parts.map((p) => String(p).replace(/^[a-z]{2}_/, '')).join('')}`.slice(0, 34)
}
