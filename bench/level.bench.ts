import { chromium } from '@playwright/test'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { build, preview } from 'vite'
import { CHROMIUM } from '../scripts/chromium'
import { quantile, report } from './measure'
import type { Measured, Moves } from './page/main'

const PORT = 4396
const ROOT = path.join(import.meta.dirname, 'page')

/** What is moved on the demo levels, and how soon its findings are to be there, ms. */
const MOVES: readonly (Moves & { readonly level: string; readonly budgets: Readonly<Record<string, number>> })[] = [
  {
    level: 'Lanternquay',
    slug: 'lanternquay',
    profileId: 'pf_warden',
    times: 60,
    moved: {
      'solid dragged': { id: 'sd_crate2', byM: 1 },
      'warehouse dragged': { id: 'sd_ware1', byM: 1 },
      'stop dragged': { id: 'wp_quayround5', byM: 0.5 },
    },
    budgets: { 'solid dragged': 50, 'warehouse dragged': 50, 'stop dragged': 50 },
  },
  {
    level: 'Wide Sallow',
    slug: 'wide-sallow',
    profileId: 'pf_warden',
    times: 40,
    moved: { 'stop moved': { id: 'wp_500x10', byM: 0.5 }, 'solid dragged': { id: 'sd_b801', byM: 1 } },
    budgets: { 'stop moved': 20, 'solid dragged': 50 },
  },
]

/** From an edit to what the page knows of it, in Chromium, with the workers and messages there are between the two. */
export async function benchLevel(): Promise<void> {
  const outDir = mkdtempSync(path.join(tmpdir(), 'tidytrail-level-'))
  const alias = [{ find: /^zod$/, replacement: path.join(import.meta.dirname, '../web/src/zod.ts') }]
  const shared = { root: ROOT, configFile: false as const, logLevel: 'error' as const }
  await build({
    ...shared,
    worker: { format: 'es' },
    resolve: { alias },
    build: { target: 'es2022', outDir, emptyOutDir: true },
  })
  const server = await preview({ ...shared, build: { outDir }, preview: { port: PORT, host: '127.0.0.1' } })
  const browser = await chromium.launch(CHROMIUM)
  try {
    for (const { level, budgets, ...moves } of MOVES) {
      const run = async (threads: 1 | 2): Promise<Measured> => {
        const page = await browser.newPage()
        await page.goto(`http://127.0.0.1:${PORT}/`)
        await page.waitForFunction('window.measure')
        const all = await page.evaluate(
          ([n, what]) =>
            (window as unknown as { measure: (n: number, what: Moves) => Promise<Measured> }).measure(n, what),
          [threads, moves] as const,
        )
        await page.close()
        return all
      }
      const measured = [await run(1), await run(2)] as const
      tell(level, measured, budgets)
    }
  } finally {
    await browser.close()
    await server.close()
    rmSync(outDir, { recursive: true, force: true })
  }
}

function tell(
  level: string,
  [one, two]: readonly [Measured, Measured],
  budgets: Readonly<Record<string, number>>,
): void {
  const inS = (ms: number) => (ms / 1000).toFixed(2)
  report({
    what: `${level} in the page: from cold, two threads`,
    measured: two.coldMs / 1000,
    unit: 's',
    reference: `one thread ${inS(one.coldMs)} s; reach seen first after ${inS(two.firstMs)} s (${inS(one.firstMs)} s)`,
  })
  for (const [name, budget] of Object.entries(budgets)) {
    const at = (of: 'findingsMs' | 'pictureMs', run: Measured, q: number) => quantile(run.edits[name][of], q).toFixed(0)
    report({
      what: `${level} in the page: ${name} to findings, 95th`,
      measured: quantile(two.edits[name].findingsMs, 0.95),
      unit: 'ms',
      budget,
      reference: `median ${at('findingsMs', two, 0.5)} ms; one thread ${at('findingsMs', one, 0.5)}, 95th ${at('findingsMs', one, 0.95)} ms`,
    })
    report({
      what: `${level} in the page: ${name} to the reach looked at, 95th`,
      measured: quantile(two.edits[name].pictureMs, 0.95),
      unit: 'ms',
      budget,
      reference: `median ${at('pictureMs', two, 0.5)} ms; one thread ${at('pictureMs', one, 0.5)}, 95th ${at('pictureMs', one, 0.95)} ms`,
    })
  }
}
