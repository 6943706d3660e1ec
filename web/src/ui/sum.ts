/**
 * The value of a number or a sum as people type them: "12.5", "3 + 4*2", "1,5", "1e3", "(2+3)/4". Undefined when it is none.
 */
export function sumOf(text: string): number | undefined {
  const tokens = text.replaceAll(',', '.').match(/(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?|[-+*/()]/gi)
  if (!tokens || tokens.join('') !== text.replaceAll(',', '.').replace(/\s+/g, '')) return undefined
  let at = 0
  const factor = (): number => {
    const token = tokens[at++]
    if (token === '-') return -factor()
    if (token === '+') return factor()
    if (token === '(') {
      const value = terms()
      return tokens[at++] === ')' ? value : NaN
    }
    return token !== undefined && /^[\d.]/.test(token) ? Number(token) : NaN
  }
  const product = (): number => {
    let value = factor()
    while (tokens[at] === '*' || tokens[at] === '/') value = tokens[at++] === '*' ? value * factor() : value / factor()
    return value
  }
  const terms = (): number => {
    let value = product()
    while (tokens[at] === '+' || tokens[at] === '-')
      value = tokens[at++] === '+' ? value + product() : value - product()
    return value
  }
  const value = terms()
  return at === tokens.length && Number.isFinite(value) ? value : undefined
}
