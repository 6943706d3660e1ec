import { changeThings, type Solid } from '@tidytrail/core/level'
import { prisms, sceneLevel, strewnObstacles } from '@tidytrail/core/testing'
import { createPinia, setActivePinia } from 'pinia'
import { ref } from 'vue'
import { beforeEach, expect, it, vi } from 'vitest'
import { useLevelStore } from '../stores/level'
import { useRows } from './plain-register'

const LEVEL = sceneLevel(60, 60, prisms(strewnObstacles(60, 4, 2, 1.2)))
const tell = vi.fn((solid: Solid) => ({ detail: `${solid.heightM} m`, size: solid.heightM }))
let levels: ReturnType<typeof useLevelStore>
beforeEach(() => {
  setActivePinia(createPinia())
  tell.mockClear()
  levels = useLevelStore()
  levels.level = LEVEL
})

it('has a row for each thing, and tells one anew only when it is another', () => {
  const rows = useRows('solids', tell)
  const ids = Object.keys(levels.doc.solids)
  expect(rows.value.map((r) => r.id)).toEqual(ids)
  const before = rows.value
  tell.mockClear()
  levels.perform(changeThings, { in: 'solids', changes: { [ids[1]]: { heightM: 7.5 } } })
  expect(rows.value.find((r) => r.id === ids[1])).toMatchObject({ detail: '7.5 m', size: 7.5 })
  expect(tell.mock.calls.map(([, id]: unknown[]) => id)).toEqual([ids[1]])
  expect(rows.value[0]).toBe(before[0])
})

it('tells rows anew when something else they were told by is other', () => {
  const unit = ref('m')
  const rows = useRows('solids', (solid: Solid) => ({ detail: `${solid.heightM} ${unit.value}`, size: 0 }))
  expect(rows.value[0].detail).toMatch(/ m$/)
  unit.value = 'metres'
  expect(rows.value.every((r) => r.detail.endsWith(' metres'))).toBe(true)
})

it('leaves out what is gone', () => {
  const rows = useRows('solids', tell)
  const [first, ...rest] = rows.value.map((r) => r.id)
  const { [first]: _gone, ...solids } = levels.doc.solids
  levels.level = { ...levels.doc, solids }
  expect(rows.value.map((r) => r.id)).toEqual(rest)
})
