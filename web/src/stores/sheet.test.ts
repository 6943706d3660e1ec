import { nextTick } from 'vue'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'
import { STAGE_NAMES, STAGES, useSheetStore } from './sheet'

let sheet: ReturnType<typeof useSheetStore>
beforeEach(() => {
  setActivePinia(createPinia())
  sheet = useSheetStore()
})

it('has a name for every stage, no two alike', () => {
  expect(new Set(STAGES.map((s) => STAGE_NAMES[s])).size).toBe(STAGES.length)
})

it('adds to what is chosen and takes away from it, in the order it was chosen', () => {
  sheet.choose(['a', 'b'])
  sheet.toggle('c')
  sheet.toggle('a')
  expect(sheet.selected).toEqual(['b', 'c'])
  expect(sheet.chosen).toBe('b')
  sheet.choose([])
  expect(sheet.chosen).toBeUndefined()
})

it('hides a layer of the legend and shows it again, and leaves the others', () => {
  expect(sheet.isShown('grid')).toBe(true)
  sheet.toggleLayer('grid')
  sheet.toggleLayer('names')
  expect([sheet.isShown('grid'), sheet.isShown('names'), sheet.isShown('ways')]).toEqual([false, false, true])
  sheet.toggleLayer('grid')
  expect([sheet.isShown('grid'), sheet.isShown('names')]).toEqual([true, false])
})

it('opens a closed drawer at the tab that is asked for', () => {
  sheet.panels.drawer = false
  sheet.openDrawer('changes')
  expect([sheet.panels.drawer, sheet.drawerTab]).toEqual([true, 'changes'])
})

it('brings what is asked for to the front, where there is room for one panel', async () => {
  expect(sheet.front).toBeUndefined()
  sheet.openDrawer('findings')
  expect(sheet.front).toBe('drawer')
  sheet.settling = ['wp_a']
  await nextTick()
  expect(sheet.front).toBe('card')
  sheet.front = 'register'
  sheet.settling = undefined
  await nextTick()
  // What ends takes nothing away.
  expect(sheet.front).toBe('register')
})
