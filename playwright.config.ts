import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { defineConfig } from '@playwright/test'
import { CHROMIUM } from './scripts/chromium'

const PORT = Number(process.env.TIDYTRAIL_TEST_PORT ?? 4391)
// The config is read once by the runner and once by each worker; only the runner's folder is used.
const data = process.env.TIDYTRAIL_TEST_DATA ?? mkdtempSync(path.join(tmpdir(), 'tidytrail-browser-'))
process.env.TIDYTRAIL_TEST_DATA = data

export default defineConfig({
  testDir: 'e2e',
  testIgnore: 'screenshots.spec.ts',
  outputDir: 'test-results',
  globalTeardown: './e2e/clean-up.ts',
  // Files side by side, as the server is meant to be used; tests of one file one after the other.
  workers: 2,
  // Long: a machine that is busy with something else is no fault of what is tested.
  timeout: 300_000,
  expect: { timeout: 60_000 },
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    // A trace of every test costs a quarter of the time: ask for it with `--trace on`.
    trace: 'off',
    launchOptions: CHROMIUM,
  },
  webServer: {
    command: 'node scripts/start.mjs',
    url: `http://127.0.0.1:${PORT}/api/health`,
    env: { TIDYTRAIL_PORT: String(PORT), TIDYTRAIL_DATA: data },
    timeout: 180_000,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 10_000 },
  },
})
