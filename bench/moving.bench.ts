import { DEMO_LEVELS } from '@tidytrail/demo'
import type { Page } from '@playwright/test'
import { frames, openStage, shelve, withApp } from './app'
import { crowd } from './crowds'
import { quantile, report } from './measure'
import { ALL_THERE_S, rings } from './rings'

/** Milliseconds from pressing R until the first frame of the run is on the page. */
const begin = (page: Page): Promise<number> =>
  page.evaluate(`new Promise((resolve) => {
    const store = document.querySelector('#app').__vue_app__.config.globalProperties.$pinia._s.get('rehearsal')
    const began = performance.now()
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'r', code: 'KeyR', bubbles: true }))
    const look = () => (store.frameCount > 0 ? resolve(performance.now() - began) : setTimeout(look, 1))
    look()
  })`)

/** Chooses a spawner, and waits until the map has been drawn with it. */
const choose = async (page: Page): Promise<void> => {
  await page.evaluate(`{
    const { _s } = document.querySelector('#app').__vue_app__.config.globalProperties.$pinia
    _s.get('sheet').choose([Object.keys(_s.get('level').level.spawners)[0]])
  }`)
  await page.waitForTimeout(3000)
}

/** Milliseconds from moving a spawner until what is found is up to date again. */
const edit = (page: Page): Promise<number> =>
  page.evaluate(`new Promise((resolve) => {
    const { _s } = document.querySelector('#app').__vue_app__.config.globalProperties.$pinia
    const [levels, survey] = ['level', 'survey'].map((s) => _s.get(s))
    const before = levels.level
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', code: 'ArrowRight', bubbles: true }))
    const began = performance.now()
    const look = () => {
      if (levels.level === before) return resolve(NaN)
      if (survey.upToDate || performance.now() - began > 5000) resolve(performance.now() - began)
      else setTimeout(look, 1)
    }
    setTimeout(look, 5)
  })`)

/** The page while a rehearsal is begun, runs, and is watched: the demo levels, 5,000 walkers and 2,000 vehicles. */
export const benchMoving = (): Promise<void> =>
  withApp(async (browser) => {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    const idle = await frames(page, 2000)
    for (const { name, make } of DEMO_LEVELS.filter((d) => d.onShelf)) {
      await openStage(page, await shelve(make()), 'rehearse')
      report({ what: `start of a rehearsal, ${name}`, measured: await begin(page), unit: 'ms', budget: 300 })
    }
    const level = crowd(5000, 224)
    level.settings.rehearseS = 60
    await openStage(page, await shelve(level), 'rehearse')
    report({ what: 'start of a rehearsal, 5,000 walkers', measured: await begin(page), unit: 'ms', budget: 1000 })
    await choose(page)
    const edits: number[] = []
    for (let k = 0; k < 5; k++) {
      edits.push(await edit(page))
      await page.waitForTimeout(400)
    }
    report({
      what: 'an edit until its findings, while 5,000 are rehearsed, median',
      measured: quantile(edits, 0.5),
      unit: 'ms',
      budget: 50,
    })
    await page.waitForTimeout(8000)
    await watch(page, '5,000 agents', idle)
    const driven = rings(2000)
    driven.settings.rehearseS = ALL_THERE_S + 30
    await openStage(page, await shelve(driven), 'rehearse')
    report({ what: 'start of a rehearsal, 2,000 vehicles', measured: await begin(page), unit: 'ms', budget: 1000 })
    await seekRecorded(page, ALL_THERE_S)
    await watch(page, '2,000 vehicles', idle)
  })

/** Waits until a moment is recorded, seconds, and shows it. */
const seekRecorded = (page: Page, toS: number): Promise<void> =>
  page.evaluate(`new Promise((resolve) => {
    const store = document.querySelector('#app').__vue_app__.config.globalProperties.$pinia._s.get('rehearsal')
    const look = () => (store.frameCount > ${toS * 10} ? resolve(store.seek(${toS})) : setTimeout(look, 50))
    look()
  })`)

/** Says how long frames take on the page as it is. */
async function watch(page: Page, who: string, idle: readonly number[]): Promise<void> {
  const times = await frames(page, 4000)
  report({
    what: `the page with ${who} moving: longest frame`,
    measured: Math.max(...times),
    unit: 'ms',
    budget: 33,
    reference: `median ${quantile(times, 0.5).toFixed(1)} ms, 95th ${quantile(times, 0.95).toFixed(1)} ms; an empty page ${quantile(idle, 0.5).toFixed(1)} ms`,
  })
}
