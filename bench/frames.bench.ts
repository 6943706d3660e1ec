import { DEMO_LEVELS } from '@tidytrail/demo'
import { frames, openStage, shelve, withApp } from './app'
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
    const heap = await page.evaluate<number | undefined>('performance.memory?.usedJSHeapSize')
    if (heap)
      report({
        what: 'memory of the page with that level',
        measured: heap / 1048576,
        unit: 'MB',
        reference: 'its own heap, without the worker',
      })
  })
