// @vitest-environment happy-dom
import { smallLevel } from '@tidytrail/core/testing'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { useLevelStore } from '../stores/level'
import { useSurveyStore } from '../stores/survey'
import { mounted } from '../testing/mounted'
import TodoCard from './cards/TodoCard.vue'
import DrawerPanel from './drawer/DrawerPanel.vue'
import StageTrail from './StageTrail.vue'

vi.stubGlobal('fetch', () => new Promise(() => {}))

let survey: ReturnType<typeof useSurveyStore>
beforeEach(() => {
  setActivePinia(createPinia())
  useLevelStore().level = smallLevel()
  survey = useSurveyStore()
})

/** What the three places that speak of the checks say of the stage of routes, and how many stages bear a tick. */
async function said() {
  const [trail, card, drawer] = await Promise.all([StageTrail, TodoCard, DrawerPanel].map((c) => mounted(c)))
  const heads = [card, drawer].map((m) => m.host.querySelector('h2')!.textContent!.trim())
  const stage = [...trail.host.querySelectorAll('button')].find((b) => b.textContent!.includes('Routes'))!
  const ticks = trail.host.querySelectorAll('button svg').length
  for (const m of [trail, card, drawer]) m.end()
  return { heads, stage: stage.getAttribute('aria-label'), ticks }
}

it('nothing is called in order before the checks have run for the first time', async () => {
  survey.sent = 1
  expect(await said()).toEqual({
    heads: ['Being checked', 'The checks are being run'],
    stage: 'Routes, being checked',
    ticks: 0,
  })
})

it('a level the checks know is in order where they found nothing', async () => {
  survey.sent = survey.seen = 1
  expect(await said()).toEqual({
    heads: ['Nothing to mend here', 'The checks find nothing wrong'],
    stage: 'Routes, nothing wrong',
    ticks: 4,
  })
})

it('nothing flickers while an edit is being checked', async () => {
  survey.seen = 1
  survey.sent = 2
  expect(await said()).toMatchObject({ stage: 'Routes, nothing wrong', ticks: 4 })
})

it('nothing is called in order once the checks have stopped short of it', async () => {
  survey.seen = 1
  survey.sent = 2
  survey.failed = 'out of memory'
  expect(await said()).toEqual({
    heads: ['Not checked', 'The checks have stopped'],
    stage: 'Routes, not checked',
    ticks: 0,
  })
})
