import { provideAsset, hasAsset } from '@tidytrail/core/ground'
import { workerData } from 'node:worker_threads'
import { AssetStore } from '../store/assets'
import { connect } from '../store/database'
import { serve } from '../threads/serve'
import { JOB_KINDS, type JobKind } from './list'

const database = connect((workerData as { databaseUrl: string }).databaseUrl, 1)
const assets = new AssetStore(database)

serve(
  {
    async run(kind: JobKind, document: string, assetIds: readonly string[], input: never) {
      for (const hash of assetIds) {
        if (hasAsset(hash)) continue
        const parts: Buffer[] = []
        for await (const part of assets.bytes(hash)) parts.push(part)
        provideAsset(hash, new Uint8Array(Buffer.concat(parts)))
      }
      return JOB_KINDS[kind](document, input)
    },
    close: () => database.close(),
  },
  (line) => void process.stderr.write(`${line}\n`),
)
