import { smallLevel } from '@tidytrail/core/testing'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'
import { useLevelStore } from '../../stores/level'
import { useSurveyStore } from '../../stores/survey'
import { islandRegister } from './islands'

let survey: ReturnType<typeof useSurveyStore>
const shown = () => {
  const { figure, empty, rows } = islandRegister.use()
  return { figure: figure.value, empty: empty.value, rows: rows.value.length }
}
beforeEach(() => {
  setActivePinia(createPinia())
  useLevelStore().level = smallLevel()
  survey = useSurveyStore()
})

it('says of a reach that is being worked out that it is, and not that there is none', () => {
  expect(shown()).toEqual({ figure: '…', empty: 'Where this profile can be is being worked out.', rows: 0 })
  survey.failed = 'out of memory'
  expect(shown().empty).toContain('the survey has stopped')
})

it('lists the islands as soon as they are known, before the checks are', () => {
  survey.reach = new Map([[survey.profileId!, { tiles: new Map(), islands: [{ areaM2: 12, at: [1, 2, 0] }] }]])
  expect(survey.standing).toBe('begun')
  expect(shown()).toMatchObject({ figure: '1 island', rows: 1 })
})
