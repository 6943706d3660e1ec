import { readFileSync } from 'node:fs'
import path from 'node:path'
import { expect, it } from 'vitest'
import { schemaDocuments } from './schemas'

it.each(Object.entries(schemaDocuments()))(
  'docs/%s is what the program says; `npm run schema` brings it up to date',
  (name, text) => {
    expect(readFileSync(path.resolve(import.meta.dirname, '../docs', name), 'utf8')).toBe(text)
  },
)
