import { reactive } from 'vue'

export interface Toast {
  id: number
  text: string
  kind: 'plain' | 'alarm'
  /** What can be done about it, for as long as that is so. */
  action?: { label: string; run: () => void; valid?: () => boolean }
}

const SHOWN_MS = 8_000
let last = 0

export const toasts = reactive<Toast[]>([])

/** Shows a line at the foot of the page for a while, with an action such as "Undo" where there is one. */
export function toast(text: string, options: { kind?: Toast['kind']; action?: Toast['action'] } = {}): void {
  const id = ++last
  // The same said again, as with every move of a hand, is said once, and stays as long again.
  const again = toasts.findIndex((t) => t.text === text && !t.action)
  if (again >= 0 && !options.action) toasts.splice(again, 1)
  toasts.push({ id, text, kind: options.kind ?? 'plain', action: options.action })
  if (toasts.length > 4) toasts.shift()
  setTimeout(() => dismiss(id), SHOWN_MS)
}

export function dismiss(id: number): void {
  const at = toasts.findIndex((t) => t.id === id)
  if (at >= 0) toasts.splice(at, 1)
}
