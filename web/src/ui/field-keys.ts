import { useEventListener } from '@vueuse/core'

const LINES = ['text', 'number', '']

/** Is it a field of one line on the sheet itself? Dialogs, forms and searches have a use of their own for these keys. */
function lineOf(target: EventTarget | null): HTMLInputElement | undefined {
  if (!(target instanceof HTMLInputElement) || !LINES.includes(target.getAttribute('type') ?? '')) return undefined
  return target.form || target.inputMode === 'decimal' || target.closest('[role="dialog"]') ? undefined : target
}

/**
 * Enter and Escape give the keys back to the map from any field of one line, Escape taking back what was typed; fields
 * for numbers do it themselves.
 */
export function useFieldKeys(): void {
  const began = new WeakMap<HTMLInputElement, string>()
  useEventListener(window, 'focusin', (event) => {
    const field = lineOf(event.target)
    if (field) began.set(field, field.value)
  })
  useEventListener(
    window,
    'keydown',
    (event: KeyboardEvent) => {
      const field = lineOf(event.target)
      if (!field || (event.key !== 'Enter' && event.key !== 'Escape')) return
      if (event.key === 'Escape') {
        event.stopPropagation()
        field.value = began.get(field) ?? field.value
        field.dispatchEvent(new Event('input', { bubbles: true }))
      }
      field.blur()
    },
    { capture: true },
  )
}
