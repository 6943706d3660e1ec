/** Where every thread begins: TypeScript is made readable in it, and then its own file is run. */
import { workerData } from 'node:worker_threads'
import { register } from 'tsx/esm/api'

register()
await import(workerData.file)
