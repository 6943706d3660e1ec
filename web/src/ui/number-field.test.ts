// @vitest-environment happy-dom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick, reactive } from 'vue'
import { mounted } from '../testing/mounted'
import NumberField from './NumberField.vue'

beforeEach(() => setActivePinia(createPinia()))

/** A field for a number that is kept as it is changed, and the keys that reach the page behind it. */
async function field(more: object = {}) {
  const changes: number[] = []
  const props = reactive({
    label: 'wide',
    value: 2 as number | null,
    onChange(v: number) {
      changes.push(v)
      props.value = v
    },
    ...more,
  })
  const at = await mounted(NumberField, props)
  const input = at.field('wide')
  return {
    ...at,
    input,
    changes,
    props,
    async write(text: string) {
      input.focus()
      input.value = text
      input.dispatchEvent(new Event('input'))
      await nextTick()
    },
    async press(key: string) {
      input.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))
      await nextTick()
      await nextTick()
    },
  }
}

describe('a field for a number', () => {
  it('takes what was typed with Enter, once, and gives the keys back', async () => {
    const f = await field()
    await f.write('1e1 + 2')
    await f.press('Enter')
    expect(f.changes).toEqual([12])
    expect(document.activeElement).not.toBe(f.input)
    expect(f.input.value).toBe('12')
    f.end()
  })

  it('takes back what was typed with Escape, and leaving it then changes nothing', async () => {
    const f = await field()
    await f.write('99')
    await f.press('Escape')
    expect([f.changes, f.input.value]).toEqual([[], '2'])
    expect(document.activeElement).not.toBe(f.input)
    f.input.dispatchEvent(new Event('blur'))
    expect(f.changes).toEqual([])
    f.end()
  })

  it('keeps Escape to itself only while there is something to take back', async () => {
    const f = await field()
    const heard = vi.fn()
    document.body.addEventListener('keydown', heard)
    await f.write('99')
    await f.press('Escape')
    expect(heard).not.toHaveBeenCalled()
    await f.press('Escape')
    expect(heard).toHaveBeenCalledOnce()
    document.body.removeEventListener('keydown', heard)
    f.end()
  })

  it('says what it made of a number beyond its limits, and of what is none', async () => {
    const f = await field({ min: 0, max: 5 })
    await f.write('70')
    await f.press('Enter')
    expect([f.changes, f.input.value]).toEqual([[5], '5'])
    expect(f.host.textContent).toContain('5 is the most')
    await f.write('wide')
    await f.press('Enter')
    expect(f.host.textContent).toContain('not a number')
    expect(f.input.getAttribute('aria-invalid')).toBe('true')
    // What is wrong is still there to be mended.
    expect(document.activeElement).toBe(f.input)
    expect(f.changes).toEqual([5])
    f.end()
  })

  it('shows what was put back from outside, and does not commit what it showed before', async () => {
    const f = await field()
    await f.write('7')
    await f.press('Enter')
    f.props.value = 2
    await nextTick()
    f.input.focus()
    f.input.dispatchEvent(new Event('blur'))
    expect([f.changes, f.input.value]).toEqual([[7], '2'])
    f.end()
  })
})

describe('the dial of a bearing', () => {
  it('is turned by the arrow keys, round and round', async () => {
    const f = await field({ dial: true, value: 359 })
    const dial = f.host.querySelector('[role=slider]')!
    const press = (key: string, shiftKey = false) =>
      dial.dispatchEvent(new KeyboardEvent('keydown', { key, shiftKey, bubbles: true }))
    press('ArrowRight')
    await nextTick()
    expect(f.changes).toEqual([0])
    expect(dial.getAttribute('aria-valuenow')).toBe('0')
    press('ArrowLeft', true)
    expect(f.changes).toEqual([0, 355])
    f.end()
  })
})
