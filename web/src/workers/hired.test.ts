import { expect, it, vi } from 'vitest'

vi.mock('comlink', () => ({ wrap: () => ({}) }))
const { hire } = await import('./hired')

class FakeWorker {
  onerror: ((event: { message: string }) => void) | null = null
  onmessageerror: (() => void) | null = null
  ended = false
  terminate() {
    this.ended = true
  }
}
const never = new Promise<number>(() => {})

function hired() {
  const worker = new FakeWorker()
  const told: string[] = []
  return { worker, told, ...hire(worker as unknown as Worker, (why) => told.push(why)) }
}

it('gives the answers of a worker that works', async () => {
  const { ask, told } = hired()
  expect(await ask(Promise.resolve(7))).toBe(7)
  expect(told).toEqual([])
})

it('says why a worker broke down, once, and lets nobody wait for it', async () => {
  const { worker, ask, told } = hired()
  const waiting = ask(never)
  worker.onerror!({ message: 'Uncaught RangeError: out of memory' })
  worker.onmessageerror!()
  expect(await waiting).toBeUndefined()
  expect(await ask(never)).toBeUndefined()
  expect(told).toEqual(['out of memory'])
})

it('takes an answer that is an error for a breakdown', async () => {
  const { ask, told } = hired()
  expect(await ask(Promise.reject(new Error('no such tile')))).toBeUndefined()
  expect(told).toEqual(['no such tile'])
})

it('ends quietly when it is sent home', async () => {
  const { worker, ask, end, told } = hired()
  const waiting = ask(never)
  end()
  worker.onerror!({ message: 'late' })
  expect(await waiting).toBeUndefined()
  expect(worker.ended).toBe(true)
  expect(told).toEqual([])
})
