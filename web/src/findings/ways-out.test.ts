// @vitest-environment happy-dom
import type { Finding, Fix } from '@tidytrail/core/checks'
import { readLevel } from '@tidytrail/core/level'
import { smallLevel } from '@tidytrail/core/testing'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { useLevelStore } from '../stores/level'
import { useSheetStore } from '../stores/sheet'
import { useSurveyStore } from '../stores/survey'
import { mounted } from '../testing/mounted'
import { previewFix } from './mend'
import WaysOut from './WaysOut.vue'

vi.stubGlobal('fetch', () => new Promise(() => {}))
let survey: ReturnType<typeof useSurveyStore>
beforeEach(() => {
  setActivePinia(createPinia())
  useLevelStore().level = readLevel(smallLevel())
  survey = useSurveyStore()
})

const move: Fix = { label: 'Move the stop', edit: 'movePlaces', args: { places: { wp_a: [12, 12, 0] } } }
const ladder: Fix = {
  label: 'Put a ladder there',
  edit: 'addAndSet',
  args: {
    label: 'Put a ladder there',
    add: [{ in: 'passages', id: 'pg_n', thing: { from: [1, 1, 0], to: [2, 1, 1] } }],
    set: [],
  },
}
const step: Fix = {
  label: 'Let Warden step 1.00 m',
  edit: 'changeThings',
  args: { in: 'profiles', changes: { pf_warden: { stepM: 1 } } },
}
const finding: Finding = {
  check: 'route.leg-blocked',
  severity: 'blocker',
  stage: 'routes',
  subjects: ['rt_a'],
  at: [0, 0, 0],
  message: 'Warden cannot walk leg 1 to 2.',
  fix: move,
  ways: [ladder, step],
}
const key = 'route.leg-blocked rt_a'

it('shows nothing that has not been tried, then the first that helps, and the others when asked', async () => {
  const { host, button, end } = await mounted(WaysOut, { finding })
  const labels = () => [...host.querySelectorAll('button')].map((b) => b.textContent?.trim())
  expect(labels()).toEqual([])
  expect(host.textContent).toContain('Trying what helps …')
  survey.offers = new Map([[key, [move, ladder]]])
  await nextTick()
  expect(labels()).toEqual(['Move the stop', 'Other ways …'])
  const all = vi.spyOn(survey, 'tryAllWays').mockImplementation(async () => {
    survey.offers = new Map([[key, [move, ladder, step]]])
    return [move, ladder, step]
  })
  button('Other ways …').click()
  await vi.waitFor(() => expect(labels()).toEqual(['Move the stop', 'Put a ladder there', 'Let Warden step 1.00 m']))
  expect(all).toHaveBeenCalledOnce()
  end()
})

it('asks for no others where there is but one and nothing is left to try', async () => {
  const only = { ...finding, ways: [] }
  survey.offers = new Map([[key, [move]]])
  const { host, end } = await mounted(WaysOut, { finding: only })
  expect([...host.querySelectorAll('button')].map((b) => b.textContent?.trim())).toEqual(['Move the stop'])
  end()
})

it('shows on the map what a way out would do', () => {
  const sheet = useSheetStore()
  previewFix(move)
  expect(sheet.ghosts).toMatchObject([{ to: [12, 12, 0] }])
  previewFix(ladder)
  expect(sheet.sketch).toContainEqual({
    bare: true,
    line: [
      [1, 1, 0],
      [2, 1, 1],
    ],
  })
})
