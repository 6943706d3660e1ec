import { readFileSync } from 'node:fs'
import { availableParallelism } from 'node:os'
import vue from '@vitejs/plugin-vue'
import { globSync } from 'tinyglobby'
import { defineConfig } from 'vitest/config'

const exclude = ['**/node_modules/**']
const OF_CORE = ['{core,contract,demo,cli,scripts}/**/*.test.ts']
const OF_WEB = ['web/**/*.test.ts']
const having = (text: RegExp) =>
  globSync([...OF_CORE, ...OF_WEB], { ignore: exclude }).filter((file) => text.test(readFileSync(file, 'utf8')))

/** Tests that set another module in the place of one: each has its modules to itself. All others share their modules, loaded once. */
const APART = having(/\bvi\.mock\(/)
/** Tests of what is drawn in a page. */
const IN_PAGE = having(/^\/\/ @vitest-environment happy-dom/)

/**
 * Node loads the modules itself: in Vite's own runner each use of what another module exports is a call, by which tests that
 * reckon take two and a half times as long. Not for tests with parts drawn in a page, nor for those that set modules in the place of others.
 */
const native = { execArgv: ['--import', 'tsx'], experimental: { viteModuleRunner: false } }
const shared = { setupFiles: ['scripts/property-seed.ts'], testTimeout: 150_000 }
const plugins = [vue()]

export default defineConfig({
  test: {
    // All cores: by default one is kept for a person who works beside it, which on two is half the machine.
    maxWorkers: availableParallelism(),
    projects: [
      {
        test: { ...shared, ...native, name: 'core', include: OF_CORE, exclude: [...exclude, ...APART], isolate: false },
      },
      {
        plugins,
        test: { ...shared, name: 'web', include: OF_WEB, exclude: [...exclude, ...APART, ...IN_PAGE], isolate: false },
      },
      {
        plugins,
        test: {
          ...shared,
          name: 'page',
          include: IN_PAGE,
          exclude: [...exclude, ...APART],
          environment: 'happy-dom',
          isolate: false,
        },
      },
      { plugins, test: { ...shared, name: 'apart', include: APART, exclude } },
      {
        test: {
          ...shared,
          ...native,
          name: 'server',
          include: ['{server,bench}/**/*.test.ts'],
          exclude,
          testTimeout: 120_000,
          hookTimeout: 120_000,
          fileParallelism: false,
        },
      },
    ],
  },
})
