import { DEMO_LEVELS } from '@tidytrail/demo'
import { frames, openStage, shelve, URL, withApp } from './app'
import { quantile, report } from './measure'

/** Frames while the map of 20,000 waypoints is panned, in a browser, beside a page that draws nothing. */
export const benchFrames = (): Promise<void> =>
  withApp(async (browser) => {
    const level = DEMO_LEVELS.find((d) => d.slug === 'wide-sallow')!.make()
    const id = await shelve(level)
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    const idle = await frames(page, 2000)
    await openStage(page, id, 'routes')
    for (const [what, zooms] of [
      ['whole level', 0],
      ['a quarter', 4],
      ['close by', 12],
    ] as const) {
      await page.mouse.move(620, 420)
      for (let k = 0; k < zooms; k++) await page.mouse.wheel(0, -120)
      await page.waitForTimeout(500)
      await page.mouse.down({ button: 'middle' })
      const measured = frames(page, 3000)
      for (let k = 0; k < 60; k++) await page.mouse.move(620 + 160 * Math.sin(k / 6), 420 + 90 * Math.cos(k / 6))
      const times = await measured
      await page.mouse.up({ button: 'middle' })
      report({
        what: `panning 20,000 waypoints, ${what}: frames a second`,
        measured: Math.round(1000 / quantile(times, 0.5)),
        unit: '/s',
        budget: 60,
        less: false,
        reference: `median ${quantile(times, 0.5).toFixed(1)} ms, 95th ${quantile(times, 0.95).toFixed(1)} ms, longest ${Math.max(...times).toFixed(0)} ms; an empty page ${(1000 / quantile(idle, 0.5)).toFixed(0)} /s`,
      })
      for (let k = 0; k < zooms; k++) await page.mouse.wheel(0, 120)
    }
    /** Reports the frames while something is done. */
    const during = async (what: string, act: () => Promise<unknown>) => {
      const measured = frames(page, 3000)
      await act()
      const times = await measured
      report({
        what: `${what}: longest frame`,
        measured: Math.max(...times),
        unit: 'ms',
        // Two frames of sixty a second, as the browser rounds them.
        budget: 33.5,
        reference: `median ${quantile(times, 0.5).toFixed(1)} ms, 95th ${quantile(times, 0.95).toFixed(1)} ms`,
      })
    }
    await page.waitForTimeout(1000)
    await during('zooming 20,000 waypoints', async () => {
      for (let k = 0; k < 40; k++) {
        await page.mouse.wheel(0, k < 20 ? -60 : 60)
        await page.waitForTimeout(40)
      }
    })
    // A solid is taken in the middle of the map and dragged about.
    await page.keyboard.press('1')
    for (let k = 0; k < 8; k++) await page.mouse.wheel(0, -120)
    await page.waitForTimeout(1500)
    await page.evaluate(`(() => {
      const stores = document.querySelector('#app').__vue_app__.config.globalProperties.$pinia._s
      const [[id]] = Object.entries(stores.get('level').level.solids).filter(([, s]) => s.shape === 'box')
      stores.get('sheet').choose([id])
    })()`)
    await page.keyboard.press('f')
    await page.waitForTimeout(2000)
    await during('nudging a solid among 20,000 waypoints', async () => {
      for (let k = 0; k < 20; k++) {
        await page.keyboard.press(k % 2 ? 'ArrowLeft' : 'ArrowRight')
        await page.waitForTimeout(80)
      }
    })
    // The same level from cold: panned while its survey comes in.
    await page.goto(`${URL}/levels/${id}/reach`)
    await page.getByTestId('map').waitFor()
    await page.waitForTimeout(2500)
    await page.mouse.move(620, 420)
    await page.mouse.down({ button: 'middle' })
    await during('panning while the survey comes in', async () => {
      for (let k = 0; k < 60; k++) await page.mouse.move(620 + 160 * Math.sin(k / 6), 420 + 90 * Math.cos(k / 6))
    })
    await page.mouse.up({ button: 'middle' })
    const heap = await page.evaluate<number | undefined>('performance.memory?.usedJSHeapSize')
    if (heap)
      report({
        what: 'memory of the page with that level',
        measured: heap / 1048576,
        unit: 'MB',
        reference: 'its own heap, without the worker',
      })
  })
