import { isCollection } from './kinds/collections'
import { levelSchema, type Level } from './schema'

/**
 * The text of a level file: two spaces deep, keys in a fixed order, lists of numbers and of plain words on one line, so
 * that a small change makes a small diff. Reading it gives the same level.
 */
export function writeLevelText(level: Level): string {
  const out: Record<string, unknown> = {}
  for (const key of Object.keys(levelSchema.shape)) {
    const value = level[key as keyof Level]
    out[key] = isCollection(key) ? sorted(value as Record<string, unknown>) : value
  }
  return `${print(out, '')}\n`
}

function sorted(record: Record<string, unknown>): Record<string, unknown> {
  return Object.fromEntries(Object.entries(record).sort(([a], [b]) => (a < b ? -1 : 1)))
}

function print(value: unknown, indent: string): string {
  if (typeof value !== 'object' || value === null) return JSON.stringify(value)
  const deeper = `${indent}  `
  if (Array.isArray(value)) {
    if (value.every((v) => typeof v !== 'object' || v === null))
      return `[${value.map((v) => JSON.stringify(v)).join(', ')}]`
    return `[\n${value.map((v) => deeper + print(v, deeper)).join(',\n')}\n${indent}]`
  }
  const entries = Object.entries(value).filter(([, v]) => v !== undefined)
  if (entries.length === 0) return '{}'
  return `{\n${entries.map(([k, v]) => `${deeper}${JSON.stringify(k)}: ${print(v, deeper)}`).join(',\n')}\n${indent}}`
}
