// @vitest-environment happy-dom
import { withRoutes, type Place } from '@tidytrail/core/testing'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { useLevelStore } from '../../../stores/level'
import { useSheetStore } from '../../../stores/sheet'
import { mounted } from '../../../testing/mounted'
import LayPanel from './LayPanel.vue'

vi.stubGlobal('fetch', () => new Promise(() => {}))
const bend: Place[] = [
  [10, 30, 0],
  [40, 30, 0],
  [41, 31, 0],
  [41, 55, 0],
]
let levels: ReturnType<typeof useLevelStore>
let sheet: ReturnType<typeof useSheetStore>
beforeEach(() => {
  setActivePinia(createPinia())
  levels = useLevelStore()
  sheet = useSheetStore()
  levels.level = withRoutes({ a: { at: bend, name: 'Beat', travel: 'one-way', legs: 'drawn', curve: 'smooth' } })
  sheet.choose(['rt_a'])
})

it('a copy beside a smooth route is shown before it is laid, and says where a loop is cut', async () => {
  sheet.laying = 'beside'
  const { host, type, button, end } = await mounted(LayPanel)
  await type('to the left by, m', '-1')
  await vi.waitFor(() => expect(sheet.sketch).toHaveLength(1))
  expect(host.querySelector('[role=status]')).toBeNull()
  await type('to the left by, m', '4')
  await vi.waitFor(() => expect(host.querySelector('[role=status]')?.textContent).toContain('its loop is cut near 37.'))
  const label = [...host.querySelectorAll('footer button')][0].textContent!.trim()
  expect(label).toMatch(/^Lay \d+ stops$/)
  button(label).click()
  await nextTick()
  const made = Object.values(levels.doc.routes).find((r) => r.name === 'Beat beside')!
  expect(made).toMatchObject({ curve: 'smooth', legs: 'drawn' })
  expect(made.order.filter((s) => made.stops[s].sharp)).toHaveLength(1)
  expect(sheet.laying).toBeUndefined()
  end()
})

it('says what to choose where nothing is chosen that it could work with', async () => {
  sheet.choose([])
  sheet.laying = 'beside'
  const { host, end } = await mounted(LayPanel)
  expect(host.textContent).toContain('Choose a route.')
  expect(sheet.sketch).toEqual([])
  end()
})
