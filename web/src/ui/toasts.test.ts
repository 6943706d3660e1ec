import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { dismiss, toast, toasts } from './toasts'

beforeEach(() => {
  vi.useFakeTimers()
  toasts.length = 0
})
afterEach(() => vi.useRealTimers())

it('goes by itself, and earlier when it is dismissed', () => {
  toast('One')
  toast('Two')
  dismiss(toasts[0].id)
  expect(toasts.map((t) => t.text)).toEqual(['Two'])
  vi.advanceTimersByTime(8_000)
  expect(toasts).toEqual([])
})

it('said again and again is said once, and stays as long again', () => {
  toast('Refused')
  vi.advanceTimersByTime(5_000)
  for (let k = 0; k < 50; k++) toast('Refused')
  expect(toasts).toHaveLength(1)
  vi.advanceTimersByTime(5_000)
  expect(toasts).toHaveLength(1)
  vi.advanceTimersByTime(3_000)
  expect(toasts).toEqual([])
})

it('with something to be done stays beside another of the same words', () => {
  const run = () => {}
  toast('Deleted', { action: { label: 'Undo', run } })
  toast('Deleted', { action: { label: 'Undo', run } })
  expect(toasts).toHaveLength(2)
})

it('makes room: of many the last four are shown', () => {
  for (let k = 0; k < 9; k++) toast(`${k}`)
  expect(toasts.map((t) => t.text)).toEqual(['5', '6', '7', '8'])
})
