import { Worker } from 'node:worker_threads'
import { HttpProblem, lineOf, type ProblemMore } from '../http/problem'

/** What goes to a thread, and what comes back. */
export interface Call {
  readonly id: number
  readonly method: string
  readonly args: readonly unknown[]
}
export type Answer =
  | { readonly id: number; readonly value: unknown }
  | { readonly id: number; readonly problem: { status: number; detail: string; more: ProblemMore } }

interface Waiting {
  resolve(value: never): void
  reject(error: Error): void
  timer: NodeJS.Timeout | undefined
}

export interface ThreadOptions {
  /** Handed to the thread as its `workerData`. */
  data?: object
  /** How much memory its objects may take, MB. A thread that wants more ends, and nothing else does. */
  memoryMb?: number
  /** How long one call may take before the thread is ended, milliseconds. */
  timeoutMs?: number
  /** What is answered to whoever asked something the thread died of. */
  whenDied: { status: number; detail: string }
}

/** A thread that answers calls. One that dies is started again with the next call. */
export class Thread {
  private worker: Worker | undefined
  private readonly waiting = new Map<number, Waiting>()
  private last = 0

  constructor(
    private readonly file: URL,
    private readonly options: ThreadOptions,
  ) {}

  call<T>(method: string, args: readonly unknown[], transfer: readonly ArrayBuffer[] = []): Promise<T> {
    const id = ++this.last
    const worker = this.started()
    return new Promise<T>((resolve, reject) => {
      const { timeoutMs } = this.options
      const timer = timeoutMs === undefined ? undefined : setTimeout(() => void worker.terminate(), timeoutMs)
      this.waiting.set(id, { resolve, reject, timer })
      worker.postMessage({ id, method, args } satisfies Call, transfer as ArrayBuffer[])
    })
  }

  async stop(): Promise<void> {
    const { worker } = this
    if (!worker) return
    await this.call('close', []).catch(() => {})
    this.worker = undefined
    await worker.terminate()
  }

  /** Ends it whatever it is doing; whoever waits is told so. */
  async end(): Promise<void> {
    await this.worker?.terminate()
  }

  private started(): Worker {
    if (this.worker) return this.worker
    const { data, memoryMb } = this.options
    const worker = new Worker(new URL('./entry.mjs', import.meta.url), {
      workerData: { ...data, file: this.file.href },
      execArgv: [],
      ...(memoryMb ? { resourceLimits: { maxOldGenerationSizeMb: memoryMb } } : {}),
    })
    this.worker = worker
    worker.on('message', (answer: Answer) => {
      const waiting = this.waiting.get(answer.id)
      if (!waiting) return
      this.waiting.delete(answer.id)
      clearTimeout(waiting.timer)
      if ('value' in answer) waiting.resolve(answer.value as never)
      else waiting.reject(new HttpProblem(answer.problem.status, answer.problem.detail, answer.problem.more))
    })
    worker.on('error', (error) => this.died(worker, error))
    worker.on('exit', () => this.died(worker))
    return worker
  }

  private died(worker: Worker, error?: Error): void {
    if (this.worker !== worker) return
    if (error) process.stderr.write(`a thread of the server ended: ${lineOf(error)}\n`)
    this.worker = undefined
    for (const waiting of this.waiting.values()) {
      clearTimeout(waiting.timer)
      waiting.reject(new HttpProblem(this.options.whenDied.status, this.options.whenDied.detail))
    }
    this.waiting.clear()
  }
}
