// A thread of Node that is written in TypeScript: which one is told when it is started.
import { register } from 'tsx/esm/api'
import { workerData } from 'node:worker_threads'

register()
await import(workerData)
