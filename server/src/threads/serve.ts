import { parentPort } from 'node:worker_threads'
import { problemOf, worthSaying } from '../http/problem'
import type { Answer, Call } from './thread'

/** Answers the calls that come to this thread by the functions of an object. */
export function serve(methods: Record<string, (...args: never[]) => unknown>, say: (line: string) => void): void {
  const port = parentPort
  if (!port) throw new Error('this is not a thread')
  port.on('message', ({ id, method, args }: Call) => {
    void (async () => {
      let answer: Answer
      const transfer: ArrayBuffer[] = []
      try {
        const value = await methods[method](...(args as never[]))
        for (const part of Object.values((value ?? {}) as object))
          if (part instanceof Uint8Array && part.buffer instanceof ArrayBuffer) transfer.push(part.buffer)
        answer = { id, value }
      } catch (error) {
        const problem = problemOf(error)
        if (problem.log && worthSaying(problem.log)) say(problem.log)
        answer = { id, problem: { status: problem.status, detail: problem.detail, more: problem.more } }
      }
      port.postMessage(answer, transfer)
    })()
  })
}
