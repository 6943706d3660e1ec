// @vitest-environment happy-dom
import { WAGON, withLanes } from '@tidytrail/core/testing'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'
import { nextTick } from 'vue'
import { useLevelStore } from '../../stores/level'
import { mounted } from '../../testing/mounted'
import HaltList from './HaltList.vue'

const halts = () => useLevelStore().doc.routes.rt_a.halts
const buttonIn = (host: HTMLElement, name: string) =>
  [...host.querySelectorAll('button')].find((b) => (b.textContent!.trim() || b.getAttribute('aria-label')) === name)!

beforeEach(() => {
  setActivePinia(createPinia())
  useLevelStore().level = withLanes({ a: [[10, 50, 0], [110, 50, 0]] }) // prettier-ignore
})

it('adds a platform in the middle of the lane, and takes it away; each is one step to undo', async () => {
  const { host } = await mounted(HaltList, { id: 'rt_a' })
  buttonIn(host, 'Add a platform').click()
  await nextTick()
  expect(halts()).toMatchObject([{ where: 'on', fromM: 40, toM: 60, share: 1 }])
  expect(host.textContent).toContain('Platform')
  buttonIn(host, 'Take it away, 1').click()
  await nextTick()
  expect(halts()).toEqual([])
  useLevelStore().undo()
  expect(halts()).toHaveLength(1)
  useLevelStore().undo()
  expect(halts()).toEqual([])
})

it('adds parking on the side that is driven on, and says how many places there are', async () => {
  const { host } = await mounted(HaltList, { id: 'rt_a' })
  buttonIn(host, 'Add parking').click()
  await nextTick()
  expect(halts()).toMatchObject([{ where: 'left', fromM: 29, toM: 71, placeM: 7 }])
  expect(host.textContent).toContain('6 parking places on the left')
  useLevelStore().level = { ...useLevelStore().doc, settings: { ...useLevelStore().doc.settings, drivesOn: 'right' } }
  await nextTick()
  buttonIn(host, 'Add parking').click()
  await nextTick()
  expect(halts()[1]).toMatchObject({ where: 'right' })
})

it('lets each be told for how long and for whom, and keeps the others as they are', async () => {
  const level = useLevelStore().doc
  useLevelStore().level = { ...level, profiles: { pf_cart: { ...WAGON, name: 'Cart' } } } // prettier-ignore
  const { host } = await mounted(HaltList, { id: 'rt_a' })
  buttonIn(host, 'Add a platform').click()
  buttonIn(host, 'Add parking').click()
  await nextTick()
  const [first] = host.querySelectorAll<HTMLInputElement>('[role=group] input[type=checkbox]')
  first.click()
  await nextTick()
  expect(halts().map((h) => h.profileIds)).toEqual([['pf_cart'], []])
  const least = [...host.querySelectorAll<HTMLInputElement>('[role=group] input')].find((i) => /stand at least/.test(i.getAttribute('aria-label') ?? i.closest('label')?.textContent ?? ''))! // prettier-ignore
  least.value = '35'
  least.dispatchEvent(new Event('input'))
  least.dispatchEvent(new Event('blur'))
  await nextTick()
  expect(halts()[0].minS).toBe(35)
  expect(halts()[1].minS).toBe(20)
})
