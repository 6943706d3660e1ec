// @vitest-environment happy-dom
import { withRoads } from '@tidytrail/core/testing'
import { laneNet, narrowsOf } from '@tidytrail/core/traffic'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'
import { nextTick } from 'vue'
import { useLevelStore } from '../../stores/level'
import { mounted } from '../../testing/mounted'
import PassingList from './PassingList.vue'

const doc = () => useLevelStore().doc
const narrows = () => narrowsOf(doc(), laneNet(doc())).length
const buttonIn = (host: HTMLElement, name: string) =>
  [...host.querySelectorAll('button')].find((b) => (b.textContent!.trim() || b.getAttribute('aria-label')) === name)!

beforeEach(() => {
  setActivePinia(createPinia())
  useLevelStore().level = withRoads({ a: { points: [[10, 50, 0], [210, 50, 0]], curve: 'straight', track: true } }) // prettier-ignore
})

it('adds each passing place in the middle of the longest stretch without one, and the lanes follow', async () => {
  const { host } = await mounted(PassingList, { id: 'rd_a' })
  expect(host.textContent).toContain('None: they pass each other at its ends alone.')
  expect(narrows()).toBe(1)
  buttonIn(host, 'Add a passing place').click()
  await nextTick()
  expect(doc().roads.rd_a.passing).toEqual([{ fromM: 90, toM: 110 }])
  expect(narrows()).toBe(2)
  buttonIn(host, 'Add a passing place').click()
  await nextTick()
  expect(doc().roads.rd_a.passing[1]).toEqual({ fromM: 35, toM: 55 })
  expect(host.querySelectorAll('[role=group]')).toHaveLength(2)
})

it('takes one away, which can be undone', async () => {
  const { host } = await mounted(PassingList, { id: 'rd_a' })
  buttonIn(host, 'Add a passing place').click()
  await nextTick()
  buttonIn(host, 'Take passing place 1 away').click()
  await nextTick()
  expect(narrows()).toBe(1)
  useLevelStore().undo()
  await nextTick()
  expect(narrows()).toBe(2)
})
