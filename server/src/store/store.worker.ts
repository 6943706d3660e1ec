import { workerData } from 'node:worker_threads'
import { serve } from '../threads/serve'
import { connect } from './database'
import { LevelStore } from './levels'

const say = (line: string) => void process.stderr.write(`${line}\n`)
const database = connect((workerData as { databaseUrl: string }).databaseUrl)
const store = new LevelStore(database, say)

serve(
  {
    list: () => store.list(),
    summary: (id: string) => store.summary(id),
    read: (id: string) => store.read(id),
    revision: (id: string) => store.revision(id),
    add: (name: string, document: Uint8Array, assetIds: string[]) =>
      store.add(name, new TextDecoder().decode(document), assetIds),
    addCopy: (of: string) => store.addCopy(of),
    patchBytes: (id: string, base: number, body: Uint8Array, editId: string | null) =>
      store.patchBytes(id, base, body, editId),
    revisions: (id: string, since: number) => store.revisions(id, since),
    remove: (id: string, expected?: number) => store.remove(id, expected),
    restore: (id: string) => store.restore(id),
    ready: () => {},
    close: () => database.close(),
  },
  say,
)
