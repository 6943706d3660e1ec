/** A pen for tests: it writes down what is drawn where, in window pixels, instead of drawing it. */
import type { Pen } from './pen'
import type { Viewport } from './viewport'

/** One call of the canvas: its name, what it was told, and in which colours. */
export interface Mark {
  readonly call: string
  readonly args: readonly unknown[]
  readonly stroke: string
  readonly fill: string
}

export function recordingPen(view: Viewport) {
  const all: Mark[] = []
  const state: Record<string, unknown> = { strokeStyle: '', fillStyle: '', canvas: {} }
  const c = new Proxy(state, {
    get(target, key: string) {
      if (key in target) return target[key]
      if (key === 'measureText') return (text: string) => ({ width: text.length * 6 })
      return (...args: unknown[]) => {
        all.push({ call: key, args, stroke: String(target.strokeStyle), fill: String(target.fillStyle) })
      }
    },
    set(target, key: string, value) {
      target[key] = value
      return true
    },
  })
  const named = new Proxy({}, { get: (_target, name: string) => name })
  const inks = { night: false, colour: named, textures: named, hatch: 'hatch', waves: 'waves' }
  const pen = { c, view, inks, ratio: 1 } as unknown as Pen
  return {
    pen,
    all,
    /** What a call was told, each time. */
    marks: (call: string) => all.filter((m) => m.call === call).map((m) => m.args as number[]),
    /** All words that were written. */
    words: () => all.filter((m) => m.call === 'fillText').map((m) => String(m.args[0])),
  }
}
