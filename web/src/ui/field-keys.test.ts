// @vitest-environment happy-dom
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { defineComponent, h } from 'vue'
import { mounted } from '../testing/mounted'
import { useFieldKeys } from './field-keys'

const heard = vi.fn()
let page: Awaited<ReturnType<typeof mounted>>
beforeEach(async () => {
  setActivePinia(createPinia())
  heard.mockClear()
  page = await mounted(
    defineComponent({
      setup() {
        useFieldKeys()
        return () => [
          h('input', { 'aria-label': 'name', value: 'Quay', onInput: heard }),
          h('form', h('input', { 'aria-label': 'reason', value: '' })),
          h('input', { 'aria-label': 'search', type: 'search', value: 'abc' }),
        ]
      },
    }),
  )
})
afterEach(() => page.end())
const press = (field: HTMLElement, key: string) =>
  field.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }))

it('Escape takes back what was typed in a field and gives the keys back', () => {
  const field = page.field('name')
  field.focus()
  field.dispatchEvent(new FocusEvent('focusin', { bubbles: true }))
  field.value = 'Quay round'
  press(field, 'Escape')
  expect(field.value).toBe('Quay')
  expect(heard).toHaveBeenCalledOnce()
  expect(document.activeElement).not.toBe(field)
})

it('Enter gives the keys back and keeps what was typed', () => {
  const field = page.field('name')
  field.focus()
  field.value = 'Quay round'
  press(field, 'Enter')
  expect(field.value).toBe('Quay round')
  expect(document.activeElement).not.toBe(field)
})

it('forms and searches have their own use for both', () => {
  for (const label of ['reason', 'search']) {
    const field = page.field(label)
    field.focus()
    press(field, 'Enter')
    press(field, 'Escape')
    expect(document.activeElement).toBe(field)
  }
})
