import { availableParallelism } from 'node:os'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

/** A test of the core that sets another module in the place of one. */
const MOCKING = 'core/level/kinds/kinds.test.ts'
const setupFiles = ['scripts/property-seed.ts']

export default defineConfig({
  test: {
    // All cores: by default one is kept for a person who works beside it, which on two is half the machine.
    maxWorkers: availableParallelism(),
    projects: [
      {
        test: {
          name: 'core',
          setupFiles,
          include: ['{core,contract,demo,cli,scripts}/**/*.test.ts'],
          exclude: ['**/node_modules/**', MOCKING],
          testTimeout: 150_000,
          // Nothing there is set by one test and read by another, and the core is loaded and compiled once.
          isolate: false,
        },
      },
      {
        plugins: [vue()],
        test: {
          name: 'web',
          setupFiles,
          include: ['web/**/*.test.ts', MOCKING],
          exclude: ['**/node_modules/**'],
          testTimeout: 150_000,
        },
      },
      {
        test: {
          name: 'server',
          setupFiles,
          include: ['{server,bench}/**/*.test.ts'],
          exclude: ['**/node_modules/**'],
          testTimeout: 120_000,
          hookTimeout: 120_000,
          fileParallelism: false,
        },
      },
    ],
  },
})
