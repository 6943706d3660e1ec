import type { Level } from '@tidytrail/core/level'
import { writeLevelText } from '@tidytrail/core/level'
import { chromium, type Browser, type Page } from '@playwright/test'
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { CHROMIUM } from '../scripts/chromium'

const PORT = 4397
export const URL = `http://127.0.0.1:${PORT}`
/** Runs with the application served from a store of its own, and a browser. */
export async function withApp(work: (browser: Browser) => Promise<void>): Promise<void> {
  const data = mkdtempSync(path.join(tmpdir(), 'tidytrail-frames-'))
  const server = spawn(process.execPath, ['scripts/start.mjs'], {
    env: { ...process.env, TIDYTRAIL_PORT: String(PORT), TIDYTRAIL_DATA: data },
    stdio: 'ignore',
  })
  const browser = await chromium.launch(CHROMIUM)
  try {
    await up()
    await work(browser)
  } finally {
    await browser.close()
    server.kill('SIGTERM')
    await new Promise((resolve) => server.once('exit', resolve))
    rmSync(data, { recursive: true, force: true })
  }
}

/** Puts a level on the shelf. @returns its id */
export async function shelve(level: Level): Promise<string> {
  const answer = await fetch(`${URL}/api/levels`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: URL },
    body: `{"document":${writeLevelText(level)}}`,
  })
  if (!answer.ok) throw new Error(`the level was refused: ${answer.status} ${await answer.text()}`)
  return ((await answer.json()) as { id: string }).id
}

/** Opens a level at a stage, and waits until its survey has been made: until then the drawing of its reach comes between. */
export async function openStage(page: Page, id: string, stage: string): Promise<void> {
  await page.goto(`${URL}/levels/${id}/${stage}`)
  await page.getByTestId('map').waitFor()
  const known = `document.querySelector('#app').__vue_app__.config.globalProperties.$pinia._s.get('survey')?.upToDate`
  while (!(await page.evaluate(known))) await page.waitForTimeout(200)
  await page.waitForTimeout(2000)
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
export const frames = (page: Page, forMs: number): Promise<number[]> =>
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
