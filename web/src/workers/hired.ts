import { wrap, type Remote } from 'comlink'

/** A worker at work: what can be asked of it, until it has ended. */
export interface Hired<T> {
  readonly remote: Remote<T>
  /** An answer of the worker; undefined when it ends before it has given one, so that nobody waits for ever. */
  ask<A>(answer: Promise<A>): Promise<A | undefined>
  end(): void
}

/** Sets a worker to work. @param failed called once, with why, when it breaks down */
export function hire<T>(worker: Worker, failed: (why: string) => void): Hired<T> {
  let over: () => void
  const ended = new Promise<undefined>((resolve) => (over = () => resolve(undefined)))
  let broken = false
  const breakDown = (why: string) => {
    over()
    if (!broken) failed(why)
    broken = true
  }
  worker.onerror = (event) =>
    breakDown(event.message?.replace(/^Uncaught (\w*Error: )?/, '') || 'it could not be started')
  worker.onmessageerror = () => breakDown('a message to it could not be read')
  return {
    remote: wrap<T>(worker),
    async ask(answer) {
      try {
        return await Promise.race([answer, ended])
      } catch (error) {
        breakDown(error instanceof Error ? error.message : String(error))
        return undefined
      }
    },
    end() {
      broken = true
      over()
      worker.terminate()
    },
  }
}
