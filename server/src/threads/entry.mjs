/**
 * Where every thread begins: TypeScript is made readable in it, and then its own file is run. On Linux a thread's
 * niceness is its own: the threads that compute give way to the one that answers.
 */
import { setPriority } from 'node:os'
import { workerData } from 'node:worker_threads'
import { register } from 'tsx/esm/api'

try {
  setPriority(5)
} catch {
  // Not allowed here; then it has the same as all.
}
register()
await import(workerData.file)
