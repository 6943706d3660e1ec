import { makeTiler } from '@tidytrail/web'
import { expose, transfer } from 'comlink'
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs'
import { parentPort } from 'node:worker_threads'

// The page's second thread, as a thread of Node.
expose(makeTiler(transfer), nodeEndpoint(parentPort!))
