// @vitest-environment happy-dom
import { addThing, markerSchema } from '@tidytrail/core/level'
import { smallLevel } from '@tidytrail/core/testing'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { defineComponent, nextTick } from 'vue'
import { useLevelStore } from '../stores/level'
import { useSheetStore } from '../stores/sheet'
import { mounted } from '../testing/mounted'
import { toasts } from '../ui/toasts'
import { useChoice } from './choice'
import { useLiveChoice } from './live-choice'

vi.stubGlobal('fetch', () => new Promise(() => {}))

beforeEach(() => {
  setActivePinia(createPinia())
  useLevelStore().level = smallLevel()
  toasts.length = 0
})
const marker = (locked = false) => markerSchema.parse({ name: 'Bell', at: [1, 1, 0], locked })
const add = (id: string, locked = false) =>
  useLevelStore().perform(addThing, { in: 'markers', id, thing: marker(locked) })

it('what was chosen and is undone is let go of, and what else is chosen stays so', async () => {
  const [levels, sheet] = [useLevelStore(), useSheetStore()]
  const { end } = await mounted(defineComponent({ setup: () => (useLiveChoice(), () => null) }))
  add('mk_a')
  add('mk_b')
  sheet.choose(['mk_a', 'mk_b', 'agent#1'])
  levels.undo()
  await nextTick()
  expect(sheet.selected).toEqual(['mk_a', 'agent#1'])
  end()
})

it('all there is to choose on a stage is what its register lists, without the locked', () => {
  const [levels, sheet] = [useLevelStore(), useSheetStore()]
  sheet.stage = 'routes'
  useChoice().all()
  expect(sheet.selected).toEqual(Object.keys(levels.doc.routes))
  // Once a route is chosen, its stops.
  const [routeId] = Object.keys(levels.doc.routes)
  sheet.choose([routeId])
  useChoice().all()
  expect(sheet.selected).toEqual(levels.doc.routes[routeId].order)
  sheet.stage = 'cast'
  useChoice().all()
  expect(sheet.selected).toEqual(Object.keys(levels.doc.spawners))
})

it('deleting leaves what is locked, and says so', () => {
  const [levels, sheet] = [useLevelStore(), useSheetStore()]
  add('mk_a', true)
  add('mk_b')
  sheet.choose(['mk_a', 'mk_b'])
  useChoice().remove()
  expect(Object.keys(levels.doc.markers)).toEqual(['mk_a'])
  expect(toasts.some((t) => t.text.includes('locked'))).toBe(true)
})
