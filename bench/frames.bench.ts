import { DEMO_LEVELS } from '@tidytrail/demo'
import { writeLevelText } from '@tidytrail/core/level'
import { chromium, type Page } from '@playwright/test'
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { quantile, report } from './measure'

const PORT = 4397
const URL = `http://127.0.0.1:${PORT}`
/** Chromium draws without a graphics card here, so that figures are those of a slow machine. */
const FLAGS = [
  '--no-sandbox',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]

/** Frames while the map of 20,000 waypoints is panned, in a browser, beside a page that draws nothing. */
export async function benchFrames(): Promise<void> {
  const data = mkdtempSync(path.join(tmpdir(), 'tidytrail-frames-'))
  const server = spawn(process.execPath, ['scripts/start.mjs'], {
    env: { ...process.env, TIDYTRAIL_PORT: String(PORT), TIDYTRAIL_DATA: data },
    stdio: 'ignore',
  })
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: FLAGS })
  try {
    await up()
    const level = DEMO_LEVELS.find((d) => d.slug === 'wide-sallow')!.make()
    const answer = await fetch(`${URL}/api/levels`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: URL },
      body: `{"document":${writeLevelText(level)}}`,
    })
    if (!answer.ok) throw new Error(`the level was refused: ${answer.status} ${await answer.text()}`)
    const { id } = (await answer.json()) as { id: string }
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    const idle = await frames(page, 2000)
    await page.goto(`${URL}/levels/${id}/routes`)
    await page.getByTestId('map').waitFor()
    // Until the survey has been made, the drawing of its reach comes between.
    await page.waitForFunction(() => !document.body.innerText.includes('The checks are being run'), null, {
      timeout: 300_000,
    })
    await page.waitForTimeout(2000)
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
        reference: `median ${quantile(times, 0.5).toFixed(1)} ms, 95th ${quantile(times, 0.95).toFixed(1)} ms; an empty page ${(1000 / quantile(idle, 0.5)).toFixed(0)} /s`,
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
  } finally {
    await browser.close()
    server.kill('SIGTERM')
    await new Promise((resolve) => server.once('exit', resolve))
    rmSync(data, { recursive: true, force: true })
  }
}

async function up(): Promise<void> {
  for (let k = 0; k < 240; k++) {
    try {
      if ((await fetch(`${URL}/api/health`)).ok) return
    } catch {
      // Not yet.
    }
    await new Promise((resolve) => setTimeout(resolve, 1000))
  }
  throw new Error('the server did not come up within four minutes')
}

/** Times between the frames the page is given, ms. As text, so that it reaches the page untouched by the loader. */
const frames = (page: Page, forMs: number): Promise<number[]> =>
  page.evaluate(`new Promise((resolve) => {
    const times = []
    const end = performance.now() + ${forMs}
    let last = 0
    const step = (now) => {
      if (last > 0) times.push(now - last)
      last = now
      if (now < end) requestAnimationFrame(step)
      else resolve(times)
    }
    requestAnimationFrame(step)
  })`)
