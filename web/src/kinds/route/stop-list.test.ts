// @vitest-environment happy-dom
import { blankLevel, readLevel } from '@tidytrail/core/level'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'
import { nextTick } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { mounted } from '../../testing/mounted'
import StopList from './StopList.vue'

const order = Array.from({ length: 200 }, (_, k) => `st_${k}`)
beforeEach(() => {
  setActivePinia(createPinia())
  const levels = useLevelStore()
  levels.level = readLevel({
    ...blankLevel('Long'),
    waypoints: Object.fromEntries(
      order.map((_, k) => [`wp_${k}`, { at: [k / 2, 10, 0], name: k === 120 ? 'Bell' : '' }]),
    ),
    routes: {
      rt_a: { name: 'Long', stops: Object.fromEntries(order.map((s, k) => [s, { waypointId: `wp_${k}` }])), order },
    },
  })
})

it('a long list of stops has pages, says which it shows, and opens and reorders the right ones', async () => {
  const list = await mounted(StopList, { id: 'rt_a' })
  const rows = () => [...list.host.querySelectorAll('li')]
  const press = async (name: string) => {
    const button = [...list.host.querySelectorAll('button')].find((b) => b.textContent!.trim() === name)!
    button.click()
    await nextTick()
    return button
  }
  expect(rows()).toHaveLength(80)
  expect(list.host.textContent).toContain('1 to 80 of 200')
  await press('Later')
  expect(list.host.textContent).toContain('81 to 160 of 200')
  expect(rows()[40].textContent).toContain('121')
  expect(rows()[40].textContent).toContain('Bell')
  rows()[40].click()
  expect(useSheetStore().selected).toEqual(['st_120'])
  rows()[40].dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp', altKey: true }))
  expect(useLevelStore().doc.routes.rt_a.order.slice(119, 121)).toEqual(['st_120', 'st_119'])
  await press('Later')
  expect(rows()).toHaveLength(40)
  expect((await press('Later')).disabled).toBe(true)
  // A list that has become shorter shows what there is.
  const { doc } = useLevelStore()
  useLevelStore().level = { ...doc, routes: { rt_a: { ...doc.routes.rt_a, order: order.slice(0, 3) } } }
  await nextTick()
  expect(rows()).toHaveLength(3)
  list.end()
})
