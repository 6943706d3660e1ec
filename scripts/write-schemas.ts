/** `npm run schema`: writes the schemas of files and interface to docs/, from what the program itself checks with. */
import { writeFileSync } from 'node:fs'
import path from 'node:path'
import { schemaDocuments } from './schemas'

for (const [name, text] of Object.entries(schemaDocuments())) {
  writeFileSync(path.resolve(import.meta.dirname, '../docs', name), text)
  process.stdout.write(`docs/${name}\n`)
}
