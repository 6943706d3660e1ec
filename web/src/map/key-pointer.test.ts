import { beforeEach, expect, it } from 'vitest'
import type { MapPointer, Tool } from '../tools/tool'
import { keyPointer } from './key-pointer'

const PLAIN = { shiftKey: false, altKey: false }
let said: string[]
let moves: number
const toolOf = (id: string): Tool => ({
  id,
  label: id,
  key: id,
  stages: [],
  hint: '',
  cursor: 'crosshair',
  down: (p) => (said.push(`${id} down ${p.sx} ${p.sy}`), true),
  move: (p, dragging) => said.push(`${id} ${dragging ? 'drag' : 'move'} ${p.sx} ${p.sy}`),
  up: (p) => said.push(`${id} up ${p.sx} ${p.sy}`),
})
const box = toolOf('box')
let tool = box
const pointer = () =>
  keyPointer({
    tool: () => tool,
    at: (sx, sy, { shiftKey, altKey }) => ({ sx, sy, shift: shiftKey, alt: altKey }) as MapPointer,
    window: () => ({ width: 200, height: 100, step: 10 }),
    moved: () => void moves++,
  })
beforeEach(() => {
  said = []
  moves = 0
  tool = box
})

it('clicks where the arrows have led it, and nowhere before', () => {
  const keys = pointer()
  expect([keys.click(PLAIN), keys.hold(PLAIN)]).toEqual([false, false])
  keys.steer(1, 0, PLAIN)
  keys.steer(0, 1, PLAIN)
  expect(keys.click(PLAIN)).toBe(true)
  expect(said).toEqual(['box move 110 50', 'box move 110 40', 'box down 110 40', 'box up 110 40'])
  expect(moves).toBe(2)
})

it('drags while it is held, until it is let go of by either key, and stays in the window', () => {
  for (const end of ['hold', 'click'] as const) {
    said = []
    const keys = pointer()
    keys.steer(-1, 0, PLAIN)
    keys.hold(PLAIN)
    keys.steer(-20, -20, PLAIN)
    keys[end](PLAIN)
    keys.steer(1, 0, PLAIN)
    expect(said).toEqual(['box move 90 50', 'box down 90 50', 'box drag 4 96', 'box up 4 96', 'box move 14 96'])
  }
})

it('broken off it lets go of nothing, and another tool is not dragged with', () => {
  const keys = pointer()
  keys.steer(1, 0, PLAIN)
  keys.hold(PLAIN)
  expect(keys.release()).toBe(box)
  expect(keys.release()).toBeUndefined()
  keys.steer(1, 0, PLAIN)
  tool = toolOf('ramp')
  keys.hold(PLAIN)
  tool = box
  keys.steer(1, 0, PLAIN)
  expect(said.slice(1)).toEqual(['box down 110 50', 'box move 120 50', 'ramp down 120 50', 'box move 130 50'])
})

it('is put in the middle of the window and taken away again, and hands on which keys are held beside', () => {
  const keys = pointer()
  keys.put(true)
  expect([keys.placed, moves]).toEqual([true, 1])
  const told: boolean[][] = []
  tool = { ...box, down: (p) => (told.push([p.shift, p.alt]), true) }
  keys.hold({ shiftKey: false, altKey: true })
  keys.hold(PLAIN)
  keys.hold({ shiftKey: true, altKey: false })
  expect(told).toEqual([
    [false, true],
    [true, false],
  ])
  keys.put(false)
  expect([keys.placed, keys.click(PLAIN)]).toEqual([false, false])
})
